import { useEffect, useRef } from 'react';
import { flushSync } from 'react-dom';
import { columnName } from '../../core/derive/table.ts';
import type { Value } from '../../core/value/value.ts';
import { later } from '../../ui/Later.tsx';
import { fetchAhead } from '../../ui/loaded.ts';
import type { ValueContext } from './context.ts';

/** The editor of formulas is large and comes when a formula is there, or may be. */
const load = () => import('./FormulaInput.tsx').then((m) => m.FormulaInput);
const FormulaInput = later(load);

/** A formula, with the names that it may use. */
export function Formula({
  value,
  context,
  onChange,
  label,
  focus = false,
}: {
  value: Extract<Value, { formula: unknown }>;
  context: ValueContext;
  onChange: (value: Value) => void;
  label: string;
  /** It is what was just begun: what is typed next goes into it. */
  focus?: boolean;
}) {
  const ofRow = (context.columns ?? []).map(columnName);
  const names = new Map([
    ...ofRow.map((n) => [n, n] as const),
    ...context.defs.map((d) => [d.key, d.label] as const),
    ...Object.keys(context.inputs).map((n) => [n, context.inputNames?.get(n) ?? n] as const),
  ]);
  return (
    <FormulaInput
      text={value.formula}
      names={names}
      label={label}
      focus={focus}
      onChange={(formula) => onChange({ ...value, formula })}
    />
  );
}

/**
 * What a line calls with all that was typed of a formula in it so far. It has what is typed until the formula's own editor can: none
 * of it is lost, however fast.
 */
export function useBegin(onFormula: (text: string) => void): (text: string) => void {
  const typed = useRef('');
  useEffect(() => void fetchAhead(load), []);
  return (text) => {
    typed.current = text;
    void fetchAhead(load).then(() => flushSync(() => onFormula(typed.current)));
  };
}

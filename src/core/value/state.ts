import type { Quality } from '../board/values.ts';
import { innerValues, namesIn, type Value } from './value.ts';

/** Whether what a binding asks for is said by somebody now, stands there as a sample, or is nowhere. */
export type BindingState = 'live' | 'sample' | 'missing';

/** What is known of what a binding may ask for; null where there is no such thing. */
export interface StateSource {
  field(key: string): Quality | null;
  /** How many rows a table has. */
  table(key: string): number | null;
  inputs: ReadonlySet<string>;
}

/**
 * How a Value stands: `missing` where something that it asks for is nowhere, `sample` where the board says nothing of it yet (an
 * input holds its sample until an item fills it in), else `live`. Of cases and formulas, which may ask for what only some sports
 * have, something has to be there.
 */
export function bindingState(value: Value, known: StateSource): BindingState {
  const states = statesIn(value, known);
  const lenient = 'choose' in value || 'formula' in value;
  const there = lenient ? states.filter((s) => s !== 'missing') : [];
  return worstOf(there.length ? there : states) ?? 'sample';
}

const stateOf = (quality: Quality | null): BindingState =>
  quality === null ? 'missing' : quality === 'none' ? 'sample' : 'live';

function statesIn(value: Value, known: StateSource): BindingState[] {
  if ('field' in value) return [stateOf(known.field(value.field))];
  if ('input' in value) return [known.inputs.has(value.input) ? 'sample' : 'missing'];
  if ('formula' in value) return [...namesIn(value).fields].map((key) => stateOf(known.field(key)));
  const inner = innerValues(value)
    .filter((v) => !('fixed' in v))
    .flatMap((v) => ('choose' in value ? statesIn(v, known) : [bindingState(v, known)]));
  if (!('lookup' in value)) return inner;
  const rows = known.table(value.lookup.table);
  return [
    rows === null ? 'missing' : rows === 0 ? 'sample' : 'live',
    ...inner.filter((s) => s === 'missing'),
  ];
}

/** The worst of some states. */
export const worstOf = (states: readonly BindingState[]): BindingState | null =>
  (['missing', 'sample', 'live'] as const).find((s) => states.includes(s)) ?? null;

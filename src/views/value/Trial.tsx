import { useState } from 'react';
import { fedBy } from '../../core/patch/patch.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { typedText } from '../../core/sport/typed.ts';
import { isClock } from '../../core/board/values.ts';
import { evaluate, namesIn, troubleIn, type Scope, type Value } from '../../core/value/value.ts';
import { RowChooser } from './RowChooser.tsx';
import { rowScope, sampleScope, type ValueContext } from './context.ts';
import css from './ValueEditor.module.css';

interface Props {
  value: Value;
  context: ValueContext;
}

/** What a value gives: of what holds now, of a sample that is typed or was captured, or of any row of its tables. */
export function Trial({ value, context }: Props) {
  const [from, setFrom] = useState('now');
  const [typed, setTyped] = useState<Record<string, string>>({});
  const [row, setRow] = useState('');
  const names = namesIn(value);
  const asked = [...names.inputs, ...names.fields];
  const tables = context.tables.filter((t) => names.tables.has(t.key));
  const table = tables.find((t) => from === `row ${t.key}`);
  const nameOf = (key: string) => context.defs.find((d) => d.key === key)?.label ?? key;
  const textOf = (key: string) =>
    typed[key] ?? typedText(names.inputs.has(key) ? (context.inputs[key] ?? null) : context.scope.field(key));

  let scope: Scope = context.scope;
  let problem: string | null = null;
  const chosen = table && (table.rows.find(([key]) => key === row) ?? table.rows[0]);
  if (table) scope = chosen ? rowScope(scope, table.key, chosen[1]) : scope;
  else if (from === 'captured' && context.captured) scope = sampleScope(context, context.captured).scope;
  else if (from === 'typed')
    ({ scope, problem } = sampleScope(context, Object.fromEntries(asked.map((key) => [key, textOf(key)]))));
  return (
    <div className={css['trial']}>
      <Result value={value} scope={scope} feeds={context.feeds} />
      {(asked.length > 0 || tables.length > 0) && (
        <label>
          of{' '}
          <select value={from} aria-label="Result of" onChange={(e) => setFrom(e.target.value)}>
            <option value="now">{context.now}</option>
            {context.captured && <option value="captured">the captured sample</option>}
            {asked.length > 0 && <option value="typed">a sample, typed</option>}
            {tables.map((t) => (
              <option key={t.key} value={`row ${t.key}`}>
                a row of {t.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {from === 'typed' &&
        asked.map((key) => (
          <label key={key}>
            {nameOf(key)}{' '}
            <input
              value={textOf(key)}
              size={10}
              aria-label={`Sample of ${nameOf(key)}`}
              onChange={(e) => setTyped({ ...typed, [key]: e.target.value })}
            />
          </label>
        ))}
      {table && (
        <RowChooser
          rows={table.rows}
          chosen={chosen?.[0] ?? ''}
          label={`Row of ${table.name}`}
          onChoose={setRow}
        />
      )}
      {problem && (
        <span className={css['wrong']} role="status">
          {problem}.
        </span>
      )}
    </div>
  );
}

/** Says what a value gives in a scope: its content, or why it has none. */
function Result({ value, scope, feeds }: { value: Value; scope: Scope; feeds: FieldDef | undefined }) {
  const made = evaluate(value, scope);
  const fed = feeds && !isClock(made) ? fedBy(feeds, made) : { value: made };
  const trouble = troubleIn(value, scope) ?? ('problem' in fed ? fed.problem : null);
  const now = 'value' in fed ? fed.value : null;
  return (
    <output className={css['result']} data-trouble={trouble !== null} aria-label="Result">
      {trouble ?? (isClock(now) && !feeds ? 'a clock' : typedText(now) || 'blank')}
    </output>
  );
}

import { ChevronLeft, ChevronRight, Plus, X } from 'lucide-react';
import { columnName } from '../../core/derive/table.ts';
import type { Format } from '../../core/value/format.ts';
import type { Case, Value } from '../../core/value/value.ts';
import { Button } from '../../ui/Button.tsx';
import {
  KINDS,
  kindOf,
  readCondition,
  valueOfKind,
  writeCondition,
  type Kind,
  type ValueContext,
} from './context.ts';
import { FormatPicker } from './FormatPicker.tsx';
import { tip } from '../../ui/tip.ts';
import css from './ValueEditor.module.css';
import { later } from '../../ui/Later.tsx';

/** The editor of formulas is large and comes when a formula is there. */
const FormulaInput = later(() => import('./FormulaInput.tsx').then((m) => m.FormulaInput));

interface Props {
  value: Value;
  context: ValueContext;
  onChange: (value: Value) => void;
  label: string;
}

/** The one editor for what gives a property its content: a text, a field, pieces, cases, a look-up or a formula. */
export function ValueEditor({ value, context, onChange, label }: Props) {
  const kind = kindOf(value);
  const format = 'format' in value ? value.format : undefined;
  // Only what there is something to choose from.
  const offered: Partial<Record<Kind, boolean>> = {
    input: Object.keys(context.inputs).length > 0,
    field: context.defs.length > 0,
    lookup: context.tables.length > 0,
  };
  const kinds = Object.entries(KINDS).filter(([k]) => k === kind || (offered[k as Kind] ?? true));
  return (
    <div className={css['value']} role="group" aria-label={label}>
      <select
        value={kind}
        aria-label={`Kind of ${label}`}
        onChange={(e) => onChange(valueOfKind(e.target.value as Kind, value, context))}
      >
        {kinds.map(([k, name]) => (
          <option key={k} value={k}>
            {name}
          </option>
        ))}
      </select>
      <Body value={value} context={context} onChange={onChange} label={label} />
      {kind !== 'fixed' && (
        <FormatPicker
          format={format}
          onChange={(next) => {
            const { format: _, ...rest } = value as Value & { format?: Format };
            onChange((next === undefined ? rest : { ...rest, format: next }) as Value);
          }}
        />
      )}
    </div>
  );
}

function Body({ value, context, onChange, label }: Props) {
  const ofRow = (context.columns ?? []).map(columnName);
  if ('fixed' in value)
    return (
      <input
        value={String(value.fixed ?? '')}
        aria-label={`Text of ${label}`}
        size={Math.max(4, String(value.fixed ?? '').length)}
        onChange={(e) => {
          const text = e.target.value;
          const plain = typeof value.fixed === 'number' && text !== '' && String(Number(text)) === text;
          onChange({ fixed: plain ? Number(text) : text });
        }}
      />
    );
  if ('field' in value)
    return (
      <select
        value={value.field}
        aria-label={`Field of ${label}`}
        onChange={(e) => onChange({ ...value, field: e.target.value })}
      >
        {!context.defs.some((d) => d.key === value.field) && !ofRow.includes(value.field) && (
          <option value={value.field}>{value.field} (not on the board)</option>
        )}
        {ofRow.length > 0 && (
          <optgroup label="columns">
            {context.columns!.map((c) => (
              <option key={c} value={columnName(c)}>
                {c}
              </option>
            ))}
          </optgroup>
        )}
        {[...new Set(context.defs.map((d) => d.group))].map((group) => (
          <optgroup key={group} label={group}>
            {context.defs
              .filter((d) => d.group === group)
              .map((d) => (
                <option key={d.key} value={d.key}>
                  {d.label}
                </option>
              ))}
          </optgroup>
        ))}
      </select>
    );
  if ('input' in value)
    return (
      <select
        value={value.input}
        aria-label={`Input of ${label}`}
        onChange={(e) => onChange({ ...value, input: e.target.value })}
      >
        {Object.keys(context.inputs).map((key) => (
          <option key={key}>{key}</option>
        ))}
      </select>
    );
  if ('pieces' in value) return <Pieces value={value} context={context} onChange={onChange} label={label} />;
  if ('choose' in value) return <Choose value={value} context={context} onChange={onChange} label={label} />;
  if ('lookup' in value) return <LookUp value={value} context={context} onChange={onChange} label={label} />;
  const names = new Map([
    ...ofRow.map((n) => [n, n] as const),
    ...context.defs.map((d) => [d.key, d.label] as const),
    ...Object.keys(context.inputs).map((n) => [n, n] as const),
  ]);
  return (
    <FormulaInput
      text={value.formula}
      names={names}
      label={label}
      onChange={(formula) => onChange({ ...value, formula })}
    />
  );
}

type Of<K extends Kind> = Omit<Props, 'value'> & { value: Extract<Value, Record<K, unknown>> };

function Pieces({ value, context, onChange, label }: Of<'pieces'>) {
  const { pieces } = value;
  const put = (next: Value[]) => onChange({ ...value, pieces: next });
  const swap = (i: number, j: number) => {
    const next = [...pieces];
    [next[i], next[j]] = [next[j]!, next[i]!];
    put(next);
  };
  return (
    <div className={css['pieces']}>
      {pieces.map((piece, i) => (
        <span key={i} className={css['piece']}>
          <ValueEditor
            value={piece}
            context={context}
            label={`piece ${i + 1} of ${label}`}
            onChange={(next) => put(pieces.map((p, j) => (j === i ? next : p)))}
          />
          <button
            type="button"
            aria-label={`Piece ${i + 1} to the left`}
            disabled={i === 0}
            onClick={() => swap(i, i - 1)}
          >
            <ChevronLeft size={14} />
          </button>
          <button
            type="button"
            aria-label={`Piece ${i + 1} to the right`}
            disabled={i === pieces.length - 1}
            onClick={() => swap(i, i + 1)}
          >
            <ChevronRight size={14} />
          </button>
          <button
            type="button"
            aria-label={`Remove piece ${i + 1}`}
            onClick={() => put(pieces.filter((_, j) => j !== i))}
          >
            <X size={14} />
          </button>
        </span>
      ))}
      <Button onClick={() => put([...pieces, { fixed: ' ' }])}>
        <Plus size={14} /> Text
      </Button>
      <Button onClick={() => put([...pieces, valueOfKind('field', value, context)])}>
        <Plus size={14} /> Field
      </Button>
    </div>
  );
}

function Choose({ value, context, onChange, label }: Of<'choose'>) {
  const cases = (next: Case[]) => onChange({ ...value, cases: next });
  return (
    <div className={css['choose']}>
      <ValueEditor
        value={value.choose}
        context={context}
        label={`what ${label} looks at`}
        onChange={(choose) => onChange({ ...value, choose })}
      />
      {value.cases.map((c, i) => (
        <div key={i} className={css['case']}>
          <label>
            is{' '}
            <input
              key={writeCondition(c)}
              defaultValue={writeCondition(c)}
              aria-label={`Case ${i + 1} of ${label}`}
              {...tip('A value, several with commas, 3 to 5, from 5, to 3, blank, not blank')}
              onBlur={(e) =>
                cases(
                  value.cases.map((x, j) =>
                    j === i ? { ...readCondition(e.target.value), then: c.then } : x,
                  ),
                )
              }
            />
          </label>
          →
          <ValueEditor
            value={c.then}
            context={context}
            label={`case ${i + 1} of ${label}`}
            onChange={(then) => cases(value.cases.map((x, j) => (j === i ? { ...x, then } : x)))}
          />
          <button
            type="button"
            aria-label={`Remove case ${i + 1}`}
            onClick={() => cases(value.cases.filter((_, j) => j !== i))}
          >
            <X size={14} />
          </button>
        </div>
      ))}
      <div className={css['case']}>
        <Button onClick={() => cases([...value.cases, { is: [''], then: { fixed: '' } }])}>
          <Plus size={14} /> Case
        </Button>
        {value.otherwise ? (
          <>
            otherwise →
            <ValueEditor
              value={value.otherwise}
              context={context}
              label={`otherwise of ${label}`}
              onChange={(otherwise) => onChange({ ...value, otherwise })}
            />
            <button
              type="button"
              aria-label="Nothing otherwise"
              onClick={() => {
                const { otherwise: _, ...rest } = value;
                onChange(rest);
              }}
            >
              <X size={14} />
            </button>
          </>
        ) : (
          <Button onClick={() => onChange({ ...value, otherwise: { fixed: '' } })}>
            <Plus size={14} /> Otherwise
          </Button>
        )}
      </div>
    </div>
  );
}

function LookUp({ value, context, onChange, label }: Of<'lookup'>) {
  const { lookup } = value;
  const table = context.tables.find((t) => t.key === lookup.table);
  const by = 'key' in lookup ? 'key' : 'rank';
  const inner = 'key' in lookup ? lookup.key : lookup.rank;
  const set = (part: { table?: string; column?: string }) =>
    onChange({ ...value, lookup: { ...lookup, ...part } });
  const at = (how: string, of: Value) => {
    const { table: t, column } = lookup;
    onChange({
      ...value,
      lookup: how === 'key' ? { table: t, column, key: of } : { table: t, column, rank: of },
    });
  };
  return (
    <>
      <select
        value={lookup.column}
        aria-label={`Column of ${label}`}
        onChange={(e) => set({ column: e.target.value })}
      >
        {!table?.columns.includes(lookup.column) && <option>{lookup.column}</option>}
        {table?.columns.map((c) => (
          <option key={c}>{c}</option>
        ))}
      </select>
      <span>in</span>
      <select
        value={lookup.table}
        aria-label={`Table of ${label}`}
        onChange={(e) => {
          const next = context.tables.find((t) => t.key === e.target.value);
          set({
            table: e.target.value,
            ...(next && !next.columns.includes(lookup.column) ? { column: next.columns[0] ?? '' } : {}),
          });
        }}
      >
        {!table && <option value={lookup.table}>{lookup.table} (not on the board)</option>}
        {context.tables.map((t) => (
          <option key={t.key} value={t.key}>
            {t.name}
          </option>
        ))}
      </select>
      <span>of the row with</span>
      <select
        value={by}
        aria-label={`Row of ${label}`}
        onChange={(e) => at(e.target.value, e.target.value === 'key' ? { fixed: '' } : { fixed: 1 })}
      >
        <option value="key">key</option>
        <option value="rank">rank</option>
      </select>
      <ValueEditor
        value={inner}
        context={context}
        label={`${by} of ${label}`}
        onChange={(of) => at(by, of)}
      />
    </>
  );
}

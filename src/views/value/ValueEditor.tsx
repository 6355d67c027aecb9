import Plus from 'lucide-react/icons/plus';
import X from 'lucide-react/icons/x';
import { useState } from 'react';
import { columnName } from '../../core/derive/table.ts';
import type { Format } from '../../core/value/format.ts';
import { segmentsOf, valueOf } from '../../core/value/line.ts';
import { evaluate, textOf, type Case, type Value } from '../../core/value/value.ts';
import { Button } from '../../ui/Button.tsx';
import { readCondition, writeCondition, type ValueContext } from './context.ts';
import { chipWords } from './chips.ts';
import { FormatPicker } from './FormatPicker.tsx';
import { Formula, useBegin } from './Formula.tsx';
import { tip } from '../../ui/tip.ts';
import css from './ValueEditor.module.css';
import { later } from '../../ui/Later.tsx';

/** The editor of formulas is large and comes when a formula is there. */
const ValueLine = later(() => import('./ValueLine.tsx').then((m) => m.ValueLine));

interface Props {
  value: Value;
  context: ValueContext;
  onChange: (value: Value) => void;
  label: string;
}

/**
 * The one editor for what gives a property its content: a line of text with chips in it, cases below each other, or a formula.
 * What it says now stands at its end.
 */
export function ValueEditor({ nested = false, ...props }: Props & { nested?: boolean }) {
  const { value, context, onChange, label } = props;
  // `=` was typed: a formula begins with this, though none that can be worked out stands there yet.
  const [begun, setBegun] = useState<string | null>(null);
  const plain = (
    <button
      type="button"
      className={css['insert']}
      aria-label={`Write ${label} as text`}
      {...tip('Text instead of this')}
      onClick={() => {
        setBegun(null);
        onChange({ fixed: '' });
      }}
    >
      <X size={14} />
    </button>
  );
  return (
    <div className={css['value']} role="group" aria-label={label} data-nested={nested}>
      {begun !== null || 'formula' in value ? (
        <span className={css['line']}>
          <Formula
            {...props}
            focus={begun !== null}
            value={'formula' in value ? value : { formula: begun ?? '' }}
            onChange={(next) => {
              setBegun(null);
              onChange(next);
            }}
          />
          {plain}
        </span>
      ) : 'choose' in value ? (
        <Choose {...props} value={value} plain={nested ? null : plain} />
      ) : (
        <Sentence {...props} onFormula={setBegun} />
      )}
      {('formula' in value || 'choose' in value || 'pieces' in value) && (
        <div className={css['end']}>
          {!nested && <Says value={value} context={context} />}
          <FormatPicker format={value.format} onChange={(format) => onChange(formatted(value, format))} />
        </div>
      )}
      {('field' in value || 'input' in value || 'lookup' in value) && !nested && (
        <Says value={value} context={context} />
      )}
    </div>
  );
}

/** A Value with something else done to it on its way out. */
function formatted(value: Value, format: Format | undefined): Value {
  const { format: _, ...rest } = value as Value & { format?: Format };
  return (format === undefined ? rest : { ...rest, format }) as Value;
}

/** What a Value says now, where it says something. */
function Says({ value, context }: Pick<Props, 'value' | 'context'>) {
  const said = evaluate(value, context.scope);
  const words = said === true ? 'yes' : said === false ? 'no' : textOf(said);
  return words === '' ? null : <output className={css['says']}>{words}</output>;
}

/** A line, and the options of the chip in it that was pressed. */
function Sentence({
  value,
  context,
  onChange,
  label,
  onFormula,
}: Props & { onFormula: (text: string) => void }) {
  const [open, setOpen] = useState<number | null>(null);
  const begin = useBegin(onFormula);
  const segments = segmentsOf(value);
  const chips = segments.flatMap((s, i) => ('chip' in s ? [{ at: i, chip: s.chip }] : []));
  const chosen = open === null ? undefined : chips[open];
  const put = (chip: Value | null) =>
    onChange(
      valueOf(
        segments.flatMap((s, i) => (i !== chosen!.at ? [s] : chip ? [{ chip }] : [])),
        value,
      ),
    );
  return (
    <>
      <ValueLine
        value={value}
        context={context}
        label={label}
        onChange={onChange}
        onChip={(index) => setOpen(index === open ? null : index)}
        onFormula={begin}
      />
      {chosen && (
        <div
          className={css['options']}
          role="group"
          aria-label={`Options of ${chipWords(chosen.chip, context)}`}
        >
          <Options value={chosen.chip} context={context} label={label} onChange={put} />
          <button
            type="button"
            className={css['insert']}
            aria-label="Remove it from the line"
            {...tip('Remove it from the line')}
            onClick={() => {
              setOpen(null);
              put(null);
            }}
          >
            <X size={14} />
          </button>
        </div>
      )}
    </>
  );
}

/** What can be said of one chip: which one it is, what stands for blank, what is done to it. */
function Options(props: Props) {
  const { value, onChange } = props;
  return (
    <>
      <Body {...props} />
      {('field' in value || 'input' in value || 'lookup' in value) && (
        <label>
          when blank{' '}
          <input
            value={String(value.fallback ?? '')}
            size={6}
            onChange={(e) => {
              const { fallback: _, ...rest } = value;
              onChange((e.target.value === '' ? rest : { ...rest, fallback: e.target.value }) as Value);
            }}
          />
        </label>
      )}
      {!('fixed' in value) && (
        <FormatPicker format={value.format} onChange={(format) => onChange(formatted(value, format))} />
      )}
    </>
  );
}

function Body({ value, context, onChange, label }: Props) {
  const ofRow = (context.columns ?? []).map(columnName);
  if ('fixed' in value)
    return (
      <select
        value={String(value.fixed)}
        aria-label={`Yes or no in ${label}`}
        onChange={(e) => onChange({ fixed: e.target.value === 'true' })}
      >
        <option value="true">yes</option>
        <option value="false">no</option>
      </select>
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
          <option key={key} value={key}>
            {context.inputNames?.get(key) ?? key}
          </option>
        ))}
      </select>
    );
  if ('formula' in value)
    return <Formula value={value} context={context} onChange={onChange} label={label} />;
  if ('choose' in value) return <Choose value={value} context={context} onChange={onChange} label={label} />;
  if ('lookup' in value) return <LookUp value={value} context={context} onChange={onChange} label={label} />;
  return (
    <ValueEditor nested value={value} context={context} onChange={onChange} label={`parts of ${label}`} />
  );
}

type Of<K extends 'choose' | 'lookup'> = Omit<Props, 'value'> & {
  value: Extract<Value, Record<K, unknown>>;
};

function Choose({
  value,
  context,
  onChange,
  label,
  plain = null,
}: Of<'choose'> & { plain?: React.ReactNode }) {
  const cases = (next: Case[]) => onChange({ ...value, cases: next });
  const part = (name: string, of: Value, set: (next: Value) => void) => (
    <ValueEditor nested value={of} context={context} label={`${name} ${label}`} onChange={set} />
  );
  const remove = (name: string, onPress: () => void) => (
    <button type="button" className={css['insert']} aria-label={name} {...tip(name)} onClick={onPress}>
      <X size={14} />
    </button>
  );
  const { otherwise } = value;
  return (
    <div className={css['choose']}>
      <div className={css['whole']}>
        <span className={css['word']}>by</span>
        {part('what is looked at for', value.choose, (choose) => onChange({ ...value, choose }))}
        {plain}
      </div>
      {value.cases.map((c, i) => (
        <div key={i} className={css['case']}>
          <label>
            <span className={css['word']}>when it is</span>
            <input
              key={writeCondition(c)}
              defaultValue={writeCondition(c)}
              aria-label={`When ${i + 1} of ${label}`}
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
          <span className={css['word']}>then</span>
          {part(`case ${i + 1} of`, c.then, (then) =>
            cases(value.cases.map((x, j) => (j === i ? { ...x, then } : x))),
          )}
          {remove(`Remove case ${i + 1}`, () => cases(value.cases.filter((_, j) => j !== i)))}
        </div>
      ))}
      {otherwise && (
        <div className={css['whole']}>
          <span className={css['word']}>otherwise</span>
          {part('otherwise of', otherwise, (next) => onChange({ ...value, otherwise: next }))}
          {remove('Nothing otherwise', () => {
            const { otherwise: _, ...rest } = value;
            onChange(rest);
          })}
        </div>
      )}
      <div className={css['more']}>
        <Button onClick={() => cases([...value.cases, { is: [''], then: { fixed: '' } }])}>
          <Plus size={14} /> Case
        </Button>
        {!otherwise && (
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
        nested
        value={inner}
        context={context}
        label={`${by} of ${label}`}
        onChange={(of) => at(by, of)}
      />
    </>
  );
}

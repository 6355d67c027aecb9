import { useMemo, useState } from 'react';
import Plus from 'lucide-react/icons/plus';
import X from 'lucide-react/icons/x';
import type { Derived, DerivedTable } from '../../core/derive/derived.ts';
import { columnName, TableMaker, type TableReader } from '../../core/derive/table.ts';
import type { DeskTable } from '../../core/wire/wire.ts';
import { Button } from '../../ui/Button.tsx';
import type { ValueContext } from '../value/context.ts';
import { RowChooser } from '../value/RowChooser.tsx';
import { ValueEditor } from '../value/ValueEditor.tsx';
import type { Trail } from '../shared/trace/trail.ts';
import { Rows } from './Rows.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import shell from '../shared/View.module.css';
import css from './DataView.module.css';
import { later } from '../../ui/Later.tsx';

/** The editor of formulas is large and comes when a formula is there. */
const FormulaInput = later(() => import('../value/FormulaInput.tsx').then((m) => m.FormulaInput));

interface Props {
  table: DerivedTable;
  tables: readonly DeskTable[];
  reader: TableReader;
  context: ValueContext;
  /** Where its cells can be traced: not while it differs from what is saved. */
  traced: { table: string; trail: Trail } | null;
  onChange: (table: Derived) => void;
}

const HOWS = {
  sum: 'sum',
  count: 'count',
  average: 'average',
  least: 'least',
  most: 'most',
  first: 'first',
  last: 'last',
} as const;

/** A table made of another, step by step; what comes of it is worked out in the page as it is changed. */
export function TableEditor({ table, tables, reader, context, traced, onChange }: Props) {
  const [beside, setBeside] = useState('');
  const set = (part: Partial<DerivedTable>) => onChange({ ...table, ...part });
  const text = JSON.stringify(table);
  const made = useMemo(() => {
    try {
      const maker = new TableMaker(JSON.parse(text) as DerivedTable);
      return { maker, ...maker.make(reader) };
    } catch (error) {
      return (error as Error).message;
    }
    // The tables are part of what it is made of.
    // oxlint-disable-next-line react/exhaustive-deps
  }, [text, tables]);
  const others = tables.filter((t) => t.key !== table.key);
  const columns = [
    ...new Set([
      ...table.from.flatMap((key) => tables.find((t) => t.key === key)?.columns ?? []),
      ...table.join.flatMap((j) => tables.find((t) => t.key === j.table)?.columns ?? []),
      ...table.compute.map((c) => c.name),
    ]),
  ];
  const sortable = table.group ? [...table.group.by, ...table.group.totals.map((t) => t.name)] : columns;
  const completed = new Map([
    ...columns.map((c) => [columnName(c), c] as const),
    ...context.defs.map((d) => [d.key, d.label] as const),
  ]);
  const ofRow: ValueContext = { ...context, columns };
  const pickTable = (value: string, label: string, change: (key: string) => void) => (
    <select value={value} aria-label={label} onChange={(e) => change(e.target.value)}>
      {!others.some((t) => t.key === value) && <option value={value}>{value} (not on the board)</option>}
      {others.map((t) => (
        <option key={t.key} value={t.key}>
          {t.name}
        </option>
      ))}
    </select>
  );
  const pickColumn = (
    value: string,
    label: string,
    from: readonly string[],
    change: (column: string) => void,
  ) => (
    <select value={value} aria-label={label} onChange={(e) => change(e.target.value)}>
      {!from.includes(value) && <option>{value}</option>}
      {from.map((c) => (
        <option key={c}>{c}</option>
      ))}
    </select>
  );
  const out = (label: string, run: () => void) => (
    <button type="button" className={shell['out']} aria-label={label} onClick={run}>
      <X size={14} />
    </button>
  );
  // Any row can stand beside the formulas, those that the condition leaves out too.
  const maker = typeof made === 'string' ? null : made.maker;
  const keys = maker?.keys ?? [];
  const chosen = keys.includes(beside) ? beside : (keys[0] ?? '');
  const tried = maker?.row(chosen);
  const replace = <T,>(list: readonly T[], at: number, next: T | null) =>
    list.flatMap((x, i) => (i === at ? (next === null ? [] : [next]) : [x]));
  return (
    <>
      <section className={shell['panel']} aria-label="Steps">
        <Step name="Rows from">
          {table.from.map((key, i) => (
            <span key={i} className={css['chip']}>
              {pickTable(key, `Table ${i + 1}`, (next) => set({ from: replace(table.from, i, next) }))}
              {table.from.length > 1 &&
                out(`Remove table ${i + 1}`, () => set({ from: replace(table.from, i, null) }))}
            </span>
          ))}
          <Button onClick={() => set({ from: [...table.from, others[0]?.key ?? ''] })}>
            <Plus size={14} /> another table
          </Button>
        </Step>
        <Step name="Joined with">
          {table.join.map((j, i) => (
            <span key={i} className={css['chip']}>
              {pickTable(j.table, `Joined table ${i + 1}`, (next) =>
                set({ join: replace(table.join, i, { ...j, table: next }) }),
              )}
              where its key is{' '}
              {pickColumn(j.by, `Join ${i + 1} by`, columns, (by) =>
                set({ join: replace(table.join, i, { ...j, by }) }),
              )}
              {out(`Remove join ${i + 1}`, () => set({ join: replace(table.join, i, null) }))}
            </span>
          ))}
          <Button
            onClick={() =>
              set({ join: [...table.join, { table: others[0]?.key ?? '', by: columns[0] ?? 'number' }] })
            }
          >
            <Plus size={14} /> Join
          </Button>
        </Step>
        <Step name="Computed columns">
          {table.compute.map((c, i) => (
            <span key={i} className={css['chip']}>
              <input
                defaultValue={c.name}
                size={10}
                aria-label={`Name of computed column ${i + 1}`}
                onBlur={(e) =>
                  e.target.value.trim() &&
                  set({ compute: replace(table.compute, i, { ...c, name: e.target.value.trim() }) })
                }
              />
              =
              <ValueEditor
                value={c.value}
                context={ofRow}
                label={c.name}
                onChange={(value) => set({ compute: replace(table.compute, i, { ...c, value }) })}
              />
              {tried && (
                <output className={css['tried']} aria-label={`${c.name} of that row`}>
                  {String(tried.row[c.name] ?? 'blank')}
                </output>
              )}
              {out(`Remove ${c.name}`, () => set({ compute: replace(table.compute, i, null) }))}
            </span>
          ))}
          <Button
            onClick={() =>
              set({
                compute: [
                  ...table.compute,
                  {
                    name: `column ${table.compute.length + 1}`,
                    value: { formula: columnName(columns[0] ?? 'number') },
                  },
                ],
              })
            }
          >
            <Plus size={14} /> Column
          </Button>
        </Step>
        {tried && (table.compute.length > 0 || table.where !== null) && (
          <Step name="Example row">
            <RowChooser
              rows={keys.map((key) => [key, maker?.row(key)?.row ?? {}] as const)}
              chosen={chosen}
              label="Row beside the formulas"
              onChoose={setBeside}
            />
          </Step>
        )}
        <Step name="Filter">
          {table.where === null ? (
            <Button onClick={() => set({ where: 'true' })}>
              <Plus size={14} /> Condition
            </Button>
          ) : (
            <span className={css['chip']}>
              <FormulaInput
                text={table.where}
                names={completed}
                label="the condition"
                onChange={(where) => set({ where })}
              />
              {tried && (
                <output className={css['tried']} aria-label="The condition for that row">
                  {tried.holds ? 'kept' : 'left out'}
                </output>
              )}
              {out('Remove the filter', () => set({ where: null }))}
            </span>
          )}
        </Step>
        <Step name="Group by">
          {table.group ? (
            <>
              {table.group.by.map((by, i) => (
                <span key={i} className={css['chip']}>
                  {pickColumn(by, `Group ${i + 1}`, columns, (next) =>
                    set({ group: { ...table.group!, by: replace(table.group!.by, i, next) } }),
                  )}
                </span>
              ))}
              {table.group.totals.map((t, i) => (
                <span key={i} className={css['chip']}>
                  <select
                    value={t.how}
                    aria-label={`Total ${i + 1}`}
                    onChange={(e) =>
                      set({
                        group: {
                          ...table.group!,
                          totals: replace(table.group!.totals, i, { ...t, how: e.target.value as 'sum' }),
                        },
                      })
                    }
                  >
                    {Object.keys(HOWS).map((h) => (
                      <option key={h}>{h}</option>
                    ))}
                  </select>{' '}
                  of{' '}
                  {pickColumn(t.of, `Total ${i + 1} of`, columns, (of) =>
                    set({
                      group: {
                        ...table.group!,
                        totals: replace(table.group!.totals, i, { ...t, of, name: of }),
                      },
                    }),
                  )}
                  {out(`Remove total ${i + 1}`, () =>
                    set({ group: { ...table.group!, totals: replace(table.group!.totals, i, null) } }),
                  )}
                </span>
              ))}
              <Button
                onClick={() =>
                  set({
                    group: {
                      ...table.group!,
                      totals: [
                        ...table.group!.totals,
                        { name: columns[0] ?? '', of: columns[0] ?? '', how: 'sum' },
                      ],
                    },
                  })
                }
              >
                <Plus size={14} /> Total
              </Button>
              {out('No groups', () => set({ group: null }))}
            </>
          ) : (
            <Button onClick={() => set({ group: { by: [columns[0] ?? ''], totals: [] } })}>
              <Plus size={14} /> Group
            </Button>
          )}
        </Step>
        <Step name="Sorted by">
          {table.sort.map((s, i) => (
            <span key={i} className={css['chip']}>
              {pickColumn(s.by, `Sort ${i + 1}`, sortable, (by) =>
                set({ sort: replace(table.sort, i, { ...s, by }) }),
              )}
              <Button
                onClick={() => set({ sort: replace(table.sort, i, { ...s, descending: !s.descending }) })}
              >
                {s.descending ? 'Descending' : 'Ascending'}
              </Button>
              {out(`Remove sort ${i + 1}`, () => set({ sort: replace(table.sort, i, null) }))}
            </span>
          ))}
          <Button onClick={() => set({ sort: [...table.sort, { by: sortable[0] ?? '', descending: true }] })}>
            <Plus size={14} /> Sort
          </Button>
        </Step>
        <Step name="Rank">
          <select
            value={table.rank?.ties ?? ''}
            aria-label="Ties"
            onChange={(e) =>
              set({
                rank: e.target.value
                  ? { name: table.rank?.name ?? 'rank', ties: e.target.value as 'shared' }
                  : null,
              })
            }
          >
            <option value="">no rank</option>
            <option value="shared">ties share, the next is skipped: 1, 1, 3</option>
            <option value="dense">ties share a rank: 1, 1, 2</option>
            <option value="order">one after another: 1, 2, 3</option>
          </select>
          <NumberField
            label="at most"
            name="Limit"
            unit="rows"
            min={1}
            value={table.limit ?? null}
            placeholder="all"
            onChange={(limit) => set({ limit })}
            onEmpty={() => set({ limit: null })}
          />
        </Step>
      </section>
      <section className={shell['panel']} aria-label="Result">
        <h2>Result</h2>
        {typeof made === 'string' ? (
          <p className={shell['refused']}>{made}</p>
        ) : (
          <Rows label="Result" columns={made.columns} rows={made.rows} traced={traced} />
        )}
      </section>
    </>
  );
}

function Step({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className={css['step']}>
      <span>{name}</span>
      <div>{children}</div>
    </div>
  );
}

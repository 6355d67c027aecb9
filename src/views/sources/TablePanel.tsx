import { unlike } from '../../core/text/words.ts';
import { useState } from 'react';
import { parsePlace } from '../../core/tree/place.ts';
import { counted } from '../../core/text/words.ts';
import type { DocTable, DocType } from '../../core/tree/doc-map.ts';
import type { TableRead } from '../../core/tree/read.ts';
import { Button } from '../../ui/Button.tsx';
import { tip } from '../../ui/tip.ts';
import css from './SourcesView.module.css';

/** How many rows are shown while a table is made. */
const SHOWN = 8;

interface Props {
  table: DocTable;
  read: TableRead | null;
  /** Null takes the table away. */
  onChange: (table: DocTable | null) => void;
}

/** A table that a document makes: its columns and their kinds, what tells its rows apart, its first rows. */
export function TablePanel({ table, read, onChange }: Props) {
  const names = table.columns.map((c) => c.name);
  const rows = read?.rows.map(([, row]) => row) ?? [];
  const clash = read?.problems.find((p) => p.startsWith('two rows'));
  const column = (at: number, part: Partial<DocTable['columns'][number]> | null) => {
    const columns = table.columns.flatMap((c, i) => (i === at ? (part ? [{ ...c, ...part }] : []) : [c]));
    const was = table.columns[at]!.name;
    const keyed = table.keyed.map((k) => (k === was ? (part?.name ?? '') : k)).filter(Boolean);
    if (columns.length) onChange({ ...table, columns, keyed: keyed.length ? keyed : [columns[0]!.name] });
  };
  return (
    <div className={css['tableOf']} role="group" aria-label={`Table ${table.name}`}>
      <div className={css['fields']}>
        <label>
          Table{' '}
          <input
            value={table.name}
            maxLength={80}
            onChange={(e) => onChange({ ...table, name: e.target.value })}
          />
        </label>
        <code>{table.key}</code>
        <span className={css['counts']}>
          {read ? counted(read.rows.length, 'row') : 'not read yet'} at {table.rows}
        </span>
        <label>
          When empty{' '}
          <select
            value={table.whenEmpty ?? 'clear'}
            aria-label={`When ${table.name} is empty`}
            onChange={(e) => onChange({ ...table, whenEmpty: e.target.value as 'keep' | 'clear' })}
          >
            <option value="clear">clear it</option>
            <option value="keep">keep the last rows</option>
          </select>
        </label>
        <NewColumn
          taken={names}
          onAdd={(name, place) =>
            onChange({ ...table, columns: [...table.columns, { name, place, as: 'text' }] })
          }
        />
        <Button onClick={() => onChange(null)} aria-label={`Remove the table ${table.name}`}>
          Remove
        </Button>
      </div>
      {read?.problems.map((p) => (
        <p key={p} className={css['refused']}>
          {p[0]!.toUpperCase() + p.slice(1)}.{' '}
          {p === clash && (
            <>
              {read.better ? (
                <Button onClick={() => onChange({ ...table, keyed: read.better! })}>
                  {read.better.join(' and ')} {read.better.length > 1 ? 'tell' : 'tells'} all apart: use{' '}
                  {read.better.length > 1 ? 'them' : 'it'}
                </Button>
              ) : (
                'No column or pair of columns tells all rows apart.'
              )}
            </>
          )}
        </p>
      ))}
      <div className={css['scroll']}>
        <table className={css['table']}>
          <thead>
            <tr>
              {table.columns.map((c, i) => (
                <th key={c.place} {...tip(c.place)}>
                  <input
                    defaultValue={c.name}
                    aria-label="Name of the column"
                    size={Math.max(5, c.name.length)}
                    onBlur={(e) => {
                      const name = e.target.value.trim();
                      if (!name || (name !== c.name && names.includes(name))) e.target.value = c.name;
                      else if (name !== c.name) column(i, { name });
                    }}
                  />
                  <div>
                    <select
                      value={c.as}
                      aria-label={`Kind of ${c.name}`}
                      onChange={(e) => column(i, { as: e.target.value as DocType })}
                    >
                      <option value="text">text</option>
                      <option value="number">number</option>
                      <option value="clock">clock</option>
                      <option value="flag">yes or no</option>
                    </select>
                    <label>
                      <input
                        type="checkbox"
                        checked={table.keyed.includes(c.name)}
                        aria-label={`${c.name} is of the key`}
                        onChange={(e) => {
                          const keyed = e.target.checked
                            ? [...table.keyed, c.name]
                            : table.keyed.filter((k) => k !== c.name);
                          if (keyed.length) onChange({ ...table, keyed });
                        }}
                      />{' '}
                      key
                    </label>
                    <button
                      type="button"
                      className={css['place']}
                      aria-label={`Leave ${c.name} out`}
                      onClick={() => column(i, null)}
                    >
                      ×
                    </button>
                  </div>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.slice(0, SHOWN).map((row, i) => (
              <tr key={i}>
                {names.map((n) => (
                  <td key={n}>{String(row[n] ?? '')}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.length > SHOWN && <p className={css['counts']}>and {rows.length - SHOWN} more</p>}
    </div>
  );
}

/** One more column, from anywhere: of the row itself, or of an element above it, such as the club of a player. */
function NewColumn({
  taken,
  onAdd,
}: {
  taken: readonly string[];
  onAdd: (name: string, place: string) => void;
}) {
  const [place, setPlace] = useState('');
  const wanted = place.split('/').at(-1)!.replace(/^@/, '') || 'column';
  const good = place.trim() !== '' && parsePlace(place) !== null;
  const add = () => {
    onAdd(
      unlike(wanted, (name) => taken.includes(name)),
      place.trim(),
    );
    setPlace('');
  };
  return (
    <form
      className={css['column']}
      onSubmit={(event) => {
        event.preventDefault();
        if (good) add();
      }}
    >
      <input
        value={place}
        size={16}
        placeholder="../@name"
        aria-label="Place of a new column"
        {...tip('Seen from the row: name, ../@name for the element above, ../../@name for the next')}
        onChange={(e) => setPlace(e.target.value)}
      />
      <Button type="submit" disabled={!good}>
        Add column
      </Button>
    </form>
  );
}

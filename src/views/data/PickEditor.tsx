import { Suggest } from '../../ui/ComboBox.tsx';
import type { Derived } from '../../core/derive/derived.ts';
import { useKnown } from '../shared/use-desk.ts';
import type { Desk } from '../shared/desk.ts';
import { rowInWords } from '../value/context.ts';
import { Rows } from './Rows.tsx';
import { Seconds } from '../shared/TimeInput.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import shell from '../shared/View.module.css';

/** One row of a table: by what is typed, by rank, or in rotation. */
export function PickEditor({
  pick,
  desk,
  onChange,
}: {
  pick: Extract<Derived, { what: 'pick' }>;
  desk: Desk;
  onChange: (pick: Derived) => void;
}) {
  const tables = useKnown(desk, 'tables');
  const table = tables.find((t) => t.key === pick.table);
  const { how } = pick;
  const current = String(desk.read(pick.key) ?? '');
  const by = (next: string) =>
    onChange({
      ...pick,
      how:
        next === 'key'
          ? { by: 'key', is: table?.rows[0]?.[0] ?? '' }
          : next === 'rank'
            ? { by: 'rank', rank: 1 }
            : { by: 'rotation', dwell: 8000, order: 'forwards' },
    });
  const [row] = table?.rows.filter(([key]) => key === current) ?? [];
  return (
    <section className={shell['panel']} aria-label="Pick">
      <div className={shell['fields']}>
        <label>
          One row of{' '}
          <select value={pick.table} onChange={(e) => onChange({ ...pick, table: e.target.value })}>
            {!table && <option value={pick.table}>{pick.table} (not on the board)</option>}
            {tables.map((t) => (
              <option key={t.key} value={t.key}>
                {t.name}
              </option>
            ))}
          </select>
        </label>
        <label>
          by{' '}
          <select value={how.by} aria-label="Picked by" onChange={(e) => by(e.target.value)}>
            <option value="key">key, typed</option>
            <option value="rank">rank</option>
            <option value="rotation">rotation</option>
          </select>
        </label>
        {how.by === 'key' && (
          <label>
            Number or name{' '}
            <Suggest
              label="Number or name"
              value={how.is}
              suggestions={(table?.rows ?? []).map(([key, r]) => ({ value: key, name: rowInWords(key, r) }))}
              onChange={(is) => onChange({ ...pick, how: { by: 'key', is } })}
            />
          </label>
        )}
        {how.by === 'rank' && (
          <NumberField
            label="Rank"
            min={1}
            size={3}
            value={how.rank}
            onChange={(rank) => onChange({ ...pick, how: { by: 'rank', rank } })}
          />
        )}
        {how.by === 'rotation' && (
          <>
            <Seconds
              label="Each for"
              min={500}
              value={how.dwell}
              onChange={(dwell) => onChange({ ...pick, how: { ...how, dwell } })}
            />
            <label>
              or as its row says in{' '}
              <select
                value={how.seconds ?? ''}
                aria-label="Column with the seconds"
                onChange={(e) =>
                  onChange({ ...pick, how: { ...how, seconds: e.target.value || undefined } as typeof how })
                }
              >
                <option value="">no column</option>
                {how.seconds && !table?.columns.includes(how.seconds) && <option>{how.seconds}</option>}
                {table?.columns.map((c) => (
                  <option key={c}>{c}</option>
                ))}
              </select>
            </label>
            <label>
              in order{' '}
              <select
                value={how.order}
                onChange={(e) =>
                  onChange({ ...pick, how: { ...how, order: e.target.value as typeof how.order } })
                }
              >
                <option value="forwards">of the table, first to last</option>
                <option value="backwards">last to first</option>
                <option value="shuffled">shuffled every round</option>
              </select>
            </label>
          </>
        )}
      </div>
      <p className={shell['dim']}>Now</p>
      {row && table ? <Rows label="Row" columns={table.columns} rows={[row]} /> : <p>no row</p>}
    </section>
  );
}

import { clockText } from '../../core/clock/clock.ts';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import { isClockReading, readValue } from '../../core/decode/reading.ts';
import { suggestField } from '../../core/patch/suggest.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { Button } from '../../ui/Button.tsx';
import { othersFeeding, placeAfter, readCases, withLinks, withReadings, writeCases } from './draft.ts';
import type { Selection } from './Ruler.tsx';
import css from './SourcesView.module.css';

/** What a reading says in this frame, in words. */
export function valueOf(frame: Uint8Array | null, def: ReadingDef): string {
  if (!frame) return '–';
  const reading = readValue(frame, { ...def, name: def.name || 'reading' });
  if (!reading) return 'no word';
  if (reading.problem) return reading.problem;
  const { value } = reading;
  if (isClockReading(value)) return clockText(value.ms, value.step === 100 ? { tenthsBelow: 60_000 } : {});
  return value === null ? 'blank' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);
}

const GROUPS = ['clocks', 'situation', 'home', 'away'] as const;

interface TableProps {
  bundle: SourceBundle;
  frame: Uint8Array | null;
  defs: FieldDef[];
  bundles: SourceBundle[];
  onChange: (bundle: SourceBundle) => void;
  onSelect: (selection: Selection) => void;
}

/** Every reading with what it says now and what it feeds. */
export function ReadingTable({ bundle, frame, defs, bundles, onChange, onSelect }: TableProps) {
  const readings = bundle.map!.readings;
  const links = bundle.patch?.links ?? [];
  const fed = new Set(links.map((l) => l.field));
  const flags = readings.filter((r) => r.kind === 'flag');
  if (readings.length === 0) return <p className={css['counts']}>No byte has a name yet.</p>;

  const others = (field: string) => othersFeeding(field, bundle.source.key, bundles);
  /** A field with its place: after those that feed it already. */
  const placed = (field: string) => {
    const there = others(field);
    return { field, ...(there.length ? { priority: placeAfter(there) } : { priority: undefined }) };
  };
  const link = (reading: string, change: object | null) => {
    const known = links.find((l) => l.reading === reading);
    const rest = links.filter((l) => l !== known);
    onChange(withLinks(bundle, change ? [...rest, { reading, field: '', ...known, ...change }] : rest));
  };
  /** What likeness of names proposes for readings that feed nothing, each field once. */
  const proposals = new Map<string, FieldDef>();
  const taken = new Set(fed);
  for (const r of readings) {
    if (links.some((l) => l.reading === r.name || l.running === r.name)) continue;
    const field = suggestField(r.name, defs, taken);
    if (!field) continue;
    proposals.set(r.name, field);
    taken.add(field.key);
  }
  const acceptAll = () =>
    onChange(
      withLinks(bundle, [...links, ...[...proposals].map(([reading, f]) => ({ reading, ...placed(f.key) }))]),
    );

  return (
    <table className={css['table']}>
      <thead>
        <tr>
          <th>Reading</th>
          <th>Bytes</th>
          <th>Kind</th>
          <th>Now</th>
          <th>
            Feeds{' '}
            {proposals.size > 0 && (
              <Button onClick={acceptAll}>
                Accept {proposals.size === 1 ? 'the suggestion' : `all ${proposals.size} suggestions`}
              </Button>
            )}
          </th>
          <th />
        </tr>
      </thead>
      <tbody>
        {readings.map((r) => {
          const known = links.find((l) => l.reading === r.name);
          const def = defs.find((d) => d.key === known?.field);
          const proposal = proposals.get(r.name);
          const cases = writeCases(known?.as);
          return (
            <tr key={r.name} data-reading={r.name}>
              <td>
                <input
                  defaultValue={r.name}
                  aria-label="Name"
                  onBlur={(e) => {
                    const to = e.target.value.trim();
                    if (!to || to === r.name || readings.some((x) => x.name === to))
                      return void (e.target.value = r.name);
                    onChange(
                      withReadings(
                        bundle,
                        readings.map((x) => (x === r ? { ...r, name: to } : x)),
                        { from: r.name, to },
                      ),
                    );
                  }}
                />
              </td>
              <td>
                <button
                  type="button"
                  className={css['place']}
                  onClick={() => onSelect({ offset: r.offset, length: r.length })}
                >
                  {r.offset}
                  {r.length > 1 && `–${r.offset + r.length - 1}`}
                </button>
              </td>
              <td>
                {r.kind === 'flag' ? `yes is “${r.on}”` : r.kind === 'integer' ? 'whole number' : r.kind}
              </td>
              <td className={css['now']}>{valueOf(frame, r)}</td>
              <td>
                <select
                  value={known?.field ?? ''}
                  aria-label={`Field fed by ${r.name}`}
                  onChange={(e) => link(r.name, e.target.value ? placed(e.target.value) : null)}
                >
                  <option value="">nothing</option>
                  {GROUPS.map((group) => (
                    <optgroup key={group} label={group}>
                      {defs
                        .filter((d) => d.group === group && (!fed.has(d.key) || d.key === known?.field))
                        .map((d) => (
                          <option key={d.key} value={d.key}>
                            {d.label}
                          </option>
                        ))}
                    </optgroup>
                  ))}
                </select>
                {proposal && (
                  <Button onClick={() => link(r.name, placed(proposal.key))}>{proposal.label}?</Button>
                )}
                {known && others(known.field).length > 0 && (
                  <label
                    title={others(known.field)
                      .map((o) => `${o.priority}: ${o.name}`)
                      .join('\n')}
                  >
                    {' '}
                    place{' '}
                    <input
                      type="number"
                      min="1"
                      max="9"
                      value={known.priority ?? 1}
                      aria-label={`Place of ${r.name}`}
                      onChange={(e) => link(r.name, { priority: Number(e.target.value) || 1 })}
                    />{' '}
                    beside {others(known.field)[0]!.name}, {others(known.field)[0]!.priority}
                  </label>
                )}
                {def?.kind === 'clock' && (
                  <label>
                    {' '}
                    runs by{' '}
                    <select
                      value={known?.running ?? ''}
                      aria-label={`Running flag of ${r.name}`}
                      onChange={(e) => link(r.name, { running: e.target.value || undefined })}
                    >
                      <option value="">nothing: it stands</option>
                      {flags.map((f) => (
                        <option key={f.name}>{f.name}</option>
                      ))}
                    </select>
                  </label>
                )}
                {known && def?.kind !== 'clock' && (
                  <label>
                    {' '}
                    as{' '}
                    {cases === null ? (
                      'its own conversion'
                    ) : (
                      <input
                        key={cases}
                        defaultValue={cases}
                        placeholder={def?.kind === 'choice' ? `H=${def.choices[0]}` : 'it is'}
                        aria-label={`Conversion of ${r.name}`}
                        size={14}
                        onBlur={(e) => link(r.name, { as: readCases(e.target.value) })}
                      />
                    )}
                  </label>
                )}
              </td>
              <td>
                <Button
                  onClick={() =>
                    onChange(
                      withReadings(
                        bundle,
                        readings.filter((x) => x !== r),
                      ),
                    )
                  }
                  aria-label={`Remove ${r.name}`}
                >
                  Remove
                </Button>
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

import { useMemo } from 'react';
import { idOf, renamed } from '../../core/decode/reading-id.ts';
import { clockText } from '../../core/clock/clock.ts';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import type { Parts } from '../../core/decode/parts.ts';
import { isClockReading, readValue, type Reading } from '../../core/decode/reading.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { placeText, withReadings } from './draft.ts';
import { useFeeds } from './feeds.tsx';
import { NameInput } from './NameInput.tsx';
import { tip } from '../../ui/tip.ts';
import { RemoveCell } from './RemoveCell.tsx';
import css from './SourcesView.module.css';

/** The kinds of reading, as they are named on the page. */
export const KINDS: Record<ReadingDef['kind'], string> = {
  integer: 'whole number',
  clock: 'clock',
  text: 'text',
  flag: 'yes or no',
  bcd: 'packed digits (BCD)',
  binary: 'binary number',
  bit: 'one bit',
};

/** A reading's kind with what belongs to it, in words. */
function kindText(r: ReadingDef): string {
  if (r.kind === 'flag') return `yes is “${r.on}”`;
  if (r.kind === 'bit') return `bit ${r.bit}`;
  if (r.kind === 'binary')
    return `binary${r.signed ? ', signed' : ''}${r.littleEnd ? ', little end first' : ''}`;
  if (r.kind === 'clock' && r.written)
    return `clock in ${{ bcd: 'BCD', digits: 'digits', bytes: 'bytes' }[r.written]}`;
  if (r.kind === 'text' && r.page) return `text, ${r.page}`;
  return KINDS[r.kind];
}

/** What a reading says in this frame, in words. */
export function valueOf(frame: Parts | null, def: ReadingDef): string {
  if (!frame) return '–';
  const reading = readValue(frame, { ...def, name: def.name || 'reading' });
  if (!reading) return 'no data';
  if (reading.problem) return reading.problem;
  const { value } = reading;
  return sayValue(value ?? null);
}

/** A reading's value in words. */
export function sayValue(value: NonNullable<Reading['value']> | null): string {
  if (isClockReading(value)) return clockText(value.ms, value.step === 100 ? { tenthsBelow: 60_000 } : {});
  return value === null ? 'blank' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);
}

interface TableProps {
  bundle: SourceBundle;
  /** The newest frame that could carry a reading; null while none has come. */
  frameOf: (reading: ReadingDef) => Parts | null;
  /** Whether frames come at all. */
  live: boolean;
  /** The frame that was captured in the map, if one was. */
  sample: Parts | null;
  defs: FieldDef[];
  bundles: SourceBundle[];
  onChange: (bundle: SourceBundle) => void;
  /** Opens a reading to be changed. */
  onEdit: (reading: ReadingDef) => void;
}

/** What a reading's row says whatever comes: its name, its place, its kind, and what takes it out. */
function partsOf(
  r: ReadingDef,
  bundle: SourceBundle,
  onChange: TableProps['onChange'],
  onEdit: TableProps['onEdit'],
) {
  const { readings } = bundle.map!;
  const put = (next: ReadingDef[]) => onChange(withReadings(bundle, next));
  const editing = (look: string, text: string) => (
    <td>
      <button
        type="button"
        className={css[look]}
        {...tip(`Change the bytes or the kind of ${r.name}`)}
        onClick={() => onEdit(r)}
      >
        {text}
      </button>
    </td>
  );
  return {
    name: (
      <td>
        <NameInput
          name={r.name}
          taken={readings.map((x) => x.name)}
          onRename={(to) => put(readings.map((x) => (x === r ? renamed(r, to) : x)))}
        />
      </td>
    ),
    place: editing('place', placeText(r)),
    kind: editing('kind', kindText(r)),
    remove: <RemoveCell name={r.name} onRemove={() => put(readings.filter((x) => x !== r))} />,
  };
}

/** Every reading with what it says now and what it feeds. */
export function ReadingTable({ bundle, frameOf, live, sample, defs, bundles, onChange, onEdit }: TableProps) {
  const readings = bundle.map!.readings;
  const saidIn = (frame: (def: ReadingDef) => Parts | null, name: string) => {
    const def = readings.find((r) => r.name === name);
    const of = def && frame(def);
    const value = def && of ? readValue(of, def)?.value : null;
    return isClockReading(value) ? value.ms : (value ?? null);
  };
  const feeds = useFeeds({
    bundle,
    defs,
    bundles,
    onChange,
    nowOf: (name) => saidIn(frameOf, name),
    ...(sample ? { sampleOf: (name: string) => saidIn(() => sample, name) } : {}),
  });
  // What says nothing of the frames that come is made anew only where it is another.
  const rows = useMemo(
    () => readings.map((r) => partsOf(r, bundle, onChange, onEdit)),
    [readings, bundle, onChange, onEdit],
  );
  if (readings.length === 0) return <p className={css['counts']}>No byte has a name yet.</p>;

  return (
    <table className={css['table']}>
      <thead>
        <tr>
          <th>Reading</th>
          <th>{bundle.map!.fields ? 'Place' : 'Bytes'}</th>
          <th>Kind</th>
          {(live || !sample) && <th>Now</th>}
          {sample && <th>Sample</th>}
          <th>{feeds.heading}</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {readings.map((r, i) => (
          <tr key={idOf(r)} data-reading={r.name}>
            {rows[i]!.name}
            {rows[i]!.place}
            {rows[i]!.kind}
            {(live || !sample) && <td className={css['now']}>{valueOf(frameOf(r), r)}</td>}
            {sample && <td className={css['sample']}>{valueOf(sample, r)}</td>}
            <td>{feeds.cell(idOf(r))}</td>
            {rows[i]!.remove}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

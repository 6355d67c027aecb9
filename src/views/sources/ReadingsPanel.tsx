import { useMemo, useRef, useState } from 'react';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import { inCheck, kindOf, Listener, widened, type ChangedRun } from '../../core/decode/discover.ts';
import { asciiText, isClockReading, readValue } from '../../core/decode/reading.ts';
import { clockText } from '../../core/clock/clock.ts';
import { suggestField } from '../../core/patch/suggest.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import type { Heard } from './bytes.ts';
import { readCases, withLinks, withReadings, writeCases } from './draft.ts';
import { Ruler, type Selection } from './Ruler.tsx';
import css from './SourcesView.module.css';

interface Props {
  bundle: SourceBundle;
  heard: Heard;
  defs: FieldDef[];
  onChange: (bundle: SourceBundle) => void;
  listening: Listening;
}

/** How long the controller is left alone before a button is waited for, in ms. */
const LEARN = 1500;

export interface Listening {
  phase: 'off' | 'learning' | 'hearing';
  runs: ChangedRun[];
  start: () => void;
  stop: () => void;
  take: (frame: Uint8Array) => void;
}

/** Listening for what a button of the controller changes: first what moves by itself is learnt, then changes light up. */
export function useListening(): Listening {
  const [phase, setPhase] = useState<Listening['phase']>('off');
  const [runs, setRuns] = useState<ChangedRun[]>([]);
  const live = useRef({ listener: new Listener(), phase: 'off' as Listening['phase'], since: 0 });
  const go = (next: Listening['phase']) => {
    live.current.phase = next;
    setPhase(next);
  };
  return {
    phase,
    runs,
    start: () => {
      live.current = { listener: new Listener(), phase: 'learning', since: performance.now() };
      setRuns([]);
      go('learning');
    },
    stop: () => {
      setRuns([]);
      go('off');
    },
    take: (frame) => {
      const { listener, phase: now, since } = live.current;
      if (now === 'off') return;
      if (now === 'learning') {
        listener.learn(frame);
        if (performance.now() - since > LEARN) go('hearing');
        return;
      }
      listener.hear(frame);
      setRuns(listener.runs());
    },
  };
}

/** The bytes' meaning: select or listen, name, and say which field of the board each reading feeds. */
export function ReadingsPanel({ bundle, heard, defs, onChange, listening }: Props) {
  const [selection, setSelection] = useState<Selection | null>(null);
  const readings = bundle.map!.readings;
  const { frame } = heard;
  const runs = frame ? listening.runs.filter((run) => !inCheck(run, bundle.map!.check, frame.length)) : [];
  const heardBytes = useMemo(
    () => new Set(runs.flatMap((r) => Array.from({ length: r.length }, (_, i) => r.offset + i))),
    // The runs are made anew with each frame; what matters is what they say.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [JSON.stringify(runs)],
  );
  useKeys({ l: () => (listening.phase === 'off' ? listening.start() : listening.stop()) });

  const selectRun = (run: ChangedRun) => frame && setSelection(widened(run, frame));
  const add = (reading: ReadingDef) => {
    onChange(
      withReadings(
        bundle,
        [...readings, reading].sort((a, b) => a.offset - b.offset),
      ),
    );
    setSelection(null);
    listening.stop();
  };

  return (
    <section className={css['panel']} aria-label="Readings">
      <h2>Readings</h2>
      {!frame ? (
        <p className={css['counts']}>No frame has come by this cut yet.</p>
      ) : (
        <>
          <Ruler
            frame={frame}
            changedAt={heard.changedAt}
            readings={readings}
            selection={selection}
            onSelect={setSelection}
            heard={heardBytes}
          />
          <div className={css['fields']}>
            <Button
              shortcut="L"
              aria-pressed={listening.phase !== 'off'}
              onClick={listening.phase === 'off' ? listening.start : listening.stop}
            >
              {listening.phase === 'off' ? 'Listen for a button' : 'Stop listening'}
            </Button>
            <span
              role="status"
              aria-label="Listening"
              className={css[listening.phase === 'off' ? 'counts' : 'said']}
            >
              {listening.phase === 'learning' && 'Leave the controller alone for a moment…'}
              {listening.phase === 'hearing' &&
                runs.length === 0 &&
                'Now press one button on the controller.'}
              {listening.phase === 'off' &&
                !selection &&
                'Drag over bytes to select them, or listen while you press a button on the controller.'}
            </span>
            {runs.map((run) => (
              <Button key={run.offset} onClick={() => selectRun(run)}>
                byte {run.offset}
                {run.length > 1 && `–${run.offset + run.length - 1}`}: “{run.before}” → “{run.after}”
              </Button>
            ))}
          </div>
          {selection && (
            <NewReading
              key={`${selection.offset}-${selection.length}`}
              frame={frame}
              selection={selection}
              taken={readings.map((r) => r.name)}
              onAdd={add}
            />
          )}
        </>
      )}
      <ReadingTable bundle={bundle} frame={frame} defs={defs} onChange={onChange} onSelect={setSelection} />
    </section>
  );
}

function NewReading({
  frame,
  selection,
  taken,
  onAdd,
}: {
  frame: Uint8Array;
  selection: Selection;
  taken: string[];
  onAdd: (r: ReadingDef) => void;
}) {
  const raw = asciiText(frame, selection.offset, selection.offset + selection.length);
  const [name, setName] = useState('');
  const [kind, setKind] = useState<ReadingDef['kind']>(kindOf(raw));
  const [on, setOn] = useState(raw.trim());
  const base = { name: name.trim(), ...selection, blank: 'blank' as const };
  const reading: ReadingDef = kind === 'flag' ? { ...base, kind, on } : { ...base, kind };
  const problem = !name.trim()
    ? 'Give it a name.'
    : taken.includes(name.trim())
      ? 'That name is taken.'
      : kind === 'flag' && !on
        ? 'Say which character means yes.'
        : null;
  return (
    <form
      className={css['new']}
      aria-label="New reading"
      onSubmit={(event) => {
        event.preventDefault();
        if (!problem) onAdd(reading);
      }}
    >
      <span>
        Bytes {selection.offset}–{selection.offset + selection.length - 1} “{raw}”
      </span>
      <label>
        Name <input autoFocus value={name} onChange={(e) => setName(e.target.value)} maxLength={80} />
      </label>
      <label>
        Kind{' '}
        <select value={kind} onChange={(e) => setKind(e.target.value as ReadingDef['kind'])}>
          <option value="integer">whole number</option>
          <option value="clock">clock</option>
          <option value="text">text</option>
          <option value="flag">yes or no</option>
        </select>
      </label>
      {kind === 'flag' && (
        <label>
          Yes is <input value={on} onChange={(e) => setOn(e.target.value)} size={2} maxLength={8} />
        </label>
      )}
      <span className={css['now']}>→ {valueOf(frame, reading)}</span>
      <Button type="submit" main disabled={problem !== null} title={problem ?? undefined}>
        Add reading
      </Button>
    </form>
  );
}

function valueOf(frame: Uint8Array | null, def: ReadingDef): string {
  if (!frame) return '–';
  const reading = readValue(frame, { ...def, name: def.name || 'reading' });
  if (!reading) return 'no word';
  if (reading.problem) return reading.problem;
  const { value } = reading;
  if (isClockReading(value)) return clockText(value.ms, value.step === 100 ? { tenthsBelow: 60_000 } : {});
  return value === null ? 'blank' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value);
}

const GROUPS = ['clocks', 'situation', 'home', 'away'] as const;

function ReadingTable({
  bundle,
  frame,
  defs,
  onChange,
  onSelect,
}: Omit<Props, 'heard' | 'listening'> & { frame: Uint8Array | null; onSelect: (s: Selection) => void }) {
  const readings = bundle.map!.readings;
  const links = bundle.patch?.links ?? [];
  const fed = new Set(links.map((l) => l.field));
  const flags = readings.filter((r) => r.kind === 'flag');
  if (readings.length === 0) return <p className={css['counts']}>No byte has a name yet.</p>;

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
      withLinks(bundle, [...links, ...[...proposals].map(([reading, f]) => ({ reading, field: f.key }))]),
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
                  onChange={(e) => link(r.name, e.target.value ? { field: e.target.value } : null)}
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
                  <Button onClick={() => link(r.name, { field: proposal.key })}>{proposal.label}?</Button>
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

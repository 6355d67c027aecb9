import { useMemo, useRef, useState } from 'react';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import {
  inCheck,
  kindOf,
  Listener,
  unnamedParts,
  widened,
  type ChangedRun,
} from '../../core/decode/discover.ts';
import { asciiText } from '../../core/decode/reading.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import type { Heard } from './bytes.ts';
import { readHex, withReadings, writeHex } from './draft.ts';
import { KINDS, ReadingTable, valueOf } from './ReadingTable.tsx';
import { Ruler, type Selection } from './Ruler.tsx';
import css from './SourcesView.module.css';

interface Props {
  bundle: SourceBundle;
  heard: Heard;
  defs: FieldDef[];
  bundles: SourceBundle[];
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
export function ReadingsPanel({ bundle, heard, defs, bundles, onChange, listening }: Props) {
  const [selection, setSelection] = useState<Selection | null>(null);
  const readings = bundle.map!.readings;
  // With nothing live, what was captured stands in.
  const captured = bundle.map!.sample;
  const sample = useMemo(() => (captured ? Uint8Array.from(readHex(captured) ?? []) : null), [captured]);
  const frame = heard.frame ?? sample;
  const runs = frame
    ? unnamedParts(listening.runs, readings).filter((run) => !inCheck(run, bundle.map!.check, frame.length))
    : [];
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
      <h2>
        Readings{' '}
        {heard.frame ? (
          <Button
            onClick={() =>
              onChange({
                ...bundle,
                map: { ...bundle.map!, sample: writeHex([...heard.frame!]).replaceAll(' ', '') },
              })
            }
          >
            {sample ? 'Capture the sample anew' : 'Capture a sample'}
          </Button>
        ) : (
          frame && <small className={css['counts']}>shown against the captured sample; nothing is live</small>
        )}
      </h2>
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
      <ReadingTable
        bundle={bundle}
        frame={heard.frame}
        sample={sample}
        defs={defs}
        bundles={bundles}
        onChange={onChange}
        onSelect={setSelection}
      />
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
  const [more, setMore] = useState<Extras>({
    page: '',
    written: '',
    signed: false,
    littleEnd: false,
    bit: 0,
  });
  const set = (part: Partial<Extras>) => setMore({ ...more, ...part });
  const reading = readingOf({ name: name.trim(), ...selection }, kind, on, more);
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
        {selection.length === 1
          ? `Byte ${selection.offset}`
          : `Bytes ${selection.offset}–${selection.offset + selection.length - 1}`}{' '}
        “{raw}”
      </span>
      <label>
        Name <input autoFocus value={name} onChange={(e) => setName(e.target.value)} maxLength={80} />
      </label>
      <label>
        Kind{' '}
        <select value={kind} onChange={(e) => setKind(e.target.value as ReadingDef['kind'])}>
          {Object.entries(KINDS)
            .filter(
              ([k]) => (k !== 'bit' || selection.length === 1) && (k !== 'binary' || selection.length <= 4),
            )
            .map(([k, label]) => (
              <option key={k} value={k}>
                {label}
              </option>
            ))}
        </select>
      </label>
      {kind === 'flag' && (
        <label>
          Yes is <input value={on} onChange={(e) => setOn(e.target.value)} size={2} maxLength={8} />
        </label>
      )}
      <KindExtras kind={kind} more={more} onSet={set} />
      <span className={css['now']}>→ {valueOf(frame, reading)}</span>
      <Button type="submit" main disabled={problem !== null} title={problem ?? undefined}>
        Add reading
      </Button>
    </form>
  );
}

interface Extras {
  page: string;
  written: string;
  signed: boolean;
  littleEnd: boolean;
  bit: number;
}

/** The reading that the form describes. */
function readingOf(
  place: { name: string } & Selection,
  kind: ReadingDef['kind'],
  on: string,
  { page, written, signed, littleEnd, bit }: Extras,
): ReadingDef {
  const base = { ...place, blank: 'blank' as const };
  switch (kind) {
    case 'flag':
      return { ...base, kind, on };
    case 'text':
      return { ...base, kind, ...(page ? { page: page as 'utf-8' } : {}) };
    case 'clock':
      return { ...base, kind, ...(written ? clockWritten(written) : {}) };
    case 'binary':
      return { ...base, kind, signed, littleEnd };
    case 'bit':
      return { ...base, kind, length: 1, bit };
    default:
      return { ...base, kind };
  }
}

const clockWritten = (how: string) => ({
  written: how.startsWith('bcd') ? ('bcd' as const) : ('digits' as const),
  ...(how.endsWith('tenths') ? { tenths: true } : {}),
});

/** What some kinds ask besides. */
function KindExtras({
  kind,
  more,
  onSet,
}: {
  kind: ReadingDef['kind'];
  more: Extras;
  onSet: (part: Partial<Extras>) => void;
}) {
  const choose = (
    label: string,
    value: string | number,
    options: [string | number, string][],
    set: (v: string) => void,
  ) => (
    <label>
      {label}{' '}
      <select value={value} onChange={(e) => set(e.target.value)}>
        {options.map(([v, text]) => (
          <option key={v} value={v}>
            {text}
          </option>
        ))}
      </select>
    </label>
  );
  if (kind === 'text')
    return choose(
      'Code page',
      more.page,
      [
        ['', 'ASCII'],
        ['utf-8', 'UTF-8'],
        ['windows-1252', 'Windows 1252'],
        ['iso-8859-2', 'ISO 8859-2'],
        ['windows-1251', 'Windows 1251'],
        ['ibm866', 'IBM 866'],
      ],
      (page) => onSet({ page }),
    );
  if (kind === 'clock')
    return choose(
      'Written',
      more.written,
      [
        ['', '12:34'],
        ['digits', '1234'],
        ['digits tenths', '12345, last is tenths'],
        ['bcd', 'BCD 12 34'],
        ['bcd tenths', 'BCD, last is tenths'],
      ],
      (written) => onSet({ written }),
    );
  if (kind === 'bit')
    return choose(
      'Bit',
      more.bit,
      [0, 1, 2, 3, 4, 5, 6, 7].map((n) => [n, n === 0 ? '0, lowest' : n === 7 ? '7, highest' : String(n)]),
      (bit) => onSet({ bit: Number(bit) }),
    );
  if (kind !== 'binary') return null;
  return (
    <>
      {(['signed', 'littleEnd'] as const).map((part) => (
        <label key={part}>
          <input type="checkbox" checked={more[part]} onChange={(e) => onSet({ [part]: e.target.checked })} />{' '}
          {part === 'signed' ? 'signed' : 'little end first'}
        </label>
      ))}
    </>
  );
}

import { useMemo, useRef, useState } from 'react';
import type { ReadingDef } from '../../core/decode/frame-map.ts';
import {
  inCheck,
  kindFor,
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
import { nameOfBytes, readHex, readingOfKind, withReadings, writeHex } from './draft.ts';
import { ReadingForm } from './ReadingForm.tsx';
import { ReadingTable } from './ReadingTable.tsx';
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
  /** The reading that is changed; null: what is selected becomes a new one. */
  const [changing, setChanging] = useState<string | null>(null);
  /** Counts up when the name is to be typed next. */
  const [asked, setAsked] = useState(0);
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

  const known = readings.find((r) => r.name === changing) ?? null;
  const open = (at: Selection | null, reading: string | null) => {
    setSelection(at);
    setChanging(reading);
  };
  const put = (next: ReadingDef[], renamed?: { from: string; to: string }) => {
    onChange(
      withReadings(
        bundle,
        next.toSorted((a, b) => a.offset - b.offset),
        renamed,
      ),
    );
    listening.stop();
  };
  /** What a button changed becomes a reading at once; its name and kind can be mended in the form that opens. */
  const takeRun = (run: ChangedRun) => {
    if (!frame) return;
    const at = widened(run, frame);
    const name = nameOfBytes(
      at,
      readings.map((r) => r.name),
    );
    const raw = asciiText(frame, at.offset, at.offset + at.length);
    put([...readings, readingOfKind(kindFor('', raw), { name, ...at }, raw)]);
    open(at, name);
    setAsked(asked + 1);
  };

  return (
    <section className={css['panel']} aria-label="Readings">
      <div className={css['heading']}>
        <h2>Readings</h2>
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
      </div>
      {!frame ? (
        <p className={css['counts']}>No frame has come by this cut yet.</p>
      ) : (
        <>
          <Ruler
            frame={frame}
            changedAt={heard.changedAt}
            readings={readings}
            selection={selection}
            onSelect={(at) => open(at, at && changing)}
            onSelected={() => setAsked(asked + 1)}
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
              <Button key={run.offset} onClick={() => takeRun(run)} title="Make a reading of it">
                byte {run.offset}
                {run.length > 1 && `–${run.offset + run.length - 1}`}: “{run.before}” → “{run.after}”
              </Button>
            ))}
          </div>
          {selection && (
            <ReadingForm
              key={known ? `change ${known.name}` : 'new'}
              asked={asked}
              frame={frame}
              selection={selection}
              known={known}
              taken={readings.flatMap((r) => (r === known ? [] : [r.name]))}
              isTaken={(byte) =>
                readings.some((r) => r !== known && byte >= r.offset && byte < r.offset + r.length)
              }
              onSelect={(at) => open(at, changing)}
              onDone={(reading) => {
                if (known)
                  put(
                    readings.map((r) => (r === known ? reading : r)),
                    { from: known.name, to: reading.name },
                  );
                else put([...readings, reading]);
                open(null, null);
              }}
              onCancel={() => open(null, null)}
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
        onEdit={(r) => {
          open({ offset: r.offset, length: r.length }, r.name);
          setAsked(asked + 1);
        }}
      />
    </section>
  );
}

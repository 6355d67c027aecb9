import { idOf, renamed } from '../../core/decode/reading-id.ts';
import { useMemo, useState } from 'react';
import type { FrameMap, ReadingDef } from '../../core/decode/frame-map.ts';
import { kindFor } from '../../core/decode/discover.ts';
import { inCheck, unnamedParts, widened, type ChangedRun } from '../../core/decode/listen.ts';
import { Parts } from '../../core/decode/parts.ts';
import { asciiText } from '../../core/decode/reading.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import { Button } from '../../ui/Button.tsx';
import { useKeys } from '../../ui/keys.ts';
import { useStable } from '../../ui/stable.ts';
import type { Heard } from './bytes.ts';
import {
  addressText,
  lostWith,
  nameOfBytes,
  readHex,
  readingOfKind,
  withCut,
  withReadings,
  writeHex,
  writePlaces,
} from './draft.ts';
import { ReadingTable } from './ReadingTable.tsx';
import { later } from '../../ui/Later.tsx';
import type { Selection } from './ruler-units.ts';
import { tip } from '../../ui/tip.ts';
import type { Listening } from './listening.ts';
import css from './SourcesView.module.css';

/** The ruler comes after the first view: what it is drawn with is much. */
const Ruler = later(() => import('./Ruler.tsx').then((m) => m.Ruler));

// A reading is made or changed after the first view.
const ReadingForm = later(() => import('./ReadingForm.tsx').then((m) => m.ReadingForm));

interface Props {
  bundle: SourceBundle;
  heard: Heard;
  defs: FieldDef[];
  bundles: SourceBundle[];
  onChange: (bundle: SourceBundle) => void;
  listening: Listening;
}

const NO_BYTES = { offset: 0, length: 0 };

/** Where messages say what they speak of, in words. */
const addressPlace = (address: NonNullable<FrameMap['address']>) =>
  'field' in address ? `field ${address.field}` : `byte ${writePlaces([address])}`;

/** The bytes' meaning: select or listen, name, and say which field of the board each reading feeds. */
export function ReadingsPanel({ bundle, heard, defs, bundles, onChange, listening }: Props) {
  const [selection, setSelection] = useState<Selection | null>(null);
  /** The reading that is changed; null: what is selected becomes a new one. */
  const [changing, setChanging] = useState<string | null>(null);
  /** Counts up when the name is to be typed next. */
  const [asked, setAsked] = useState(0);
  /** The address whose messages are looked at; those that were heard first, until one is chosen. */
  const [chosen, setChosen] = useState<string | null>(null);
  const map = bundle.map!;
  const { readings } = map;
  // With nothing live, what was captured stands in.
  const sample = useMemo(
    () => (map.sample ? new Parts(Uint8Array.from(readHex(map.sample) ?? []), map) : null),
    [map],
  );
  const messages = map.address ? heard.messages : [];
  const message = messages.find((m) => m.address === chosen) ?? messages[0];
  const frame = message?.frame ?? heard.frame ?? sample;
  const address = frame?.address ?? undefined;
  const shown = message ?? heard.messages.find((m) => m.frame === frame);
  const runs = frame
    ? unnamedParts(listening.runs, readings).filter((run) => !inCheck(run, map.check, frame.bytes.length))
    : [];
  const heardBytes = useMemo(
    () =>
      new Set(
        runs
          .filter((r) => r.address === address)
          .flatMap((r) => Array.from({ length: r.length }, (_, i) => r.offset + i)),
      ),
    // The runs are made anew with each frame; what matters is what they say.
    // oxlint-disable-next-line react/exhaustive-deps
    [JSON.stringify(runs), address],
  );
  useKeys({ l: () => (listening.phase === 'off' ? listening.start() : listening.stop()) });

  const known = readings.find((r) => r.name === changing) ?? null;
  const open = (at: Selection | null, reading: string | null) => {
    setSelection(at);
    setChanging(reading);
  };
  const put = (next: ReadingDef[]) => {
    onChange(
      withReadings(
        bundle,
        next.toSorted((a, b) => a.offset - b.offset),
      ),
    );
    listening.stop();
  };
  /** What a button changed becomes a reading at once; its name and kind can be mended in the form that opens. */
  const takeRun = (run: ChangedRun) => {
    const of = messages.find((m) => m.address === run.address)?.frame ?? frame;
    if (!of) return;
    const wide =
      run.field === undefined ? widened(run, of.bytes) : { offset: run.offset, length: run.length };
    const raw = asciiText(of.bytes, wide.offset, wide.offset + wide.length);
    const at = run.field === undefined ? wide : { ...NO_BYTES, field: run.field };
    const name = nameOfBytes(
      at,
      readings.map((r) => r.name),
    );
    const by = run.address === undefined ? {} : { address: run.address };
    put([...readings, readingOfKind(kindFor('', raw), { name, ...at, ...by }, raw)]);
    if (run.address !== undefined) setChosen(run.address);
    open(run.field === undefined ? wide : { ...wide, field: run.field }, name);
    setAsked(asked + 1);
  };
  const edit = useStable((r: ReadingDef) => {
    const of = messages.find((m) => m.address === r.address)?.frame ?? frame;
    const places = of?.placesOf(r);
    const [first] = Array.isArray(places) ? places : [];
    if (r.address !== undefined) setChosen(r.address);
    open(
      r.field === undefined
        ? { offset: r.offset, length: r.length, ...(r.more ? { more: r.more } : {}) }
        : {
            offset: first?.from ?? 0,
            length: first ? first.to - first.from : 0,
            field: r.field,
          },
      r.name,
    );
    setAsked(asked + 1);
  });
  /** The bytes or the field that say what each message speaks of. */
  const takeAddress = (at: Selection) => {
    onChange(
      withCut(bundle, {
        address:
          typeof at.field === 'number' ? { field: at.field } : { offset: at.offset, length: at.length },
      }),
    );
    open(null, null);
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
                map: { ...map, sample: writeHex([...frame!.bytes]).replaceAll(' ', '') },
              })
            }
          >
            {sample ? 'Capture again' : 'Capture a sample'}
          </Button>
        ) : (
          frame && <small className={css['counts']}>shown against the captured sample; nothing is live</small>
        )}
      </div>
      {!frame ? (
        <p className={css['counts']}>No frame has come by this cut yet.</p>
      ) : (
        <>
          {map.address && (
            <div className={css['fields']} role="group" aria-label="Messages">
              <span className={css['counts']}>Messages, told apart by {addressPlace(map.address)}:</span>
              {messages.map((m) => (
                <Button
                  key={m.address ?? ''}
                  aria-pressed={m === message}
                  onClick={() => {
                    setChosen(m.address);
                    open(null, null);
                  }}
                >
                  {m.address === null ? 'without address' : addressText(m.address)}
                </Button>
              ))}
              <Button
                disabled={readings.some((r) => r.address !== undefined)}
                {...tip(lostWith(map, { fields: map.fields }))}
                onClick={() => onChange(withCut(bundle, { address: undefined }))}
              >
                Read them as one
              </Button>
            </div>
          )}
          <Ruler
            frame={frame}
            changedAt={shown?.changedAt ?? []}
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
                (frame.fields.length
                  ? 'Click a field to select it, or listen while you press a button on the controller.'
                  : 'Drag over bytes to select them, or listen while you press a button on the controller.')}
            </span>
            {runs.map((run) => (
              <Button
                key={`${run.address ?? ''} ${run.field ?? run.offset}`}
                onClick={() => takeRun(run)}
                {...tip('Make a reading of it')}
              >
                {run.address !== undefined && `${addressText(run.address)}: `}
                {run.field !== undefined ? `field ${run.field}` : `byte ${writePlaces([run])}`}: “{run.before}
                ” → “{run.after}”
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
              onAddress={map.address || typeof selection.field === 'string' ? null : takeAddress}
              onSelect={(at) => open(at, changing)}
              onDone={(reading) => {
                if (known)
                  put(
                    readings.map((r) =>
                      r === known ? renamed({ ...reading, id: idOf(known) }, reading.name) : r,
                    ),
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
        frameOf={(r) =>
          r.address === undefined
            ? heard.frame
            : (messages.find((m) => m.address === r.address)?.frame ?? null)
        }
        live={heard.frame !== null}
        sample={sample}
        defs={defs}
        bundles={bundles}
        onChange={onChange}
        onEdit={edit}
      />
    </section>
  );
}

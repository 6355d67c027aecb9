import { memo, useEffect, useState } from 'react';
import { findCheck, findFields, findFraming, type FramingFound } from '../../core/decode/discover.ts';
import { asciiText } from '../../core/decode/reading.ts';
import type { FrameMap } from '../../core/decode/frame-map.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import { Button } from '../../ui/Button.tsx';
import type { Heard } from './bytes.ts';
import { lostWith, readHex, withCut, withMap, writeHex } from './draft.ts';
import { useStable } from '../../ui/stable.ts';
import { tip } from '../../ui/tip.ts';
import { NumberField } from '../../ui/NumberField.tsx';
import css from './SourcesView.module.css';

const CHECKS = { none: 'no check', xor: 'exclusive or', sum8: '8-bit sum', crc16: 'CRC-16' } as const;
/** How many frames with one check make a cut certain, and how often it is tried, in ms. */
const CERTAIN = 8;
const FIND_EVERY = 700;
type Check = FrameMap['check'];
const NO_CHECK: Check = { kind: 'none' };

/** The lengths of frames in words: `52 bytes`, `12 to 40 bytes`. */
function lengthsOf(frames: readonly Uint8Array[]): string {
  const lengths = frames.map((f) => f.length);
  const [least, most] = [Math.min(...lengths), Math.max(...lengths)];
  return least === most ? `${most} bytes` : `${least} to ${most} bytes`;
}

/** How bytes are cut into frames: found by itself, or set by hand. */
export function FramePanel({
  bundle,
  heard,
  maps,
  eager,
  onChange,
}: {
  bundle: SourceBundle;
  heard: Heard;
  /** Maps that are there to be used. */
  maps: readonly FrameMap[];
  /** Whether a frame is looked for before anybody asks. */
  eager: boolean;
  onChange: (bundle: SourceBundle) => void;
}) {
  const [said, setSaid] = useState('');
  /** Ways to cut that nothing proves. */
  const [guesses, setGuesses] = useState<FramingFound[]>([]);
  const { map } = bundle;
  const take = (found: FramingFound, by: Check | undefined) => {
    onChange(
      withCut(bundle, {
        framing: found.framing,
        check: by ?? NO_CHECK,
        ...(map?.readings.length
          ? {}
          : { fields: findFields(found.frames) ?? undefined, address: undefined }),
      }),
    );
    setGuesses([]);
    setSaid('');
  };
  const find = (byItself = false) => {
    const ways = findFraming(heard.bytes);
    const [best] = ways;
    if (!best) {
      if (byItself) return;
      setGuesses([]);
      setSaid(
        heard.bytes.length < 200
          ? 'Too little has been heard yet. Let it talk for a few seconds and try again.'
          : 'No frame comes back in these bytes. Check the line’s speed and bits, or set the frame by hand.',
      );
      return;
    }
    const proved = ways.flatMap((way) => {
      const [check] = findCheck(way.frames, way.framing);
      return check ? [{ way, check }] : [];
    })[0];
    // Unasked it takes what is as good as certain and nothing else.
    if (byItself && (!proved || proved.way.frames.length < CERTAIN)) return;
    if (proved) {
      take(proved.way, proved.check);
      const { frames } = proved.way;
      setSaid(
        `Found ${frames.length} frames of ${lengthsOf(frames)}, with ${CHECKS[proved.check.kind]} that holds for all.`,
      );
      return;
    }
    setGuesses(ways.slice(0, 3));
    const different = new Set(best.frames.map((f) => f.join())).size;
    setSaid(
      different < 3
        ? 'No check proves a frame yet: what came is too alike. Change something on the controller and try again, or choose what looks right.'
        : 'No check proves a frame. Choose what looks right:',
    );
  };

  // The frame of a new source is found without anybody asking, as soon as a check proves it.
  const findSoon = useStable(() => find(true));
  const fresh = eager && !map && heard.bytes.length > 0;
  useEffect(() => {
    if (!fresh) return;
    const timer = setInterval(findSoon, FIND_EVERY);
    return () => clearInterval(timer);
  }, [fresh, findSoon]);

  const tail = heard.bytes.slice(-160);
  const { good, badChecks, skipped } = heard.counts;

  return (
    <section className={css['panel']} aria-label="Frame">
      <h2>Frame</h2>
      <div className={css['fields']}>
        <Button main={!map} onClick={() => find()} disabled={heard.bytes.length === 0}>
          Find the frame
        </Button>
        <CutForm bundle={bundle} maps={maps} onChange={onChange} onSay={setSaid} />
      </div>
      <p className={css['said']} role="status" aria-label="Frame found">
        {said}
      </p>
      {guesses.length > 0 && (
        <ul className={css['guesses']} aria-label="Frames it may have">
          {guesses.map((guess) => (
            <li key={guess.told}>
              <Button onClick={() => take(guess, undefined)}>Use this</Button> A guess: {guess.told};{' '}
              {guess.frames.length} frames of {lengthsOf(guess.frames)}.
              <code>{asciiText(guess.frames.at(-1)!, 0, Math.min(60, guess.frames.at(-1)!.length))}</code>
            </li>
          ))}
        </ul>
      )}
      <p className={css['counts']}>
        {map
          ? `By this frame: ${good} good, ${badChecks} failed checks, ${skipped} bytes skipped.`
          : heard.bytes.length
            ? 'Bytes come in. Start the controller’s clock or press a few of its buttons: the frame is found as soon as a check proves it.'
            : 'Nothing has been heard yet. Is the line right, and the device switched on?'}
      </p>
      {heard.bytes.length > 0 && (
        <details open={!heard.frame}>
          <summary className={css['counts']}>What comes in, as text and as hexadecimal</summary>
          <code className={css['tail']}>{asciiText(tail, 0, tail.length)}</code>
          <code className={css['tail']}>{writeHex([...tail.slice(-64)])}</code>
        </details>
      )}
    </section>
  );
}

interface CutFormProps {
  bundle: SourceBundle;
  maps: readonly FrameMap[];
  onChange: (bundle: SourceBundle) => void;
  onSay: (text: string) => void;
}

/** How frames are cut, set by hand. Bytes that come in draw none of it anew. */
const CutForm = memo(function CutForm({ bundle, maps, onChange, onSay }: CutFormProps) {
  const { map } = bundle;
  const framing = map?.framing;
  const check = map?.check ?? NO_CHECK;
  const cut = (part: Partial<Pick<FrameMap, 'framing' | 'check' | 'fields' | 'address'>>) =>
    onChange(withCut(bundle, part));
  const hex = (label: string, bytes: readonly number[], set: (bytes: number[]) => void) => (
    <label>
      {label}{' '}
      <input
        key={writeHex(bytes)}
        defaultValue={writeHex(bytes)}
        size={6}
        aria-label={`${label} bytes, hexadecimal`}
        onBlur={(e) => {
          const read = readHex(e.target.value);
          if (read) set(read);
          else onSay(`${label} is written as hexadecimal pairs, such as 02 or 0d 0a.`);
        }}
      />
    </label>
  );
  return (
    <>
      {maps.length > 0 && (
        <select
          value=""
          aria-label="Use a ready map"
          onChange={(e) => {
            const chosen = maps.find((m) => m.key === e.target.value);
            if (!chosen) return;
            onChange(withMap(bundle, chosen));
            onSay(`${chosen.name}: ${chosen.readings.length} readings.`);
          }}
        >
          <option value="">Use a ready map…</option>
          {maps.map((m) => (
            <option key={m.key} value={m.key}>
              {m.name}
            </option>
          ))}
        </select>
      )}
      {framing && (
        <>
          <select
            value={framing.kind}
            aria-label="How a frame ends"
            onChange={(e) =>
              cut({
                framing:
                  e.target.value === 'fixed'
                    ? {
                        kind: 'fixed',
                        start: framing.start,
                        length: framing.kind === 'fixed' ? framing.length : framing.maxLength,
                      }
                    : {
                        kind: 'delimited',
                        start: framing.start,
                        end: [3],
                        maxLength: framing.kind === 'fixed' ? framing.length : framing.maxLength,
                      },
              })
            }
          >
            <option value="delimited">start to end</option>
            <option value="fixed">fixed length</option>
          </select>
          {hex('Start', framing.start, (start) => cut({ framing: { ...framing, start } }))}
          {framing.kind === 'delimited' &&
            hex('End', framing.end, (end) => cut({ framing: { ...framing, end } }))}
          <NumberField
            label={framing.kind === 'fixed' ? 'Length' : 'Longest'}
            min={2}
            max={4096}
            value={framing.kind === 'fixed' ? framing.length : framing.maxLength}
            onChange={(n) =>
              cut({
                framing: framing.kind === 'fixed' ? { ...framing, length: n } : { ...framing, maxLength: n },
              })
            }
          />
          {framing.kind === 'delimited' && (
            <NumberField
              label="Shortest"
              min={2}
              max={4096}
              value={framing.minLength ?? null}
              placeholder="any"
              tip={tip('An end before this is a byte like any other')}
              onChange={(minLength) => cut({ framing: { ...framing, minLength } })}
              onEmpty={() => cut({ framing: { ...framing, minLength: undefined } })}
            />
          )}
          <label>
            Check{' '}
            <select
              value={check.kind}
              onChange={(e) => {
                const kind = e.target.value as keyof typeof CHECKS;
                cut({
                  check: kind === 'none' ? NO_CHECK : { from: 1, to: -3, at: -3, as: 'hex', ...check, kind },
                });
              }}
            >
              {Object.entries(CHECKS).map(([kind, name]) => (
                <option key={kind} value={kind}>
                  {name}
                </option>
              ))}
            </select>
          </label>
          {check.kind !== 'none' && (
            <>
              {(['from', 'to', 'at'] as const).map((part) => (
                <NumberField
                  key={part}
                  label={part}
                  value={check[part]}
                  onChange={(n) => cut({ check: { ...check, [part]: n } })}
                />
              ))}
              <select
                value={check.as}
                aria-label="Written as"
                onChange={(e) => cut({ check: { ...check, as: e.target.value as 'hex' } })}
              >
                <option value="hex">in hex digits</option>
                <option value="bytes">in bytes</option>
              </select>
            </>
          )}
          <FieldsChoice map={map!} onCut={cut} />
        </>
      )}
    </>
  );
});

const SEPARATORS: Record<string, string> = {
  '': 'none',
  '2c': 'comma',
  '3b': 'semicolon',
  '09': 'tab',
  '7c': 'bar |',
  '20': 'space',
};
const ASSIGNS: Record<string, string> = { '': 'no names', '3d': 'NAME=value', '3a': 'NAME:value' };

/** How a frame is cut into fields: what stands between them, and what ends their names. */
function FieldsChoice({
  map,
  onCut,
}: {
  map: FrameMap;
  onCut: (part: Pick<FrameMap, 'fields' | 'address'>) => void;
}) {
  const separator = writeHex(map.fields?.separator ?? []);
  const assign = writeHex(map.fields?.assign ?? []);
  const choose = (
    label: string,
    value: string,
    names: Record<string, string>,
    set: (bytes: number[]) => void,
  ) => (
    <label>
      {label}{' '}
      <select value={value} onChange={(e) => set(readHex(e.target.value) ?? [])} {...tip(lostWith(map, {}))}>
        {Object.entries(value in names ? names : { ...names, [value]: value }).map(([bytes, name]) => (
          <option key={bytes} value={bytes} disabled={bytes === '' && map.readings.some(isField)}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
  const isField = (r: FrameMap['readings'][number]) => r.field !== undefined;
  return (
    <>
      {choose('Fields between', separator, SEPARATORS, (bytes) => {
        // What a message speaks of may stand in a field: with none there is no such place.
        const { address } = map;
        onCut(
          bytes.length
            ? { fields: { ...map.fields, separator: bytes }, address }
            : { fields: undefined, address: address && 'field' in address ? undefined : address },
        );
      })}
      {map.fields &&
        choose('Names', assign, ASSIGNS, (bytes) =>
          onCut({
            fields: { separator: map.fields!.separator, ...(bytes.length ? { assign: bytes } : {}) },
            address: map.address,
          }),
        )}
    </>
  );
}

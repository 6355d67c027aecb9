import { parseClock } from '../clock/clock.ts';
import { CRC16_DEFAULT, type Crc16 } from './check.ts';
import { checkHolds, FrameDecoder } from './decoder.ts';
import type { FrameMap } from './frame-map.ts';

type Framing = FrameMap['framing'];
type Check = FrameMap['check'];

/** A way to cut bytes into frames, with how much of the bytes it explains (0 to 1) and the frames it gives. */
export interface FramingFound {
  framing: Framing;
  explains: number;
  frames: Uint8Array[];
}

/** Bytes that devices like to begin and end frames with: control characters of ASCII. */
const STARTS = [[0x02], [0x01], [0x10, 0x02], [0x0c], [0x1b], [0x55, 0xaa], [0xaa, 0x55], [0x7e]];
const ENDS = [[0x03], [0x04], [0x10, 0x03], [0x0d, 0x0a], [0x0d], [0x0a], [0x17], [0x7e]];
const LONGEST = 512;
const FEWEST = 4;

/**
 * Looks for how unknown bytes are cut into frames: by common start and end bytes, else by a byte that comes back
 * at one distance. The best way, which explains most and gives frames of one length, comes first. Needs four
 * frames at least; fewer give no answer.
 */
export function findFraming(bytes: Uint8Array): FramingFound[] {
  const found: FramingFound[] = [];
  for (const start of STARTS) for (const end of ENDS) found.push(...delimited(bytes, start, end));
  found.push(...fixed(bytes));
  const score = (f: FramingFound) => f.explains - (f.framing.kind === 'fixed' ? 0.3 : 0);
  return found
    .filter((f) => f.frames.length >= FEWEST && f.explains > 0.5)
    .sort((a, b) => score(b) - score(a));
}

function startsWith(bytes: Uint8Array, at: number, what: readonly number[]): boolean {
  return what.every((b, i) => bytes[at + i] === b);
}

function delimited(bytes: Uint8Array, start: readonly number[], end: readonly number[]): FramingFound[] {
  const frames: Uint8Array[] = [];
  let from = -1;
  for (let at = 0; at < bytes.length; at++) {
    if (from < 0 && startsWith(bytes, at, start)) from = at;
    if (from < 0 || at < from + start.length || !startsWith(bytes, at, end)) continue;
    const next = at + end.length;
    if (next - from <= LONGEST) frames.push(bytes.slice(from, next));
    from = -1;
  }
  const length = mode(frames.map((f) => f.length));
  if (length < start.length + end.length + 2) return [];
  const regular = frames.filter((f) => f.length === length);
  const framing: Framing = { kind: 'delimited', start: [...start], end: [...end], maxLength: length };
  return [{ framing, explains: (regular.length * length) / bytes.length, frames: regular }];
}

/** Frames of one length that begin with a byte which comes back at just that distance. */
function fixed(bytes: Uint8Array): FramingFound[] {
  const places = new Map<number, number[]>();
  bytes.forEach((b, i) => (places.get(b) ?? places.set(b, []).get(b)!).push(i));
  const found: FramingFound[] = [];
  for (const [byte, at] of places) {
    const length = mode(at.slice(1).map((p, i) => p - at[i]!));
    if (at.length < FEWEST || length < 4 || length > LONGEST) continue;
    const framing: Framing = { kind: 'fixed', start: [byte], length };
    const frames = new FrameDecoder({
      schema: 1,
      key: 'trial',
      name: 'trial',
      framing,
      check: { kind: 'none' },
      readings: [],
    })
      .push(bytes)
      .map((f) => f.bytes);
    // One byte stands anywhere by chance; frames it begins must follow one another almost without a break.
    if (frames.length < 2 * FEWEST || frames.length * length < 0.9 * bytes.length) continue;
    // A frame that ends as lines and blocks of text do is cut at the right place.
    const ends = [0x0a, 0x0d, 0x03, 0x04].includes(frames[0]?.at(-1) ?? -1) ? 0.05 : 0;
    found.push({ framing, explains: (frames.length * length) / bytes.length + ends, frames });
  }
  return found.sort((a, b) => b.explains - a.explains).slice(0, 3);
}

function mode(numbers: readonly number[]): number {
  const counts = new Map<number, number>();
  for (const n of numbers) counts.set(n, (counts.get(n) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]?.[0] ?? 0;
}

const CRCS: Crc16[] = [
  CRC16_DEFAULT,
  { poly: 0x1021, init: 0, reflect: false, xorOut: 0 },
  { poly: 0x8005, init: 0, reflect: true, xorOut: 0 },
  { poly: 0x8005, init: 0xffff, reflect: true, xorOut: 0 },
];

/**
 * Tries the checks that devices use over the frames: each kind, over the frame from its first or second byte up to
 * the check, written as bytes or as hexadecimal digits, before the end bytes or at the very end. Gives those that
 * hold for every frame, the likeliest first; none when the frames do not differ enough to tell.
 */
export function findCheck(frames: readonly Uint8Array[], framing: Framing): Check[] {
  const different = new Set(frames.map((f) => f.join(','))).size;
  if (different < 3) return [];
  const tail = framing.kind === 'delimited' ? framing.end.length : 0;
  const head = framing.start.length;
  const found: Check[] = [];
  for (const after of new Set([tail, 0, 1, 2])) {
    for (const kind of ['xor', 'sum8', 'crc16'] as const) {
      for (const as of ['hex', 'bytes'] as const) {
        const width = (kind === 'crc16' ? 2 : 1) * (as === 'hex' ? 2 : 1);
        const at = -after - width;
        for (const from of new Set([head, 0, head + 1])) {
          for (const crc of kind === 'crc16' ? CRCS : [undefined]) {
            const check: Check = { kind, from, to: at, at, as, ...(crc ? { crc } : {}) };
            if (frames.every((f) => f.length > width + after + from && checkHolds(f, check)))
              found.push(check);
          }
        }
      }
    }
  }
  return found;
}

/** A run of bytes that changed, with what stood there before and after. */
export interface ChangedRun {
  offset: number;
  length: number;
  before: string;
  after: string;
}

/**
 * Watches frames of one length for what a button changes. Bytes that move by themselves (a running clock, the
 * check) are learnt at first and left out until asked for.
 */
export class Listener {
  private readonly restless = new Set<number>();
  private calm: Uint8Array | null = null;
  private readonly changed = new Map<number, { before: number; after: number }>();

  /** A frame while nobody presses anything: what differs is restless. */
  learn(frame: Uint8Array): void {
    if (this.calm?.length === frame.length)
      frame.forEach((b, i) => b !== this.calm![i] && this.restless.add(i));
    this.calm = frame.slice();
  }

  /** A frame while the operator presses a button. */
  hear(frame: Uint8Array): void {
    const calm = this.calm;
    if (!calm || calm.length !== frame.length) return;
    frame.forEach((after, i) => {
      if (after !== calm[i] && !this.restless.has(i)) this.changed.set(i, { before: calm[i]!, after });
    });
  }

  /** What changed so far, as runs of neighbouring bytes, first to last. */
  runs(): ChangedRun[] {
    const char = (b: number) => (b >= 0x20 && b < 0x7f ? String.fromCharCode(b) : '\u00b7');
    return joined(
      [...this.changed]
        .sort((a, b) => a[0] - b[0])
        .map(([offset, { before, after }]) => ({ offset, before: char(before), after: char(after) })),
    );
  }
}

/** Bytes in their order as runs of neighbours. */
function joined(bytes: readonly { offset: number; before: string; after: string }[]): ChangedRun[] {
  const runs: ChangedRun[] = [];
  for (const { offset, before, after } of bytes) {
    const last = runs.at(-1);
    if (last && last.offset + last.length === offset) {
      last.length++;
      last.before += before;
      last.after += after;
    } else runs.push({ offset, length: 1, before, after });
  }
  return runs;
}

/**
 * The parts of changed runs that no reading has yet: where a clock is named that a button starts, what says that it
 * runs stands alone.
 */
export function unnamedParts(
  runs: readonly ChangedRun[],
  readings: readonly { offset: number; length: number }[],
): ChangedRun[] {
  const named = (at: number) => readings.some((r) => at >= r.offset && at < r.offset + r.length);
  const bytes = runs.flatMap(({ offset, length, before, after }) =>
    Array.from({ length }, (_, i) => ({ offset: offset + i, before: before[i]!, after: after[i]! })),
  );
  return joined(bytes.filter((b) => !named(b.offset)));
}

/**
 * The kind of reading that bytes with this name, if they have one, are likely to be: what is written as a time is a
 * clock, and so is 24 where the name speaks of a clock; one character is a flag where the name says that something runs
 * or sounds; digits are a whole number; all else is text.
 */
export function kindFor(name: string, raw: string): 'clock' | 'flag' | 'integer' | 'text' {
  const words: string[] = name.toLowerCase().match(/[a-z]+/g) ?? [];
  const says = (...any: string[]) => any.some((w) => words.includes(w));
  if (says('running', 'runs', 'horn', 'buzzer', 'siren') && raw.trim().length <= 1) return 'flag';
  const text = raw.trim();
  if (/[:.]/.test(text) ? parseClock(text) : says('clock', 'timer') && clockForm(text)) return 'clock';
  return /^[+-]?\d+$/.test(text) ? 'integer' : 'text';
}

/**
 * How these characters are likely to be written as a time: as people write it (nothing to say), or without a colon,
 * 1234 or, of five digits, 12345 with tenths last. Null for what is no time in either form.
 */
export function clockForm(raw: string): { written?: 'digits'; tenths?: true } | null {
  const text = raw.trim();
  if (parseClock(text)) return text.length === 3 && /^\d+$/.test(text) ? { written: 'digits' } : {};
  if (/^\d{1,2}[0-5]\d$/.test(text)) return { written: 'digits' };
  return /^\d\d[0-5]\d\d$/.test(text) ? { written: 'digits', tenths: true } : null;
}

/** True when a run lies within the check's own bytes, which change with everything. */
export function inCheck(run: ChangedRun, check: Check, length: number): boolean {
  if (check.kind === 'none') return false;
  const at = check.at < 0 ? length + check.at : check.at;
  const width = (check.kind === 'crc16' ? 2 : 1) * (check.as === 'hex' ? 2 : 1);
  return run.offset >= at && run.offset + run.length <= at + width;
}

/**
 * The place of the number that a changed run is part of: of a score that went from 3 to 4, the blank or the zeros
 * for tens and hundreds belong to it too (one blank, or two zeros, at most).
 */
export function widened(run: ChangedRun, frame: Uint8Array): { offset: number; length: number } {
  let { offset, length } = run;
  if (!/^\d+$/.test(run.after)) return { offset, length };
  const most = frame[offset - 1] === 0x30 ? 3 : 2;
  while (length < most && (frame[offset - 1] === 0x20 || frame[offset - 1] === 0x30)) {
    offset--;
    length++;
  }
  return { offset, length };
}

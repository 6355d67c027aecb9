import { parseClock } from '../clock/clock.ts';
import { CRC16_DEFAULT, type Crc16 } from './check.ts';
import { checkHolds, FrameDecoder } from './decoder.ts';
import type { FrameMap } from './frame-map.ts';
import { byteText } from './parts.ts';
import { hexText } from './reading.ts';

type Framing = FrameMap['framing'];
type Check = FrameMap['check'];

/** A way to cut bytes into frames, with how much of the bytes it explains (0 to 1) and the frames it gives. */
export interface FramingFound {
  framing: Framing;
  explains: number;
  frames: Uint8Array[];
  /** How it was told, as a part of a sentence: `begins with 02 and ends with 03`. */
  told: string;
}

/** Bytes that devices like to begin and end frames with: control characters of ASCII. */
const STARTS = [[0x02], [0x01], [0x10, 0x02], [0x0c], [0x1b], [0x55, 0xaa], [0xaa, 0x55], [0x7e]];
const ENDS = [[0x03], [0x04], [0x10, 0x03], [0x0d, 0x0a], [0x0d], [0x0a], [0x17], [0x7e]];
const LONGEST = 512;
const FEWEST = 4;

/**
 * Looks for how unknown bytes are cut into frames: by common start and end bytes, frames of one length or of many; by lines
 * of text that only end; else by a byte that comes back at one distance. The best way, which explains most, comes first,
 * and of those that explain alike the one with frames of one length. Needs four frames at least; fewer give no answer.
 */
export function findFraming(bytes: Uint8Array): FramingFound[] {
  const found: FramingFound[] = [];
  for (const end of ENDS) {
    for (const start of STARTS) found.push(...delimited(bytes, start, end));
    found.push(...lines(bytes, end));
  }
  found.push(...fixed(bytes));
  const score = (f: FramingFound) => f.explains - (f.framing.kind === 'fixed' ? 0.3 : 0);
  return found
    .filter((f) => f.frames.length >= FEWEST && f.explains > 0.5)
    .sort((a, b) => score(b) - score(a));
}

function startsWith(bytes: Uint8Array, at: number, what: readonly number[]): boolean {
  return what.every((b, i) => bytes[at + i] === b);
}

/** A character of text, in ASCII or a code page that goes on from it. */
const isSign = (b: number) => b >= 0x20 && b !== 0x7f;
const total = (frames: readonly Uint8Array[]) => frames.reduce((sum, f) => sum + f.length, 0);

/** How much less a way explains that leaves more open: frames of many lengths, and lines without a start. */
const MANY_LENGTHS = 0.1;
const NO_START = 0.15;

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
  const least = start.length + end.length + 2;
  const told = `begins with ${hexText(start)} and ends with ${hexText(end)}`;
  const length = mode(frames.map((f) => f.length));
  if (length < least) return [];
  const regular = frames.filter((f) => f.length === length);
  const framing: Framing = { kind: 'delimited', start: [...start], end: [...end], maxLength: length };
  const found: FramingFound[] = [{ framing, explains: total(regular) / bytes.length, frames: regular, told }];
  const any = frames.filter((f) => f.length >= least);
  // Frames of one length prove themselves; of many only those of text that follow one another almost without a break: among
  // numbers any two bytes come by chance.
  const isText = (f: Uint8Array) => f.subarray(start.length, -end.length).every(isSign);
  if (any.length > regular.length && total(any) > 0.9 * bytes.length && any.every(isText))
    found.push({
      framing: { ...framing, maxLength: room(any) },
      explains: total(any) / bytes.length - MANY_LENGTHS,
      frames: any,
      told: `${told}, of many lengths`,
    });
  return found;
}

/** The longest frame that is waited for where those seen differ: twice as long as they were. */
const room = (frames: readonly Uint8Array[]) =>
  Math.min(4096, Math.max(64, 2 * Math.max(...frames.map((f) => f.length))));

/** Lines of text that end in one way and have no start. */
function lines(bytes: Uint8Array, end: readonly number[]): FramingFound[] {
  const frames: Uint8Array[] = [];
  let from = 0;
  for (let at = 0; at + end.length <= bytes.length; at++) {
    if (!startsWith(bytes, at, end)) continue;
    // The first may be half a line.
    if (from > 0 && at > from && at + end.length - from <= LONGEST)
      frames.push(bytes.slice(from, at + end.length));
    from = at + end.length;
    at = from - 1;
  }
  const isText = (f: Uint8Array) => f.subarray(0, -end.length).every((b) => isSign(b) || b === 0x09);
  if (frames.length < FEWEST || !frames.every(isText)) return [];
  const length = frames[0]!.length;
  const lengths = oneLength(frames) ? { minLength: length, maxLength: length } : { maxLength: room(frames) };
  return [
    {
      framing: { kind: 'delimited', start: [], end: [...end], ...lengths },
      explains: total(frames) / bytes.length - NO_START - (oneLength(frames) ? 0 : MANY_LENGTHS),
      frames,
      told: `lines of text that end with ${hexText(end)}`,
    },
  ];
}

const oneLength = (frames: readonly Uint8Array[]) => new Set(frames.map((f) => f.length)).size === 1;

/** Characters that clocks and scores are written with: they stand still for a while and begin no frame. */
const isDigitLike = (b: number) => (b >= 0x30 && b <= 0x3a) || b === 0x20 || b === 0x2e;
const isLineEnd = (b: number) => b === 0x0a || b === 0x0d;
/** Two digits packed into a byte. */
const isPacked = (b: number) => b >> 4 <= 9 && (b & 15) <= 9;

const isTextOrEnd = (f: Uint8Array) => f.every((b) => (b >= 0x20 && b < 0x7f) || (b >= 0x09 && b <= 0x0d));

/** Frames of one length that begin with a byte which comes back at just that distance. */
function fixed(bytes: Uint8Array): FramingFound[] {
  const places = new Map<number, number[]>();
  bytes.forEach((b, i) => (places.get(b) ?? places.set(b, []).get(b)!).push(i));
  const found: FramingFound[] = [];
  for (const [byte, at] of places) {
    const length = mode(at.slice(1).map((p, i) => p - at[i]!));
    if (at.length < FEWEST || length < 4 || length > LONGEST || isDigitLike(byte) || isLineEnd(byte))
      continue;
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
    // The minutes of a clock in packed digits stand still too, while the seconds behind them go.
    const behind = new Set(frames.map((f) => f[1]!));
    if (isPacked(byte) && behind.size > 2 && [...behind].every(isPacked)) continue;
    // Lines of text that happen to be as long are lines: their ends stand now here, now there.
    const lineEnds = new Set(frames.map((f) => f.indexOf(0x0a)));
    if (lineEnds.size > 1 && frames.every(isTextOrEnd)) continue;
    // A frame that ends as lines and blocks of text do is cut at the right place.
    const ends = [0x0a, 0x0d, 0x03, 0x04].includes(frames[0]?.at(-1) ?? -1) ? 0.05 : 0;
    // A byte that stands nowhere else in its frame was made to be found; most so where it is no small number.
    const alone = frames.filter((f) => f.indexOf(byte, 1) < 0).length / frames.length;
    const isLetter = byte >= 0x20 && byte < 0x7f;
    const made = isLetter ? 0 : 0.1 * alone + (byte >= 0x80 ? 0.04 : 0);
    found.push({
      framing,
      explains: (frames.length * length) / bytes.length + ends + made,
      frames,
      told: `${hexText([byte])} comes back after every ${length} bytes`,
    });
  }
  return found.sort((a, b) => b.explains - a.explains).slice(0, 3);
}

const SEPARATORS = [0x2c, 0x3b, 0x09, 0x7c];
const ASSIGNS = [0x3d, 0x3a];

/**
 * What is likely to separate the fields of these frames, and where fields have names (`HS=12`) what ends those; null where
 * nothing does. The numbers of fields may differ, but every frame has two at least.
 */
export function findFields(frames: readonly Uint8Array[]): FrameMap['fields'] | null {
  const few = frames.slice(-40);
  const count = (f: Uint8Array, byte: number) => f.reduce((n, b) => n + (b === byte ? 1 : 0), 0);
  let best: { byte: number; n: number } | null = null;
  for (const byte of SEPARATORS) {
    const counts = few.map((f) => count(f, byte));
    const n = Math.min(...counts);
    if (n > (best?.n ?? 0)) best = { byte, n };
  }
  if (!best || few.length === 0) return null;
  const { byte } = best;
  // A name is letters; the colon of a clock has digits before it.
  const named = (assign: number) => {
    const sign = `\\x${assign.toString(16)}`;
    const part = new RegExp(`^[^\\w]*[A-Za-z][\\w ]{0,30}${sign}`);
    return few.every((f) =>
      byteText(f)
        .trim()
        .split(String.fromCharCode(byte))
        .some((p) => part.test(p)),
    );
  };
  const assign = ASSIGNS.find(named);
  return { separator: [byte], ...(assign === undefined ? {} : { assign: [assign] }) };
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

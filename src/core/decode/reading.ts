import type { Scalar } from '../board/values.ts';
import { decodeText } from '../text/decode-text.ts';
import { parseClock, type ClockReading } from '../clock/clock.ts';
import type { ReadingDef } from './frame-map.ts';
import type { Parts } from './parts.ts';

/** One reading out of one frame. `problem` says why the bytes could not be read; then there is no value. */
export interface Reading {
  name: string;
  raw: string;
  value?: Scalar | ClockReading;
  problem?: string;
}

/** True for a reading that is a clock's time, false for text, numbers, flags and blank. */
export function isClockReading(value: Reading['value']): value is ClockReading {
  return typeof value === 'object' && value !== null;
}

/** ASCII text of bytes `from` (inclusive) to `to` (exclusive); others show as a middle dot. */
export function asciiText(bytes: Uint8Array, from: number, to: number): string {
  let s = '';
  for (let i = from; i < to; i++) {
    const b = bytes[i]!;
    s += b >= 0x20 && b < 0x7f ? String.fromCharCode(b) : '\u00b7';
  }
  return s;
}

/**
 * Reads one value out of a frame. Returns null where this frame has no word on it: where the map says that blanks are none
 * (`keep`), where it stands in messages of another address, or is a field that is not named here.
 * A frame too short for the reading, or bytes that are not of its kind, give a `problem`; it never throws.
 */
export function readValue(frame: Parts, def: ReadingDef): Reading | null {
  const { name } = def;
  const places = frame.placesOf(def);
  if (places === null) return null;
  if (typeof places === 'string') return { name, raw: '', problem: places };
  const { bytes: all } = frame;
  const bytes =
    places.length === 1
      ? all.subarray(places[0]!.from, places[0]!.to)
      : Uint8Array.from(places.flatMap(({ from, to }) => [...all.subarray(from, to)]));
  if (def.kind === 'binary') {
    if (bytes.length > 4)
      return { name, raw: hexText(bytes), problem: 'a binary number has four bytes at most' };
    return { name, raw: hexText(bytes), value: bytes.length ? binary(bytes, def) : null };
  }
  if (def.kind === 'bit')
    return { name, raw: hexText(bytes), value: bytes.length ? ((bytes[0]! >> def.bit) & 1) === 1 : null };
  const raw = rawText(bytes, def);
  const text = raw.replaceAll('\0', ' ').trim();
  if (text === '') {
    if (def.blank === 'keep') return null;
    if (def.blank === 'zero') return { name, raw, value: def.kind === 'clock' ? { ms: 0, step: 1000 } : 0 };
    return { name, raw, value: def.kind === 'flag' ? false : null };
  }
  const bad = (what: string): Reading => ({ name, raw, problem: `"${raw}" is not ${what}` });
  switch (def.kind) {
    case 'text':
      return { name, raw, value: text };
    case 'integer':
    case 'bcd':
      return /^[+-]?\d+$/.test(text) ? { name, raw, value: Number(text) } : bad('a whole number');
    case 'clock': {
      const bare = def.written && def.written !== 'bytes';
      const clock = parseClock(bare ? colonised(text, def.tenths === true) : text);
      return clock ? { name, raw, value: clock } : bad('a clock');
    }
    case 'flag':
      if (text === def.on) return { name, raw, value: true };
      return def.off === undefined || text === def.off
        ? { name, raw, value: false }
        : bad(`"${def.on}" or "${def.off}"`);
  }
}

/** The characters that a reading's bytes stand for, in the order in which they are read. */
function rawText(bytes: Uint8Array, def: ReadingDef): string {
  const written = def.kind === 'clock' ? def.written : undefined;
  const turned = (text: string) => (def.reversed ? [...text].reverse().join('') : text);
  if (written === 'bytes') return clockBytes(def.reversed ? bytes.toReversed() : bytes, def);
  if (written !== 'bcd' && def.kind !== 'bcd')
    return turned(
      def.kind === 'text' && def.page ? decodeText(bytes, def.page) : asciiText(bytes, 0, bytes.length),
    );
  const tenth = def.kind === 'clock' && def.tenths && def.more?.at(-1)?.length === 1;
  // A byte of their own for tenths holds one digit, in its lower half.
  return tenth
    ? turned(bcdText(bytes.subarray(0, -1), def.unpacked)) + bcdText(bytes.subarray(-1), true)
    : turned(bcdText(bytes, def.unpacked));
}

/** A clock of a byte each for hours, minutes, seconds and, where they are last, tenths, as it is written. */
function clockBytes(bytes: Uint8Array, def: ReadingDef): string {
  if (bytes.every((b) => b >= 0xaa)) return '';
  const parts = [...bytes];
  const tenth = def.kind === 'clock' && def.tenths ? `.${parts.pop() ?? ''}` : '';
  const [seconds = 0, minutes = 0, hours = 0] = parts.toReversed();
  return `${hours * 60 + minutes}:${String(seconds).padStart(2, '0')}${tenth}`;
}

/** Bytes as hexadecimal pairs, `02 0a`. */
export const hexText = (bytes: Iterable<number>) =>
  [...bytes].map((b) => b.toString(16).padStart(2, '0')).join(' ');

/** The digits of packed decimal bytes, two a byte or, unpacked, one; a nibble above 9 is a blank. */
function bcdText(bytes: Uint8Array, unpacked = false): string {
  return [...bytes]
    .map((b) => (unpacked ? [b & 15] : [b >> 4, b & 15]).map((n) => (n > 9 ? ' ' : n)).join(''))
    .join('');
}

function binary(bytes: Uint8Array, { signed, littleEnd }: { signed: boolean; littleEnd: boolean }): number {
  const ordered = littleEnd ? [...bytes].reverse() : [...bytes];
  const n = ordered.reduce((sum, b) => sum * 256 + b, 0);
  const range = 256 ** bytes.length;
  return signed && n >= range / 2 ? n - range : n;
}

/** Digits without a colon as a clock is written: 1234 is 12:34, with tenths 12345 (and 12:345) is 12:34.5. */
function colonised(digits: string, tenths: boolean): string {
  const t = digits.replace(/[\s:]/g, '').padStart(tenths ? 4 : 3, '0');
  const whole = tenths ? t.slice(0, -1) : t;
  return `${whole.slice(0, -2).replace(/^0+(?=\d)/, '')}:${whole.slice(-2)}${tenths ? `.${t.slice(-1)}` : ''}`;
}

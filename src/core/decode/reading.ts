import type { Scalar } from '../board/values.ts';
import { decodeText } from '../text/decode-text.ts';
import { parseClock, type ClockReading } from '../clock/clock.ts';
import type { ReadingDef } from './frame-map.ts';

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
 * Reads one value out of a frame. Returns null where the map says that blanks are no word (`keep`).
 * A frame too short for the reading, or bytes that are not of its kind, give a `problem`; it never throws.
 */
export function readValue(frame: Uint8Array, def: ReadingDef): Reading | null {
  const { name } = def;
  if (def.offset + def.length > frame.length) {
    return { name, raw: '', problem: `the frame ends before "${name}"` };
  }
  const bytes = frame.subarray(def.offset, def.offset + def.length);
  if (def.kind === 'binary') return { name, raw: hexText(bytes), value: binary(bytes, def) };
  if (def.kind === 'bit') return { name, raw: hexText(bytes), value: ((bytes[0]! >> def.bit) & 1) === 1 };
  const packed = def.kind === 'bcd' || (def.kind === 'clock' && def.written === 'bcd');
  const raw = packed
    ? bcdText(bytes)
    : def.kind === 'text' && def.page
      ? decodeText(bytes, def.page)
      : asciiText(frame, def.offset, def.offset + def.length);
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
      const clock = parseClock(def.written ? colonised(text, def.tenths === true) : text);
      return clock ? { name, raw, value: clock } : bad('a clock');
    }
    case 'flag':
      if (text === def.on) return { name, raw, value: true };
      return def.off === undefined || text === def.off
        ? { name, raw, value: false }
        : bad(`"${def.on}" or "${def.off}"`);
  }
}

const hexText = (bytes: Uint8Array) => [...bytes].map((b) => b.toString(16).padStart(2, '0')).join(' ');

/** The digits of packed decimal bytes; a nibble above 9 is a blank. */
function bcdText(bytes: Uint8Array): string {
  return [...bytes].map((b) => [b >> 4, b & 15].map((n) => (n > 9 ? ' ' : n)).join('')).join('');
}

function binary(bytes: Uint8Array, { signed, littleEnd }: { signed: boolean; littleEnd: boolean }): number {
  const ordered = littleEnd ? [...bytes].reverse() : [...bytes];
  const n = ordered.reduce((sum, b) => sum * 256 + b, 0);
  const range = 256 ** bytes.length;
  return signed && n >= range / 2 ? n - range : n;
}

/** Digits without a colon as a clock is written: 1234 is 12:34, with tenths 12345 is 12:34.5. */
function colonised(digits: string, tenths: boolean): string {
  const t = digits.replace(/\s/g, '').padStart(tenths ? 4 : 3, '0');
  const whole = tenths ? t.slice(0, -1) : t;
  return `${whole.slice(0, -2).replace(/^0+(?=\d)/, '')}:${whole.slice(-2)}${tenths ? `.${t.slice(-1)}` : ''}`;
}

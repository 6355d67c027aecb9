import type { Scalar } from '../board/values.ts';
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
  const raw = asciiText(frame, def.offset, def.offset + def.length);
  const text = raw.trim();
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
      return /^[+-]?\d+$/.test(text) ? { name, raw, value: Number(text) } : bad('a whole number');
    case 'clock': {
      const clock = parseClock(text);
      return clock ? { name, raw, value: clock } : bad('a clock');
    }
    case 'flag':
      if (text === def.on) return { name, raw, value: true };
      return def.off === undefined || text === def.off
        ? { name, raw, value: false }
        : bad(`"${def.on}" or "${def.off}"`);
  }
}

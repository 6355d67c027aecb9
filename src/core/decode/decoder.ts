import { crc16, sum8, xor8 } from './check.ts';
import type { FrameMap } from './frame-map.ts';
import { readValue, type Reading } from './reading.ts';

/** One frame that passed its check. */
export interface Frame {
  bytes: Uint8Array;
  readings: Reading[];
}

export interface DecoderCounts {
  /** Frames that passed their check. */
  good: number;
  /** Candidates whose check failed. */
  badChecks: number;
  /** Bytes that belong to no good frame. */
  skipped: number;
}

/**
 * Turns a controller's bytes, in any split, into frames. After garbage it finds its place again by dropping
 * one byte and looking for the next start, so that a good frame that follows a broken one is never lost.
 * It never throws, and it holds at most one frame's bytes back.
 *
 * Invariant: bytes pushed = bytes of good frames + `counts.skipped` + `pending`.
 */
export class FrameDecoder {
  readonly counts: DecoderCounts = { good: 0, badChecks: 0, skipped: 0 };
  /** The beginning of the newest frame whose check failed. */
  lastBad: Uint8Array | null = null;
  private buffer = new Uint8Array(1024);
  private head = 0;
  private tail = 0;

  constructor(private readonly map: FrameMap) {}

  /** Bytes held back for the rest of a frame. */
  get pending(): number {
    return this.tail - this.head;
  }

  /** A copy of the bytes held back. */
  get held(): Uint8Array {
    return this.buffer.slice(this.head, this.tail);
  }

  /** Takes bytes as they come; gives the frames that they completed, oldest first. */
  push(bytes: Uint8Array): Frame[] {
    this.append(bytes);
    const frames: Frame[] = [];
    for (;;) {
      const length = this.candidate();
      if (length === 0) return frames;
      const view = this.buffer.subarray(this.head, this.head + length);
      if (!checkHolds(view, this.map.check)) {
        this.counts.badChecks++;
        this.lastBad = view.slice(0, 80);
        this.skip(1);
        continue;
      }
      const frame = view.slice();
      this.head += length;
      this.counts.good++;
      frames.push({ bytes: frame, readings: readAll(frame, this.map) });
    }
  }

  /** Forgets bytes held back, as after a connection was lost: they are counted as skipped. */
  reset(): void {
    this.skip(this.pending);
  }

  private skip(n: number): void {
    this.head += n;
    this.counts.skipped += n;
  }

  private append(bytes: Uint8Array): void {
    if (this.tail + bytes.length > this.buffer.length) {
      const kept = this.buffer.subarray(this.head, this.tail);
      const need = kept.length + bytes.length;
      const roomy = need * 2 > this.buffer.length ? new Uint8Array(Math.max(1024, need * 2)) : this.buffer;
      roomy.set(kept);
      this.buffer = roomy;
      this.tail = kept.length;
      this.head = 0;
    }
    this.buffer.set(bytes, this.tail);
    this.tail += bytes.length;
  }

  /** Moves the head to a start and gives the length of the whole candidate frame there, 0 when more is needed. */
  private candidate(): number {
    const { framing } = this.map;
    const start = framing.start;
    for (;;) {
      this.seek(start);
      const held = this.pending;
      if (held < start.length || held === 0) return 0;
      if (framing.kind === 'fixed') return held >= framing.length ? framing.length : 0;
      const limit = Math.min(this.tail, this.head + framing.maxLength);
      const end = this.find(framing.end, this.head + start.length, limit);
      if (end >= 0) return end + framing.end.length - this.head;
      if (held < framing.maxLength) return 0;
      this.skip(1);
    }
  }

  /** Skips to the next place where `start` stands, or may stand once more bytes came. */
  private seek(start: readonly number[]): void {
    if (start.length === 0) return;
    let at = this.head;
    for (; at < this.tail; at++) {
      let n = 0;
      while (n < start.length && at + n < this.tail && this.buffer[at + n] === start[n]) n++;
      if (n === start.length || at + n === this.tail) break;
    }
    this.skip(at - this.head);
  }

  private find(what: readonly number[], from: number, to: number): number {
    for (let at = from; at + what.length <= to; at++) {
      let n = 0;
      while (n < what.length && this.buffer[at + n] === what[n]) n++;
      if (n === what.length) return at;
    }
    return -1;
  }
}

function readAll(frame: Uint8Array, map: FrameMap): Reading[] {
  const readings: Reading[] = [];
  for (const def of map.readings) {
    const reading = readValue(frame, def);
    if (reading) readings.push(reading);
  }
  return readings;
}

/** True when the check holds for the frame, or is none. Places outside the frame fail the check. */
export function checkHolds(frame: Uint8Array, check: FrameMap['check']): boolean {
  if (check.kind === 'none') return true;
  const place = (n: number) => (n < 0 ? frame.length + n : n);
  const [from, to, at] = [place(check.from), place(check.to), place(check.at)];
  const width = (check.kind === 'crc16' ? 2 : 1) * (check.as === 'hex' ? 2 : 1);
  if (from < 0 || to > frame.length || from > to || at < 0 || at + width > frame.length) return false;
  let said = 0;
  for (let i = at; i < at + width; i++) {
    const digit = check.as === 'hex' ? hexDigit(frame[i]!) : frame[i]!;
    if (digit < 0) return false;
    said = (said << (check.as === 'hex' ? 4 : 8)) | digit;
  }
  if (check.kind === 'xor') return said === xor8(frame, from, to);
  if (check.kind === 'sum8') return said === sum8(frame, from, to);
  return said === crc16(frame, from, to, check.crc);
}

function hexDigit(byte: number): number {
  if (byte >= 0x30 && byte <= 0x39) return byte - 0x30;
  const lower = byte | 0x20;
  return lower >= 0x61 && lower <= 0x66 ? lower - 0x57 : -1;
}

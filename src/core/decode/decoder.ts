import { crc16, sum8, xor8 } from './check.ts';
import type { FrameMap } from './frame-map.ts';
import { RunningCheck } from './running-check.ts';
import { Parts } from './parts.ts';
import { readValue, type Reading } from './reading.ts';

/** One frame that passed its check. Its readings are worked out when somebody asks for them. */
export class Frame {
  private read: Reading[] | null = null;
  private apart: Parts | null = null;

  constructor(
    readonly bytes: Uint8Array,
    private readonly map: FrameMap,
  ) {}

  get readings(): Reading[] {
    return (this.read ??= readAll(this.parts, this.map));
  }

  /** How its map takes it apart. */
  get parts(): Parts {
    return (this.apart ??= new Parts(this.bytes, this.map));
  }
}

/** How far back `newestOf` looks, in frames that say it all; of each address the newest message is found however far back. */
const LOOKED_BACK = 200;

/**
 * What frames that came together say in the end: of each reading the newest that could be read, since one frame need not
 * say all of them.
 */
export function newestOf(frames: readonly Frame[], map: FrameMap): Reading[] {
  const newest = new Map<string, Reading>();
  const addressed = map.readings.some((r) => r.address !== undefined);
  const seen = new Set<string | null>();
  for (let i = frames.length - 1; i >= (addressed ? 0 : Math.max(0, frames.length - LOOKED_BACK)); i--) {
    const frame = frames[i]!;
    if (addressed) {
      const { address } = frame.parts;
      if (seen.has(address)) continue;
      seen.add(address);
    }
    for (const reading of frame.readings) {
      const known = newest.get(reading.name);
      if (!known || (known.problem !== undefined && reading.problem === undefined))
        newest.set(reading.name, reading);
    }
    if (newest.size === map.readings.length && [...newest.values()].every((r) => r.problem === undefined))
      break;
  }
  return [...newest.values()];
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
  private readonly running: RunningCheck | null;
  /** The first end of a frame at or after where one was last sought, and how far was looked; -1 for none. */
  private endAt = -1;
  private endSought = 0;
  /** All up to the next end is dropped: it began before, or is longer than a line may be. */
  private toNextEnd = false;

  /**
   * `midway`: the bytes may begin in the middle of a frame. Where neither a start nor a check would tell, what comes before
   * the first end is dropped then, for half a line can read as a whole one.
   */
  constructor(
    private readonly map: FrameMap,
    private readonly midway = false,
  ) {
    const { check } = map;
    this.running = check.kind === 'none' ? null : new RunningCheck(check.kind, check.crc);
    this.beginAnew();
  }

  private beginAnew(): void {
    const { framing, check } = this.map;
    this.toNextEnd =
      this.midway && framing.kind === 'delimited' && framing.start.length === 0 && check.kind === 'none';
  }

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
    let bad: [number, number] | null = null;
    for (;;) {
      const length = this.candidate();
      if (length === 0) {
        if (bad) this.lastBad = this.buffer.slice(...bad);
        return frames;
      }
      if (!this.holds(length)) {
        this.counts.badChecks++;
        bad = [this.head, this.head + Math.min(80, length)];
        // A line without a start goes whole: its last part could pass a short check by chance.
        this.skip(this.startless ? length : 1);
        continue;
      }
      const frame = this.buffer.slice(this.head, this.head + length);
      this.head += length;
      this.counts.good++;
      frames.push(new Frame(frame, this.map));
    }
  }

  /** Forgets bytes held back, as after a connection was lost: they are counted as skipped. */
  reset(): void {
    this.skip(this.pending);
    this.beginAnew();
  }

  private get startless(): boolean {
    const { framing } = this.map;
    return framing.kind === 'delimited' && framing.start.length === 0;
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
      this.endAt = -1;
      this.endSought = 0;
      this.running?.restart(this.buffer, this.tail);
    }
    this.buffer.set(bytes, this.tail);
    this.running?.take(this.buffer, this.tail, this.tail + bytes.length);
    this.tail += bytes.length;
  }

  /** True when the check of the candidate at the head holds. */
  private holds(length: number): boolean {
    const { check } = this.map;
    if (check.kind === 'none') return true;
    const at = placesOf(length, check);
    if (!at) return false;
    const { head } = this;
    return (
      saidAt(this.buffer, head + at.at, at.width, check.as) ===
      this.running!.over(head + at.from, head + at.to)
    );
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
      if (this.toNextEnd && !this.dropToEnd(framing.end)) return 0;
      const least = Math.max(start.length, (framing.minLength ?? 0) - framing.end.length);
      const end = this.endAfter(framing.end, this.head + least);
      const length = end + framing.end.length - this.head;
      // Between two lines that only end, an end by itself is an empty line.
      if (end >= 0 && length === framing.end.length) this.skip(length);
      else if (end >= 0 && length <= framing.maxLength) return length;
      else if (this.pending < framing.maxLength) return 0;
      else if (start.length > 0) this.skip(1);
      else this.toNextEnd = true;
    }
  }

  /** Drops everything up to the next end and with it; false while none has come. */
  private dropToEnd(end: readonly number[]): boolean {
    const at = this.endAfter(end, this.head);
    if (at >= 0) this.skip(at + end.length - this.head);
    else this.skip(Math.max(0, this.pending - (end.length - 1)));
    this.toNextEnd = at < 0;
    return at >= 0;
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

  /** Where the first end at or after a place stands; -1 where none has come. No byte is looked at twice. */
  private endAfter(what: readonly number[], from: number): number {
    if (this.endAt >= from) return this.endAt;
    const last = this.tail - what.length;
    let at = Math.max(from, this.endSought);
    for (; at <= last; at++) {
      let n = 0;
      while (n < what.length && this.buffer[at + n] === what[n]) n++;
      if (n === what.length) break;
    }
    this.endSought = at;
    this.endAt = at <= last ? at : -1;
    return this.endAt;
  }
}

function readAll(frame: Parts, map: FrameMap): Reading[] {
  const readings: Reading[] = [];
  for (const def of map.readings) {
    const reading = readValue(frame, def);
    if (reading) readings.push(reading);
  }
  return readings;
}

type Check = Exclude<FrameMap['check'], { kind: 'none' }>;

/** The places of a check in a frame of a length; null where they lie outside it. */
function placesOf(
  length: number,
  check: Check,
): { from: number; to: number; at: number; width: number } | null {
  const place = (n: number) => (n < 0 ? length + n : n);
  const [from, to, at] = [place(check.from), place(check.to), place(check.at)];
  const width = (check.kind === 'crc16' ? 2 : 1) * (check.as === 'hex' ? 2 : 1);
  return from < 0 || to > length || from > to || at < 0 || at + width > length
    ? null
    : { from, to, at, width };
}

/** What a check is said to be at a place; -1 where that is no number. */
function saidAt(bytes: Uint8Array, at: number, width: number, as: Check['as']): number {
  let said = 0;
  for (let i = at; i < at + width; i++) {
    const digit = as === 'hex' ? hexDigit(bytes[i]!) : bytes[i]!;
    if (digit < 0) return -1;
    said = (said << (as === 'hex' ? 4 : 8)) | digit;
  }
  return said;
}

/** True when the check holds for the frame, or is none. Places outside the frame fail the check. */
export function checkHolds(frame: Uint8Array, check: FrameMap['check']): boolean {
  if (check.kind === 'none') return true;
  const places = placesOf(frame.length, check);
  if (!places) return false;
  const { from, to, at, width } = places;
  const said = saidAt(frame, at, width, check.as);
  if (check.kind === 'xor') return said === xor8(frame, from, to);
  if (check.kind === 'sum8') return said === sum8(frame, from, to);
  return said === crc16(frame, from, to, check.crc);
}

function hexDigit(byte: number): number {
  if (byte >= 0x30 && byte <= 0x39) return byte - 0x30;
  const lower = byte | 0x20;
  return lower >= 0x61 && lower <= 0x66 ? lower - 0x57 : -1;
}

import type { FrameMap, ReadingDef } from './frame-map.ts';
import { byteText, type Parts } from './parts.ts';

type Check = FrameMap['check'];

/** A run of bytes that changed, with what stood there before and after. */
export interface ChangedRun {
  offset: number;
  length: number;
  before: string;
  after: string;
  /** The message's address, where messages have one. */
  address?: string;
  /** The field that changed, by its place or its name, in frames that are cut into fields. */
  field?: number | string;
}

/** One part of a frame that is compared with what it was: a byte, or a field. */
interface Cell {
  key: number | string;
  text: string;
  offset: number;
  length: number;
}

function cellsOf(frame: Parts): Cell[] {
  const { bytes, fields } = frame;
  if (fields.length === 0)
    return [...bytes].map((b, i) => ({ key: i, text: String.fromCharCode(b), offset: i, length: 1 }));
  return fields.map((f, i) => ({
    key: f.name ?? i + 1,
    text: byteText(bytes.subarray(f.from, f.to)),
    offset: f.from,
    length: f.to - f.from,
  }));
}

const shown = (text: string) => text.replace(/[^\x20-\x7e]/g, '\u00b7');

/**
 * Watches frames for what a button changes, byte by byte or field by field, in the messages of each address by themselves.
 * What moves by itself (a running clock, the check) is learnt at first and left out until asked for.
 */
export class Listener {
  private readonly restless = new Set<string>();
  /** What stood at each part while nobody pressed anything. */
  private readonly calm = new Map<string, string>();
  /** How many parts messages of an address had: bytes are compared only with those of a frame as long. */
  private readonly sizes = new Map<string, number>();
  private readonly changed = new Map<string, ChangedRun>();

  /** A frame while nobody presses anything: what differs is restless. */
  learn(frame: Parts): void {
    for (const [id, cell] of this.comparable(frame, true)) {
      const was = this.calm.get(id);
      if (was !== undefined && was !== cell.text) this.restless.add(id);
      this.calm.set(id, cell.text);
    }
  }

  /** A frame while the operator presses a button. A message of an address that was not heard before changes from nothing. */
  receive(frame: Parts): void {
    const { address } = frame;
    const isNew = address !== null && !this.sizes.has(address);
    for (const [id, cell] of this.comparable(frame, isNew)) {
      const before = this.calm.get(id) ?? (isNew ? '' : undefined);
      if (before === undefined || before === cell.text || this.restless.has(id)) continue;
      const { offset, length, key } = cell;
      this.changed.set(id, {
        offset,
        length,
        before: shown(before),
        after: shown(cell.text),
        ...(address === null ? {} : { address }),
        ...(frame.fields.length ? { field: key } : {}),
      });
    }
  }

  private *comparable(frame: Parts, takeSize: boolean): Generator<[string, Cell]> {
    const address = frame.address ?? '';
    const cells = cellsOf(frame);
    const named = frame.fields.some((f) => f.name !== null);
    const same = this.sizes.get(address) === cells.length;
    if (takeSize) this.sizes.set(address, cells.length);
    else if (!same && !named) return;
    for (const cell of cells) yield [`${address}\0${cell.key}`, cell];
  }

  /** What changed so far: bytes as runs of neighbours, fields one by one; first to last. */
  runs(): ChangedRun[] {
    return joined([...this.changed.values()].sort((a, b) => a.offset - b.offset));
  }
}

/** Bytes in their order as runs of neighbours; fields stay apart. */
function joined(parts: readonly ChangedRun[]): ChangedRun[] {
  const runs: ChangedRun[] = [];
  for (const part of parts) {
    const last = runs.at(-1);
    const follows = last && last.offset + last.length === part.offset && last.address === part.address;
    if (last && follows && part.field === undefined) {
      last.length += part.length;
      last.before += part.before;
      last.after += part.after;
    } else runs.push({ ...part });
  }
  return runs;
}

/**
 * The parts of changed runs that no reading has yet: where a clock is named that a button starts, what says that it
 * runs stands alone.
 */
export function unnamedParts(
  runs: readonly ChangedRun[],
  readings: readonly Pick<ReadingDef, 'offset' | 'length' | 'more' | 'field' | 'address'>[],
): ChangedRun[] {
  const named = (run: ChangedRun, at: number) =>
    readings.some(
      (r) =>
        (r.address === undefined || r.address === run.address) &&
        (run.field === undefined
          ? [r, ...(r.more ?? [])].some((p) => at >= p.offset && at < p.offset + p.length)
          : r.field === run.field),
    );
  return joined(
    runs.flatMap((run) =>
      run.field !== undefined
        ? named(run, run.offset)
          ? []
          : [run]
        : Array.from({ length: run.length }, (_, i) => ({
            ...run,
            offset: run.offset + i,
            length: 1,
            before: run.before[i] ?? '',
            after: run.after[i] ?? '',
          })).filter((b) => !named(b, b.offset)),
    ),
  );
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

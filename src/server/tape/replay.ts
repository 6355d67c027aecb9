import { pino } from 'pino';
import { Board } from '../../core/board/board.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { SportProfile } from '../../core/sport/profile.ts';
import type { IntakeMemory } from '../../core/tape/memory.ts';
import type { Tape, TapeEntry } from '../../core/tape/tape.ts';
import { readHostPolicy } from '../ingest/document/hosts.ts';
import type { DocumentReader } from '../ingest/document/reader.ts';
import { Hub } from '../live/hub.ts';
import { machineTime, type Scheduler } from '../scheduler.ts';
import { Sources } from '../live/sources.ts';

/** Lets one entry of a tape be said; its moment 0 counts as server time `zero`. */
export async function replayEntry(
  entry: TapeEntry,
  zero: number,
  sources: Sources,
  look: (at: number) => unknown,
): Promise<void> {
  const at = zero + entry.at;
  if (entry.kind === 'state') sources.recall(entry.memory, at);
  else if (entry.kind === 'look') look(at);
  else await sources.replay(entry, at, zero);
}

/** The sources that a tape has just before the entry of a number. */
export function bundlesAt({ head, entries }: Tape, before: number): SourceBundle[] {
  const bundles = new Map(head.sources.map((b) => [b.source.key, b]));
  for (const entry of entries.slice(0, before)) {
    if (entry.kind !== 'said' || entry.said.kind !== 'bundle') continue;
    if (entry.said.bundle) bundles.set(entry.source, entry.said.bundle);
    else bundles.delete(entry.source);
  }
  return [...bundles.values()];
}

/** The number of the newest state at or before a moment: from there a tape can be played. */
export function stateBefore(entries: readonly TapeEntry[], at: number): number {
  let found = 0;
  for (const [i, entry] of entries.entries()) {
    if (entry.at > at) break;
    if (entry.kind === 'state') found = i;
  }
  return found;
}

/** Sources over a board of their own, which nobody sees. */
export function unseenSources(
  profile: SportProfile,
  reader: DocumentReader,
  scheduler: Scheduler = machineTime,
) {
  const board = new Board(profile.fields);
  const hub = new Hub(scheduler);
  const sources = new Sources({
    board,
    hub,
    scheduler,
    spread: () => {},
    reader,
    reach: { hosts: readHostPolicy(undefined), folders: [] },
    logger: pino({ level: 'silent' }),
    now: () => 0,
    tape: true,
  });
  const close = () => {
    sources.stop();
    hub.close();
  };
  return { board, sources, close };
}

/** A board of its own with a tape's sources, which nobody sees. */
export function offAir(tape: Tape, profile: SportProfile, reader: DocumentReader) {
  const made = unseenSources(profile, reader);
  for (const bundle of bundlesAt(tape, 0)) made.sources.put(bundle);
  return made;
}

/** What was known just before the entry of a number, with times counted from `from`, ms of the tape. */
export async function knownAt(
  tape: Tape,
  before: number,
  from: number,
  profile: SportProfile,
  reader: DocumentReader,
): Promise<IntakeMemory> {
  const { sources, close } = offAir(tape, profile, reader);
  try {
    for (const entry of tape.entries.slice(0, before))
      await replayEntry(entry, 0, sources, (at) => sources.look(at));
    return sources.remember(from);
  } finally {
    close();
  }
}

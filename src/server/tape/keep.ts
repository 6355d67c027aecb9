import { randomUUID } from 'node:crypto';
import { lengthOf, type Tape, type TapeInfo } from '../../core/tape/tape.ts';
import type { Store } from '../store/store.ts';
import { partsOf } from './lines.ts';

/** A key for a new tape. */
export const newTapeKey = () => `tape-${randomUUID().slice(0, 8)}`;

/** Writes a tape's parts and gives what the list is to say of it; it is on no list yet. */
export async function keepTape(store: Pick<Store, 'putTapePart'>, tape: Tape): Promise<TapeInfo> {
  const key = newTapeKey();
  let size = 0;
  let part = 0;
  for await (const bytes of partsOf(tape)) {
    await store.putTapePart(key, { part: part++, bytes });
    size += bytes.length;
  }
  const { name, recorded, profile, sources } = tape.head;
  return {
    key,
    name,
    recorded,
    length: lengthOf(tape),
    size,
    entries: tape.entries.length,
    profile,
    sources: sources.map((b) => b.source.name),
    recording: false,
    problem: null,
  };
}

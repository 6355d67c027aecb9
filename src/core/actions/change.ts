import type { Change as BoardChange } from '../board/board.ts';
import type { FieldValue } from '../board/values.ts';
import type { Documents } from '../documents/kinds.ts';
import type { MediaEntry } from '../media/media.ts';
import type { Lane } from '../show/show.ts';
import type { IntakeMemory } from '../tape/memory.ts';
import type { TapeInfo } from '../tape/tape.ts';
import type { DeckRequest } from './deck-requests.ts';

/** A value held by hand, since when (server ms). */
export interface Pin {
  value: FieldValue;
  at: number;
}

/** Which game is played. */
export interface Setting {
  schema: 1;
  game: string | null;
}

/** All that is kept under a kind and a key: documents, and what the show is made of. */
export interface Stored extends Documents {
  lane: Lane;
  pin: Pin;
  media: MediaEntry;
  tape: TapeInfo;
  setting: Setting;
}
export type StoredKind = keyof Stored;

interface EditOf<K extends StoredKind> {
  kind: K;
  /** A lane's output and zone, a pin's field, a medium's path; else its own key. */
  key: string;
  /** What stood there before; null for nothing. */
  was: Stored[K] | null;
  /** What stands there now; null for nothing. */
  is: Stored[K] | null;
  /** The text that stood or stands there, of a document that cannot be read. */
  wasText?: string;
  isText?: string;
  /** For a document: how often it was saved, with this. */
  revision?: number;
}

/** One thing put in its place or taken away, with what stood there before. */
export type Edit = { [K in StoredKind]: EditOf<K> }[StoredKind];

/** A value of the board as it is kept. */
export interface BoardRow {
  field: string;
  value: FieldValue;
  origin: string;
  at: number;
}

/** The sides exchanged, all blank for a new game, or as it was at a moment that counts as `zero`. */
export type BoardReset = 'swapped' | 'fresh' | { memory: IntakeMemory; zero: number };

/**
 * What an action changes, all of it or nothing: edits of what is kept, values of the board, and what is done beside them.
 * The same form is committed, told to the desks, taken back and kept as history.
 */
export interface Change {
  edits: Edit[];
  /** Values of the board as they are to be saved. */
  values?: BoardRow[];
  /** What the board and all that is known of the sources becomes; `values` has what of it is kept. */
  reset?: BoardReset;
  /** What a pad set, with the source that it is. */
  press?: { source: string; changes: BoardChange[]; at: number };
  /** A source that gets its fields back; nothing of it is kept but the action itself. */
  giveBack?: string;
  /** How long after it is told it happens on air, in ms; at once where it is not given. */
  lead?: number;
  /** The test card of an output, put on or taken off; nothing of it is kept but the action itself. */
  card?: { output: string; on: boolean };
  /** What the tape deck is to do; nothing of it is kept but the action itself. */
  deck?: DeckRequest;
}

/** What an action would change. */
export interface Decision {
  change: Change;
  /** What restores all that was; where it is not given, the edits the other way. */
  undo?: Change;
  /** The action that an undo does in place of `undo`, or null where it is never taken back. */
  back?: object | null;
}

/** One edit, made of what stands there and what is to. */
export const edit = <K extends StoredKind>(
  kind: K,
  key: string,
  was: Stored[K] | null,
  is: Stored[K] | null,
): Edit => ({ kind, key, was, is }) as Edit;

/** The same edits the other way, last first. */
export const reversed = (edits: readonly Edit[]): Edit[] =>
  edits
    .map(({ was, is, wasText, isText, ...at }) => ({
      ...at,
      was: is,
      is: was,
      ...(isText === undefined ? {} : { wasText: isText }),
      ...(wasText === undefined ? {} : { isText: wasText }),
    }))
    .reverse() as Edit[];

/** What takes two changes back, one after the other, of the same things: from what stands after the second to what stood before both. */
export const backOver = (first: Change, second: Change): Change => ({
  ...second,
  edits: second.edits.map((e) => {
    const before = first.edits.find((f) => f.kind === e.kind && f.key === e.key);
    return (before ? { ...e, is: before.is } : e) as Edit;
  }),
});

/** The edits of one kind. */
export const editsOf = <K extends StoredKind>({ edits }: Pick<Change, 'edits'>, kind: K) =>
  edits.filter((e) => e.kind === kind) as EditOf<K>[];

import { createStore, type StoreApi } from 'zustand/vanilla';
import type { UndoState } from '../../core/actions/past.ts';
import type { BoardField, DeskSnapshot, Trace } from '../../core/wire/wire.ts';

/** What came of an action. */
export interface Answer {
  ok: boolean;
  text: string;
  /** Its answer has not come yet. */
  pending?: boolean;
  /** It was refused because somebody else changed the same thing meanwhile. */
  clash?: boolean;
}

/** What a page knows: plain data, each part another object only where it says something else. */
export interface DeskState {
  /** False while the server does not answer; null before its first word. */
  here: boolean | null;
  desk: DeskSnapshot | null;
  fields: ReadonlyMap<string, BoardField>;
  trace: Trace | null;
  /** What came of the last action from this page. */
  said: Answer | null;
  /** What an undo would take back and a redo would do again, in words; null for nothing. */
  undo: UndoState['undo'];
  redo: UndoState['redo'];
  /** What a redo changes on air, and whether it was asked for once: it is done when it is asked again. */
  redoes: UndoState['redoes'];
  redoArmed: boolean;
  /** What can be taken back here, the newest first. */
  past: UndoState['past'];
  /** What an undo would take back of what is on air: it was asked for once, and is done when it is asked again. */
  armed: string | null;
  /** Edits of fields that are held back, as typed, by the field's key; null while edits go out one by one. */
  held: ReadonlyMap<string, string> | null;
}

export type DeskStore = StoreApi<DeskState>;

export const newStore = (): DeskStore =>
  createStore<DeskState>(() => ({
    here: null,
    desk: null,
    fields: new Map(),
    trace: null,
    said: null,
    undo: null,
    redo: null,
    redoes: [],
    redoArmed: false,
    past: [],
    armed: null,
    held: null,
  }));

/** The parts of a snapshot that change while a game runs: who shows one asks for it by `useKnown`. */
const LIVELY = ['fields', 'tables', 'sources', 'log', 'tapes', 'rehearsal'] as const;
export type LivePart = (typeof LIVELY)[number];
/** The rest: what people prepared. */
export type Prepared = Omit<DeskSnapshot, LivePart>;

/** Whether two snapshots say the same of what people prepared. */
export function samePrepared(a: DeskSnapshot | null, b: DeskSnapshot | null): boolean {
  if (a === b || !a || !b) return a === b;
  const names = Object.keys({ ...a, ...b }) as (keyof DeskSnapshot)[];
  return names.every((name) => LIVELY.includes(name as LivePart) || a[name] === b[name]);
}

import { editsOf, type Change } from './change.ts';
import { takenOf, type OnAir, type Taken } from '../show/show.ts';
import type { By } from './request.ts';

/** An action that was done and can be taken back, or that was taken back and can be done again. */
export interface Past {
  id: string;
  by: By;
  /** What was done, in words. */
  text: string;
  /** What was asked: done again, it is decided anew. */
  asked: { kind: string };
  /** What restores what was before it. */
  undo: Change;
  /** The action that takes it back in place of `undo`; null for none. */
  back: object | null;
  undone: boolean;
}

/** As many of one person at one view are remembered, of all together, and of those that restore a whole board, which are large. */
const MOST = 100;
const MOST_OF_ALL = 400;
const MOST_BOARDS = 10;
/** As many of the newest are told to a desk, to undo one among them. */
const TOLD = 20;

/** A lane as an undo of what is on air leaves it. */
export interface RestoredLane {
  output: string;
  zone: string;
  /** What must stand there now, by its take; null for nothing. */
  now: Taken | null;
  /** What stands there again; null for nothing. */
  again: OnAir | null;
  /** The item that stands first in its queue again. */
  queued?: string;
}

/** What of the air an undo changes, where it does. */
function restores(back: object | null): Pick<Undoable, 'air'> | null {
  if (!back || !('lanes' in back)) return null;
  const lanes = back.lanes as RestoredLane[];
  return {
    air: lanes.map(({ output, zone, now, again }) => ({ output, zone, now, again: again?.item ?? null })),
  };
}

/** The same of an undo that puts back what lanes were, with all else that it restores. */
function restoresLanes(undo: Change): Pick<Undoable, 'air'> | null {
  const air = editsOf(undo, 'lane').flatMap(({ was, is }) => {
    if (!was || !is || was.onAir === is.onAir) return [];
    const { output, zone, onAir } = was;
    return [{ output, zone, now: takenOf(onAir), again: is.onAir?.item ?? null }];
  });
  return air.length ? { air } : null;
}

/** What of the air doing it again changes: in each lane stands again what it left there. */
function redoesOf({ back, undo }: Past): UndoState['redoes'] {
  const { air = [] } = restores(back) ?? restoresLanes(undo) ?? {};
  return air.map(({ output, zone, now }) => ({ output, zone, item: now?.item ?? null }));
}

const isOf = (a: By, b: By) => a.desk === b.desk && a.view === b.view;

/** What was done, by whom and where, in the order in which it was done first: each person has an undo at each view. */
export class PastActions {
  private list: Past[];

  constructor(list: readonly Past[] = []) {
    this.list = [...list];
  }

  /** What an undo takes back: the newest, or the one of an id; undefined where there is nothing. */
  undoable = (by: By, id?: string): Past | undefined =>
    this.list.findLast((p) => !p.undone && isOf(p.by, by) && (id === undefined || p.id === id));

  /** What a redo does again: of what was taken back, what was done first. */
  redoable = (by: By): Past | undefined => this.list.find((p) => p.undone && isOf(p.by, by));

  /** The ids of what cannot be done again once the same person does something else there. */
  goneWith = (by: By): string[] => this.list.filter((p) => p.undone && isOf(p.by, by)).map((p) => p.id);

  /** Adds what was done. */
  add(past: Past): void {
    const gone = this.goneWith(past.by);
    this.list = this.list.filter((p) => !gone.includes(p.id));
    this.list.push(past);
    this.forgetOver(MOST, (p) => isOf(p.by, past.by));
    this.forgetOver(MOST_BOARDS, (p) => typeof p.undo.reset === 'object');
    this.forgetOver(MOST_OF_ALL, () => true);
  }

  /** Forgets the oldest of some where they are more than so many. */
  private forgetOver(most: number, are: (past: Past) => boolean): void {
    const some = this.list.filter(are);
    const gone = new Set(some.slice(0, Math.max(0, some.length - most)));
    if (gone.size) this.list = this.list.filter((p) => !gone.has(p));
  }

  /** Notes that an action was taken back, or done again: then with what takes it back now. */
  mark(id: string, undone: boolean, past: Pick<Past, 'undo' | 'back'> | null): void {
    this.list = this.list.map((p) => (p.id === id ? { ...p, ...past, undone } : p));
  }

  /** Puts what is known of an action now in the place of what was. */
  replace(id: string, past: Past): void {
    this.list = this.list.map((p) => (p.id === id ? past : p));
  }

  /** What the pages are told: for each person and view, what an undo and a redo would do. */
  told(): UndoState[] {
    const all = new Map(this.list.map(({ by }) => [`${by.desk} ${by.view}`, by]));
    return [...all.values()].map((by) => this.stateOf(by));
  }

  stateOf(by: By): UndoState {
    const { desk, view } = by;
    const mine = this.list
      .filter((p) => !p.undone && isOf(p.by, by))
      .slice(-TOLD)
      .reverse();
    const next = this.redoable(by);
    return {
      desk,
      view,
      undo: mine[0]?.text ?? null,
      redo: next?.text ?? null,
      redoes: next ? redoesOf(next) : [],
      past: mine.map(({ id, text, asked, back, undo }) => ({
        id,
        kind: asked.kind,
        text,
        ...(restores(back) ?? restoresLanes(undo) ?? {}),
      })),
    };
  }
}

/** Something that can be taken back. */
export interface Undoable {
  id: string;
  /** The kind of action that it was. */
  kind: string;
  /** What was done, in words. */
  text: string;
  /** What is on air is another after it: in these lanes, where still stands what it left there, this item stands again; null for nothing. */
  air?: (Omit<RestoredLane, 'again' | 'queued'> & { again: string | null })[];
}

/** What an undo and a redo of one person at one view would take back or do again, in words; null for nothing. */
export interface UndoState {
  desk: string;
  view: string;
  undo: string | null;
  redo: string | null;
  /** What a redo puts on air, and where; null for nothing. Empty where it changes nothing there. */
  redoes: { output: string; zone: string; item: string | null }[];
  /** The newest that can be taken back, the newest first. */
  past: Undoable[];
}

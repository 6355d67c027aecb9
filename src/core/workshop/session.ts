import { create, type Draft } from 'mutative';
import { merged, same } from '../document/merge.ts';
import { patched, patchesBetween, type Patch } from '../document/patches.ts';

/** One step of an editing session: what it did, what stood after it, and what makes of that what stood before. */
interface Step<T> {
  text: string;
  /** Steps of one entry one after another are one: each pixel of a drag, each letter of a name. */
  entry: string | null;
  after: T;
  back: readonly Patch[];
}

/** What stood before a step. */
const beforeOf = <T>({ after, back }: Step<T>): T => patched(after, back);

/** A document that is being changed, with all that can be taken back. Versions share what did not change. */
export interface Session<T> {
  doc: T;
  done: readonly Step<T>[];
  undone: readonly Step<T>[];
}

/** A session that begins with a document. */
export const begun = <T>(doc: T): Session<T> => ({ doc, done: [], undone: [] });

/**
 * The session after a change, which `recipe` makes on a draft. Says the step in words; steps of the same `entry` one after
 * another are one. What changes nothing is no step.
 */
export function changed<T extends object>(
  session: Session<T>,
  text: string,
  recipe: (draft: Draft<T>) => void,
  entry: string | null = null,
): Session<T> {
  const before = session.doc;
  const after = create(before, (draft) => void recipe(draft)) as T;
  if (same(before, after)) return session;
  const last = session.done.at(-1);
  const goesOn = entry !== null && last?.entry === entry && last.after === before;
  const back = patchesBetween(after, goesOn ? beforeOf(last) : before);
  const step: Step<T> = { text, entry, after, back };
  return { doc: after, done: [...(goesOn ? session.done.slice(0, -1) : session.done), step], undone: [] };
}

/** The session as it goes on after a step was ended by something else: the next step is one of its own. */
export const ended = <T>(session: Session<T>): Session<T> => {
  const last = session.done.at(-1);
  if (!last?.entry) return session;
  return { ...session, done: [...session.done.slice(0, -1), { ...last, entry: null }] };
};

/** What a step leads to from where the document stands; a sentence where somebody changed the same thing since. */
function led<T extends object>(doc: T, from: T, to: T, text: string): T | string {
  if (same(doc, from)) return to;
  const { doc: both, clashes } = merged(from, to, doc);
  return clashes.length
    ? `${text}: ${clashes[0]!.place || 'it'} was changed at another desk since.`
    : (both as T);
}

/** The session with its newest step taken back; a sentence where that cannot be. */
export function undone<T extends object>(session: Session<T>): Session<T> | string {
  const step = session.done.at(-1);
  if (!step) return 'There is nothing to undo.';
  const doc = led(session.doc, step.after, beforeOf(step), step.text);
  if (typeof doc === 'string') return doc;
  return { doc, done: session.done.slice(0, -1), undone: [...session.undone, step] };
}

/** The session with what was taken back last done again; a sentence where that cannot be. */
export function redone<T extends object>(session: Session<T>): Session<T> | string {
  const step = session.undone.at(-1);
  if (!step) return 'There is nothing to redo.';
  const doc = led(session.doc, beforeOf(step), step.after, step.text);
  if (typeof doc === 'string') return doc;
  return { doc, done: [...session.done, step], undone: session.undone.slice(0, -1) };
}

/**
 * The session with what another desk saved: `base` is what both began from. What only one of them changed is as that one has
 * it; where both changed the same thing it stays as it is here, and is named.
 */
export function joined<T extends object>(
  session: Session<T>,
  base: T,
  theirs: T,
): { session: Session<T>; clashes: string[] } {
  const { doc, clashes } = merged(base, session.doc, theirs);
  const next = same(doc, session.doc) ? session : { ...ended(session), doc: doc as T };
  return { session: next, clashes: clashes.map((c) => c.place) };
}

import { useEffect, useRef, useState } from 'react';
import type { Draft } from 'mutative';
import type { Documents } from '../../core/documents/kinds.ts';
import { goneElsewhere } from '../../core/document/gone.ts';
import { same } from '../../core/document/merge.ts';
import { MOST_PATCHES, patchesBetween } from '../../core/document/patches.ts';
import { begun, changed, ended, joined, redone, undone, type Session } from '../../core/workshop/session.ts';
import { rendersLater, renderLater } from '../../ui/render-later.ts';
import { useStable } from '../../ui/stable.ts';
import type { Desk } from './desk.ts';

/** How long nothing is done before it is saved, in ms. */
const PAUSE = 700;
/** So long after what is drawn ahead the rest of the page follows, in ms: a frame, so that it is painted first. */
const FOLLOWS = 20;

/** Names one after another, no more than are read at a glance. */
const listed = (names: readonly string[]): string =>
  names.length > 3 ? `${names.slice(0, 2).join(', ')} and ${names.length - 2} others` : names.join(', ');

/** What is said about saving. */
export type Saving =
  | { state: 'saved' | 'saving' | 'waiting' }
  | { state: 'not saved'; why: string; clash: boolean };

/** The kinds of document that are worked at so: saved by themselves, with an undo of their own. */
export type WorkedAt = 'template' | 'output';

export interface DocumentSession<T> {
  doc: T;
  /** The document as it is by now, where the page has not followed yet. */
  newest: () => T;
  /** Makes a change, which is one step with those of the same entry. */
  change: (text: string, recipe: (draft: Draft<T>) => void, entry?: string) => void;
  /** What was done is one step: the next of the same entry begins another. */
  end: () => void;
  undo: string | null;
  redo: string | null;
  goBack: () => void;
  goForth: () => void;
  saving: Saving;
  /** What is said about the last step that could not be taken back, or about what came from another desk; blank for none. */
  note: string;
  /** Saves now. `over` puts it in the place of what stands there. */
  save: (over?: boolean) => void;
  /** Takes what another desk saved in the place of what is here; it can be undone. */
  takeTheirs: () => void;
}

const currentDocument = <K extends WorkedAt>(desk: Desk, kind: K, key: string) =>
  (desk.store.getState().desk?.documents[kind] as Documents[K][] | undefined)?.find((d) => d.key === key);

/**
 * A document that is being worked at: every change can be taken back, and each is saved after a moment. What another desk
 * saves meanwhile is taken in where it is not the same thing. While `held`, nothing is saved by itself. `ahead` draws what is
 * changed calmly before the page follows.
 */
export function useDocumentSession<K extends WorkedAt>(
  desk: Desk,
  kind: K,
  current: Documents[K],
  held: boolean,
  ahead?: () => void,
): DocumentSession<Documents[K]> {
  type T = Documents[K];
  const [session, setSession] = useState<Session<T>>(() => begun(current));
  const [saving, setSaving] = useState<Saving>({ state: 'saved' });
  const [note, setNote] = useState('');
  /** What was saved last as this page knows it, and how often it had been saved then. */
  const base = useRef({ doc: current, revision: desk.revisionOf(kind, current.key) });
  const asking = useRef(false);
  const { doc } = session;
  /** What was done last: the page may not have followed yet. */
  const newest = useRef(session);
  const following = useRef<number>(undefined);
  useEffect(() => () => clearTimeout(following.current), []);
  const put = useStable((to: Session<T>) => {
    newest.current = to;
    if (ahead && rendersLater()) {
      ahead();
      following.current ??= window.setTimeout(() => put(newest.current), FOLLOWS);
      return;
    }
    clearTimeout(following.current);
    following.current = undefined;
    setSession(to);
  });

  const save = useStable(async (over = false) => {
    if (asking.current) return;
    // What the page shows by now: what it has not followed to yet is saved once it has.
    const body = session.doc;
    const { doc: was, revision } = base.current;
    const { key } = body;
    const patches = patchesBetween(was, body);
    if (!over && patches.length === 0) return setSaving({ state: 'saved' });
    const changes = patches.length > MOST_PATCHES ? { body, revision } : { key, patches, revision };
    asking.current = true;
    setSaving({ state: 'saving' });
    const answer = await desk.act({
      kind: 'put-document',
      what: kind,
      ...(over ? { body } : changes),
    });
    asking.current = false;
    if (!answer.ok) return setSaving({ state: 'not saved', why: answer.text, clash: answer.clash === true });
    base.current = { doc: body, revision: desk.revisionOf(kind, key) };
    setSaving({ state: 'saved' });
    mergeSaved();
  });

  /** Merges what stands at the server where that is not what was saved here. */
  const mergeSaved = useStable(() => {
    const { doc: was } = base.current;
    const now = currentDocument(desk, kind, was.key);
    if (!now || asking.current || same(now, was)) return;
    const { session: both } = joined(newest.current, was, now);
    // Where it stands among others is seen there.
    const seen = (of: T) => ({ ...of, place: 0 });
    if (both !== newest.current && !same(seen(now), seen(was))) {
      const gone = goneElsewhere(was, now, newest.current.doc);
      setNote(
        gone.length
          ? `${listed(gone)} ${gone.length === 1 ? 'was' : 'were'} deleted at another desk.`
          : 'Another desk changed this too: both are here.',
      );
    }
    put(both);
    base.current = { doc: now, revision: desk.revisionOf(kind, now.key) };
  });
  useEffect(mergeSaved, [current, mergeSaved]);

  const dirty = !same(doc, base.current.doc);
  useEffect(() => {
    if (!dirty) return;
    setSaving((now) => (now.state === 'saving' ? now : { state: 'waiting' }));
    if (held) return;
    const timer = setTimeout(() => void save(), PAUSE);
    return () => clearTimeout(timer);
  }, [doc, dirty, held, save]);
  // What was saved while something else was done is not all: the rest goes after it.
  useEffect(() => {
    if (saving.state === 'saved' && dirty && !held) void save();
  }, [saving, dirty, held, save]);
  // A page that is left with something unsaved says so.
  useEffect(() => {
    if (!dirty) return;
    const ask = (event: BeforeUnloadEvent) => event.preventDefault();
    addEventListener('beforeunload', ask);
    return () => removeEventListener('beforeunload', ask);
  }, [dirty]);

  // To set what is set already would draw the page once more.
  const unnote = () => note !== '' && setNote('');
  const step = (to: Session<T> | string) => {
    if (typeof to === 'string') return setNote(to);
    unnote();
    renderLater(() => put(to));
  };
  return {
    doc,
    newest: useStable(() => newest.current.doc),
    change: useStable((text: string, recipe: (draft: Draft<T>) => void, entry?: string) => {
      const next = changed(newest.current, text, recipe, entry ?? null);
      // What is said stands where nothing was done: a drag of what was deleted meanwhile ends in nothing.
      if (next.doc !== newest.current.doc) unnote();
      put(next);
    }),
    end: useStable(() => put(ended(newest.current))),
    undo: session.done.at(-1)?.text ?? null,
    redo: session.undone.at(-1)?.text ?? null,
    goBack: () => step(undone(newest.current)),
    goForth: () => step(redone(newest.current)),
    saving,
    note,
    save: (over) => void save(over),
    takeTheirs: () => {
      const theirs = currentDocument(desk, kind, doc.key);
      if (!theirs) return;
      base.current = { doc: theirs, revision: desk.revisionOf(kind, theirs.key) };
      put(changed(newest.current, 'Took what another desk saved', (d) => void Object.assign(d, theirs)));
      setSaving({ state: 'saved' });
    },
  };
}

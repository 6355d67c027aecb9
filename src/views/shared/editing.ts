import { useEffect, useState } from 'react';
import type { ActionBody } from '../../core/actions/actions.ts';
import { same } from '../../core/document/merge.ts';
import type { Answer, Desk } from './desk.ts';

/** What is being changed, what it was made from, and how often that had been saved. */
export interface Draft<T> {
  draft: T;
  base: T;
  revision: number;
}

export interface Editing<T> extends Draft<T> {
  set: (draft: T) => void;
  dirty: boolean;
  /** It was saved by somebody else since the draft was begun. */
  elsewhere: boolean;
  /** Why the last save was refused, where both changed the same thing. */
  clash: string | null;
  /** What stands now, as it was saved last. */
  saved: T;
  /** Makes the draft what stands. */
  discard: () => void;
  /**
   * Saves the draft as `action` asks for it; what somebody else changed meanwhile stays where it is not the same thing.
   * `over` puts it in the place of what stands, whatever that is.
   */
  save: (action: (draft: T) => SavingAction, over?: boolean) => Promise<Answer>;
}

type SavingAction = Extract<ActionBody, { revision?: number }>;

interface Options<T> {
  desk: Desk;
  /** What the document is of and under which key it stands. */
  kind: string;
  key: string;
  /** What stands now, as this page knows it. */
  saved: T;
  /** What stands under that key after it was saved. */
  stands: () => T | undefined;
  isNew?: boolean;
  /** What was being changed when the editor was left. */
  kept?: Draft<T> | undefined;
}

/** A document that is being changed on this page: what differs, whether it was saved elsewhere, and how it is saved. */
export function useEditing<T extends object>(options: Options<T>): Editing<T> {
  const { desk, kind, key, saved, stands, isNew = false, kept } = options;
  const begun = (): Draft<T> => ({
    draft: saved,
    base: saved,
    revision: isNew ? 0 : desk.revisionOf(kind, key),
  });
  const [{ draft, base, revision }, setState] = useState<Draft<T>>(() => kept ?? begun());
  const [clash, setClash] = useState<string | null>(null);
  const dirty = isNew || !same(draft, base);
  const other = !same(saved, base);
  // What another desk saved, or an undo, shows here unless something is being changed: then it waits for a decision.
  useEffect(() => {
    if (other && !dirty) setState({ draft: saved, base: saved, revision: desk.revisionOf(kind, key) });
  }, [saved, other, dirty, desk, kind, key]);
  const discard = () => {
    setClash(null);
    setState(begun());
  };
  return {
    draft,
    base,
    revision,
    saved,
    dirty,
    elsewhere: !isNew && dirty && other,
    clash,
    set: (next) => setState((now) => ({ ...now, draft: next })),
    discard,
    save: async (action, over = false) => {
      const asked = action(draft);
      const answer = await desk.act(over ? asked : { ...asked, revision });
      setClash(!answer.ok && answer.clash ? answer.text : null);
      if (answer.ok) {
        const now = stands() ?? draft;
        const next = { base: now, revision: desk.revisionOf(kind, key) };
        setState((at) => ({ ...next, draft: at.draft === draft ? now : at.draft }));
      }
      return answer;
    },
  };
}

import { useEffect, useMemo, useState } from 'react';
import { useController, useForm, type FieldErrors, type UseFormReturn } from 'react-hook-form';
import type { ActionBody } from '../../core/actions/actions.ts';
import { same } from '../../core/document/merge.ts';
import type { Parsed } from '../../core/document/problems.ts';
import type { Answer, Desk } from './desk.ts';
import { errorsOf } from './problems.ts';

/** What is being changed, what it was made from, and how often that had been saved. */
export interface Draft<T> {
  draft: T;
  base: T;
  revision: number;
}

/** The form that a draft is held in: one value, the whole document. */
export interface Held<T> {
  doc: T;
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
  /** What is wrong with the draft is among its errors, each at its place. */
  form: UseFormReturn<Held<T>>;
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
  current: () => T | undefined;
  /** Reads a draft as the server will read it; what reads documents is large and comes when something is changed. */
  read: (draft: T) => Promise<Parsed<unknown>>;
  isNew?: boolean;
  /** What was being changed when the editor was left. */
  kept?: Draft<T> | undefined;
}

/**
 * A document that is being changed on this page: what differs, what is wrong with it, whether it was saved elsewhere, and how
 * it is saved.
 */
export function useEditing<T extends object>(options: Options<T>): Editing<T> {
  const { desk, kind, key, saved, current: currentDocument, read, isNew = false, kept } = options;
  const [{ base, revision }, setBegun] = useState(
    () => kept ?? { base: saved, revision: isNew ? 0 : desk.revisionOf(kind, key) },
  );
  const [first] = useState(() => ({ doc: kept?.draft ?? saved }));
  const resolver = useMemo(
    () => async (values: Held<T>) => {
      const parsed = await read(values.doc);
      return parsed.ok
        ? { values, errors: {} }
        : { values: {}, errors: { doc: errorsOf(parsed.problems) } as FieldErrors<Held<T>> };
    },
    [read],
  );
  const form = useForm<Held<T>>({ defaultValues: first as never, resolver, mode: 'onChange' });
  const { field } = useController({ control: form.control, name: 'doc' as never });
  const draft = field.value as T;
  const [clash, setClash] = useState<string | null>(null);
  const dirty = isNew || !same(draft, base);
  const other = !same(saved, base);
  const { reset } = form;
  // What another desk saved, or an undo, shows here unless something is being changed: then it waits for a decision.
  useEffect(() => {
    if (!other || dirty) return;
    reset({ doc: saved });
    setBegun({ base: saved, revision: desk.revisionOf(kind, key) });
  }, [saved, other, dirty, desk, kind, key, reset]);
  return {
    draft,
    base,
    revision,
    saved,
    dirty,
    elsewhere: !isNew && dirty && other,
    clash,
    form,
    set: field.onChange,
    discard: () => {
      setClash(null);
      reset({ doc: saved });
      setBegun({ base: saved, revision: isNew ? 0 : desk.revisionOf(kind, key) });
    },
    save: async (action, over = false) => {
      const asked = action(draft);
      const answer = await desk.act(over ? asked : { ...asked, revision });
      setClash(!answer.ok && answer.clash ? answer.text : null);
      if (answer.ok) {
        const now = currentDocument() ?? draft;
        // What was typed while the answer was under way is being changed already.
        if (same(form.getValues().doc, draft)) reset({ doc: now });
        setBegun({ base: now, revision: desk.revisionOf(kind, key) });
      }
      return answer;
    },
  };
}

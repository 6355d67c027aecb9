import { createContext, useContext, type ReactNode } from 'react';
import { useFormState } from 'react-hook-form';
import type { Editing } from './editing.ts';
import { errorSentences, errorAt, type FieldErrors } from './problems.ts';
import css from './ValidatedForm.module.css';

const Found = createContext<FieldErrors | undefined>(undefined);

/** As many problems are named at once. */
const NAMED = 3;

/** What edits a document: within it each field can say what is wrong with it, and above stands what is wrong in all. */
export function ValidatedForm<T extends object>({
  editing,
  children,
}: {
  editing: Pick<Editing<T>, 'form' | 'dirty'>;
  children: ReactNode;
}) {
  const { errors } = useFormState({ control: editing.form.control });
  const wrongs = editing.dirty ? ((errors as { doc?: FieldErrors }).doc ?? undefined) : undefined;
  return <Found.Provider value={wrongs}>{children}</Found.Provider>;
}

/** What is wrong with the document in all, in sentences; nothing where nothing is. */
export function FormErrors() {
  const all = errorSentences(useContext(Found));
  if (all.length === 0) return null;
  return (
    <p role="alert" aria-label="What is wrong" className={css['all']}>
      Put right before you save: {all.slice(0, NAMED).join('; ')}
      {all.length > NAMED && `; and ${all.length - NAMED} more`}.
    </p>
  );
}

/** Says what is wrong at a place of the document that is edited; null where nothing is. */
export function useFieldError(): (at: string) => string | null {
  const found = useContext(Found);
  return (at) => errorAt(found, at);
}

/** What is wrong at a place, beside the field that edits it. */
export function FieldError({ at }: { at: string }) {
  const said = useFieldError()(at);
  return said ? <small className={css['wrong']}>{said}</small> : null;
}

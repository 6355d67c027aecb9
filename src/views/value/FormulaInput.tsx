import { useId, useRef, useState } from 'react';
import { keyInFormula, readFormula, type Formula, type FormulaProblem } from '../../core/value/formula.ts';
import { completions } from './context.ts';
import css from './ValueEditor.module.css';

interface Props {
  text: string;
  /** The names that can be completed. */
  names: readonly string[];
  label: string;
  onChange: (text: string) => void;
}

/** The formula, or the first of its names that stands for nothing. */
function known(read: Formula | FormulaProblem, names: readonly string[]): Formula | FormulaProblem {
  if (!('run' in read)) return read;
  for (const [name, at] of read.fields)
    if (!names.includes(name)) return { problem: `There is no field "${name}".`, at };
  return read;
}

/** A formula as it is typed: names complete themselves, and what is wrong is marked where it is wrong. */
export function FormulaInput({ text, names, label, onChange }: Props) {
  const input = useRef<HTMLTextAreaElement>(null);
  const list = useId();
  const [draft, setDraft] = useState(text);
  const [seen, setSeen] = useState(text);
  const [open, setOpen] = useState<{ from: number; found: string[]; at: number } | null>(null);
  // Taken over from outside (an undo, another source), but never under somebody's hand.
  if (seen !== text) {
    setSeen(text);
    setDraft(text);
  }
  const read =
    draft.trim() === '' ? { problem: 'A formula is missing.', at: 0 } : known(readFormula(draft), names);
  const change = (next: string, caret: number) => {
    setDraft(next);
    const { from, found } = completions(next, caret, names);
    setOpen(found.length ? { from, found, at: 0 } : null);
    if (next.trim() !== '' && 'run' in readFormula(next)) {
      setSeen(next);
      onChange(next);
    }
  };
  const complete = (name: string) => {
    const caret = input.current?.selectionStart ?? draft.length;
    const from = open?.from ?? caret;
    const written = keyInFormula(name);
    const next = draft.slice(0, from) + written + draft.slice(caret);
    change(next, from + written.length);
    setOpen(null);
    requestAnimationFrame(() => {
      input.current?.focus();
      input.current?.setSelectionRange(from + written.length, from + written.length);
    });
  };
  return (
    <span className={css['formula']}>
      <textarea
        ref={input}
        value={draft}
        spellCheck={false}
        autoComplete="off"
        aria-label={`Formula of ${label}`}
        role="combobox"
        aria-autocomplete="list"
        aria-haspopup="listbox"
        aria-expanded={open !== null}
        aria-controls={open ? list : undefined}
        aria-activedescendant={open ? `${list}-${open.at}` : undefined}
        aria-invalid={'problem' in read}
        cols={Math.max(18, Math.min(76, draft.length + 2))}
        rows={Math.ceil((draft.length + 2) / 76)}
        onChange={(e) => change(e.target.value, e.target.selectionStart ?? e.target.value.length)}
        onBlur={() => setTimeout(() => setOpen(null), 150)}
        onKeyDown={(e) => {
          if (!open) return;
          const step = { ArrowDown: 1, ArrowUp: -1 }[e.key];
          if (e.key === 'Escape') setOpen(null);
          else if (step) setOpen({ ...open, at: (open.at + step + open.found.length) % open.found.length });
          else if (e.key === 'Tab' || e.key === 'Enter') complete(open.found[open.at]!);
          else return;
          e.preventDefault();
          e.stopPropagation();
        }}
      />
      {open && (
        <ul id={list} className={css['completions']} role="listbox" aria-label="Fields">
          {open.found.map((name, i) => (
            <li
              key={name}
              id={`${list}-${i}`}
              role="option"
              aria-selected={i === open.at}
              onMouseDown={() => complete(name)}
            >
              {name}
            </li>
          ))}
        </ul>
      )}
      {'problem' in read && (
        <span className={css['wrong']} role="status">
          <code>
            {draft.slice(Math.max(0, read.at - 18), read.at)}
            <mark>{draft.slice(read.at, read.at + 1) || '␣'}</mark>
            {draft.slice(read.at + 1, read.at + 12)}
          </code>{' '}
          {read.problem}
        </span>
      )}
    </span>
  );
}

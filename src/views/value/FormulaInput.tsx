import type { CompletionContext } from '@codemirror/autocomplete';
import { bracketMatching } from '@codemirror/language';
import { forceLinting, linter } from '@codemirror/lint';
import type { EditorView } from '@codemirror/view';
import { useEffect, useRef, useState } from 'react';
import { keyInFormula, readFormula, type Formula, type FormulaProblem } from '../../core/value/formula.ts';
import { useStable } from '../../ui/stable.ts';
import { CEL, FUNCTIONS } from './cel-language.ts';
import { completions } from './context.ts';
import { openEditor } from './editor.ts';
import css from './ValueEditor.module.css';

interface Props {
  text: string;
  /** The names that can be completed, each with what people call it where that is something else. */
  names: ReadonlyMap<string, string>;
  label: string;
  /** The caret goes into it at once. */
  focus?: boolean;
  onChange: (text: string) => void;
}

/** The formula, or why it is none: also where one of its names stands for nothing. */
function checked(text: string, names: ReadonlyMap<string, string>): Formula | FormulaProblem {
  if (text.trim() === '') return { problem: 'A formula is missing.', at: 0 };
  const read = readFormula(text);
  if (!('run' in read)) return read;
  for (const [name, at] of read.fields)
    if (!names.has(name)) return { problem: `There is no field "${name}".`, at };
  return read;
}

/** What completes the word before the caret: fields by key or by name first, then functions. */
function completed(context: CompletionContext, names: ReadonlyMap<string, string>) {
  const { from, found } = completions(context.state.doc.toString(), context.pos, names);
  const typed = context.state.sliceDoc(from, context.pos);
  const functions = FUNCTIONS.filter(([name]) => typed !== '' && name.startsWith(typed));
  return {
    from,
    // What fits, and in which order, is decided above.
    filter: false,
    options: [
      ...found.map((name) => ({
        label: name,
        ...(names.get(name) === name ? {} : { detail: names.get(name)! }),
        apply: keyInFormula(name),
      })),
      ...functions.map(([name, says]) => ({ label: `${name}()`, detail: says, apply: `${name}(` })),
    ],
  };
}

/** A formula as it is typed: in colours, with names that complete themselves, and what is wrong marked where it is wrong. */
export function FormulaInput({ text, names, label, focus = false, onChange }: Props) {
  const first = useRef(focus);
  const place = useRef<HTMLSpanElement>(null);
  const editor = useRef<EditorView | null>(null);
  /** What is known outside: taken over when it becomes another (an undo, another desk), else what is typed stays. */
  const known = useRef(text);
  const [draft, setDraft] = useState(text);
  const read = checked(draft, names);
  const tell = useStable((next: string) => {
    if (next.trim() === '' || !('run' in readFormula(next))) return;
    known.current = next;
    onChange(next);
  });
  const typed = useStable((next: string) => {
    setDraft(next);
    if (next !== known.current) tell(next);
  });
  const problem = 'problem' in read ? read.problem : null;
  const attributes = useStable(() => ({
    'aria-label': `Formula of ${label}`,
    'aria-invalid': String(problem !== null),
  }));
  const complete = useStable((context: CompletionContext) => completed(context, names));
  const faults = useStable((view: EditorView) => {
    const now = view.state.doc.toString();
    const found = checked(now, names);
    if (!('problem' in found) || now === '') return [];
    const from = Math.min(found.at, now.length - 1);
    const word = /^[\w.]+/.exec(now.slice(from))?.[0].length ?? 1;
    return [{ from, to: from + word, severity: 'error' as const, message: found.problem }];
  });
  useEffect(() => {
    const view = openEditor(place.current!, known.current, {
      complete,
      attributes,
      typed,
      more: [linter(faults, { delay: 0 }), bracketMatching(), CEL],
    });
    editor.current = view;
    if (first.current) {
      // What it begins with was typed elsewhere: it goes on behind that.
      view.dispatch({ selection: { anchor: view.state.doc.length } });
      view.focus();
      tell(known.current);
    }
    return () => view.destroy();
  }, [complete, faults, typed, tell, attributes]);
  // What it is of and what is wrong with it may become another while nothing is typed: a name, or a field that it needs.
  useEffect(() => {
    editor.current?.dispatch({});
    if (editor.current) forceLinting(editor.current);
  }, [label, problem]);
  useEffect(() => {
    const view = editor.current;
    if (!view || text === known.current) return;
    known.current = text;
    view.dispatch({ changes: { from: 0, to: view.state.doc.length, insert: text } });
  }, [text]);
  return (
    <span className={css['formula']} data-wrong={problem !== null}>
      <span ref={place} className={css['code']} />
      {problem !== null && (
        <span className={css['wrong']} role="status">
          {problem}
        </span>
      )}
    </span>
  );
}

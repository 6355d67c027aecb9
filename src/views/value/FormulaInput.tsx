import { acceptCompletion, autocompletion, type CompletionContext } from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { bracketMatching } from '@codemirror/language';
import { forceLinting, linter } from '@codemirror/lint';
import { EditorState } from '@codemirror/state';
import { EditorView, keymap } from '@codemirror/view';
import { useEffect, useRef, useState } from 'react';
import { keyInFormula, readFormula, type Formula, type FormulaProblem } from '../../core/value/formula.ts';
import { useStable } from '../../ui/stable.ts';
import { CEL, FUNCTIONS } from './cel-language.ts';
import { completions } from './context.ts';
import css from './ValueEditor.module.css';

interface Props {
  text: string;
  /** The names that can be completed, each with what people call it where that is something else. */
  names: ReadonlyMap<string, string>;
  label: string;
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

const LOOK = EditorView.theme({
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { fontFamily: 'var(--mono)', lineHeight: '1.45' },
  '.cm-content': { padding: '4px 0', caretColor: 'var(--ink)' },
  '.cm-line': { padding: '0 8px' },
  '.cm-lintRange-error': {
    background: 'none',
    textDecoration: 'underline wavy var(--warn)',
    textUnderlineOffset: '3px',
  },
  '&.cm-focused .cm-matchingBracket': { background: 'var(--raised)', outline: '1px solid var(--edge)' },
  '.cm-tooltip': {
    border: '1px solid var(--edge)',
    borderRadius: 'var(--radius)',
    background: 'var(--raised)',
    color: 'var(--ink)',
  },
  '.cm-tooltip-lint': { padding: '2px 6px' },
  '.cm-diagnostic': { borderLeft: 'none', whiteSpace: 'normal' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': { maxHeight: '16em', fontFamily: 'var(--mono)' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li': { padding: '3px 8px' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul > li[aria-selected]': {
    background: 'var(--accent)',
    color: 'var(--accent-ink)',
  },
  '.cm-completionDetail': { marginLeft: '14px', fontStyle: 'normal' },
});

/** A formula as it is typed: in colours, with names that complete themselves, and what is wrong marked where it is wrong. */
export function FormulaInput({ text, names, label, onChange }: Props) {
  const place = useRef<HTMLSpanElement>(null);
  const editor = useRef<EditorView | null>(null);
  /** What is known outside: taken over when it becomes another (an undo, another desk), else what is typed stays. */
  const known = useRef(text);
  const [draft, setDraft] = useState(text);
  const read = checked(draft, names);
  const typed = useStable((next: string) => {
    setDraft(next);
    if (next === known.current || next.trim() === '' || !('run' in readFormula(next))) return;
    known.current = next;
    onChange(next);
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
    // In a root of its own the editor's style sheets are adopted ones, which the page's policy lets in.
    const root = place.current!.shadowRoot ?? place.current!.attachShadow({ mode: 'open' });
    const view = new EditorView({
      root,
      parent: root,
      state: EditorState.create({
        doc: known.current,
        extensions: [
          history(),
          keymap.of([{ key: 'Tab', run: acceptCompletion }, ...defaultKeymap, ...historyKeymap]),
          autocompletion({
            override: [complete],
            icons: false,
            interactionDelay: 0,
            activateOnTypingDelay: 0,
          }),
          linter(faults, { delay: 0 }),
          bracketMatching(),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of(attributes),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) typed(update.state.doc.toString());
          }),
          // A list that is open is closed by Esc alone: what is around the editor closes at the next.
          EditorView.domEventHandlers({
            keydown: (event, { dom }) => {
              if (event.key === 'Escape' && dom.querySelector('.cm-tooltip-autocomplete'))
                event.stopPropagation();
            },
          }),
          CEL,
          LOOK,
        ],
      }),
    });
    editor.current = view;
    return () => view.destroy();
  }, [complete, faults, typed, attributes]);
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

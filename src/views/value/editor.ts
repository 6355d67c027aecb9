import {
  acceptCompletion,
  autocompletion,
  CompletionContext,
  completionStatus,
  insertCompletionText,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { EditorState, type Extension } from '@codemirror/state';
import { EditorView, keymap, type Command, type KeyBinding } from '@codemirror/view';
import { setInteractionModality } from 'react-aria-components';

/** How editors of formulas and of lines look. */
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

type Complete = (context: CompletionContext) => CompletionResult | null;

/** Takes the first of what will be listed while the list is on its way: fast hands, and a busy machine, press before it stands. */
const takeFirst =
  (complete: Complete): Command =>
  (view) => {
    const { state } = view;
    if (completionStatus(state) !== 'pending') return false;
    const { head } = state.selection.main;
    const found = complete(new CompletionContext(state, head, false));
    const first = found?.options[0];
    if (!first) return false;
    const text = typeof first.apply === 'string' ? first.apply : first.label;
    view.dispatch(insertCompletionText(state, text, found.from, head));
    return true;
  };

/** Opens an editor in an element: what is typed is told, what can be put in is listed as one types. */
export function openEditor(
  place: HTMLElement,
  doc: string,
  {
    complete,
    attributes,
    typed,
    keys = [],
    more,
  }: {
    /** What is listed, the likeliest first. */
    complete: Complete;
    /** What the box that is typed into says of itself. */
    attributes: () => Record<string, string>;
    typed: (doc: string, userEvent: (name: string) => boolean) => void;
    keys?: readonly KeyBinding[];
    /** What this editor has beside; its look goes before the common one. */
    more: Extension;
  },
): EditorView {
  // In a root of its own the editor's style sheets are adopted ones, which the page's policy lets in.
  const root = place.shadowRoot ?? place.attachShadow({ mode: 'open' });
  return new EditorView({
    root,
    parent: root,
    state: EditorState.create({
      doc,
      extensions: [
        more,
        history(),
        keymap.of([
          { key: 'Tab', run: acceptCompletion },
          ...['Tab', 'Enter'].map((key) => ({ key, run: takeFirst(complete) })),
          ...keys,
          ...defaultKeymap,
          ...historyKeymap,
        ]),
        autocompletion({
          override: [complete],
          icons: false,
          interactionDelay: 0,
          activateOnTypingDelay: 0,
        }),
        EditorView.lineWrapping,
        EditorView.contentAttributes.of(attributes),
        EditorView.updateListener.of((update) => {
          if (update.docChanged)
            typed(update.state.doc.toString(), (name) =>
              update.transactions.some((t) => t.isUserEvent(name)),
            );
        }),
        // Whoever pressed into a line types next: what is drawn otherwise for a keyboard than for a mouse (all rows that can be
        // dragged) is drawn by then, and the first key need not wait for it.
        EditorView.domEventHandlers({
          mouseup: () => void setTimeout(() => setInteractionModality('keyboard')),
          // A list that is open is closed by Esc alone: what is around the editor closes at the next.
          keydown: (event, { dom }) => {
            if (event.key === 'Escape' && dom.querySelector('.cm-tooltip-autocomplete'))
              event.stopPropagation();
          },
        }),
        LOOK,
      ],
    }),
  });
}

import { startCompletion, type CompletionContext } from '@codemirror/autocomplete';
import { EditorSelection, EditorState } from '@codemirror/state';
import {
  Decoration,
  EditorView,
  MatchDecorator,
  ViewPlugin,
  WidgetType,
  type DecorationSet,
  type ViewUpdate,
} from '@codemirror/view';
import Plus from 'lucide-react/icons/plus';
import { useEffect, useRef } from 'react';
import { readAs } from '../../core/document/check.ts';
import { CHIP, chipText, lineText, readLine, segmentsOf, valueOf } from '../../core/value/line.ts';
import { VALUE, type Value } from '../../core/value/value.ts';
import { renderLater } from '../../ui/render-later.ts';
import { useStable } from '../../ui/stable.ts';
import { tip } from '../../ui/tip.ts';
import { chipWords, offersFor, offersIn } from './chips.ts';
import type { ValueContext } from './context.ts';
import { openEditor } from './editor.ts';
import css from './ValueEditor.module.css';

const isValue = (held: unknown): held is Value =>
  typeof held === 'object' && held !== null && readAs(VALUE, held).ok;

class Chip extends WidgetType {
  constructor(
    readonly json: string,
    readonly words: string,
  ) {
    super();
  }
  override eq(other: Chip): boolean {
    return other.json === this.json && other.words === this.words;
  }
  override toDOM(): HTMLElement {
    const el = document.createElement('span');
    el.className = 'chip';
    el.setAttribute('role', 'button');
    el.setAttribute('aria-label', `${this.words}: options`);
    el.textContent = this.words;
    return el;
  }
  override ignoreEvent(): boolean {
    return false;
  }
}

/** Draws chips in place of what they are written as, each as one sign that the caret passes at a step. */
const chips = (wordsOf: (json: string) => string) =>
  ViewPlugin.fromClass(
    class {
      private readonly matcher = new MatchDecorator({
        regexp: new RegExp(CHIP.source, 'g'),
        decoration: ([, json]) => Decoration.replace({ widget: new Chip(json!, wordsOf(json!)) }),
      });
      decorations: DecorationSet;
      constructor(view: EditorView) {
        this.decorations = this.matcher.createDeco(view);
      }
      update(update: ViewUpdate): void {
        // Names may have changed too: a line is short, and all of it is drawn anew.
        this.decorations = this.matcher.createDeco(update.view);
      }
    },
    {
      decorations: (plugin) => plugin.decorations,
      provide: (plugin) =>
        EditorView.atomicRanges.of((view) => view.plugin(plugin)?.decorations ?? Decoration.none),
    },
  );

const LOOK = EditorView.theme({
  '.cm-scroller': { fontFamily: 'inherit', lineHeight: '1.7' },
  '.cm-line': { padding: '0 6px' },
  '.chip': {
    padding: '1px 7px',
    borderRadius: '9px',
    background: 'color-mix(in srgb, var(--accent) 22%, transparent)',
    color: 'var(--ink)',
    cursor: 'pointer',
    whiteSpace: 'nowrap',
  },
  '.chip:hover': { background: 'color-mix(in srgb, var(--accent) 40%, transparent)' },
  '.cm-tooltip.cm-tooltip-autocomplete > ul': { fontFamily: 'inherit', maxHeight: '15em' },
});

/** Where the chips of a line begin and end. */
const chipsIn = (view: EditorView) =>
  [...view.state.doc.toString().matchAll(CHIP)].map((found) => ({
    from: found.index,
    to: found.index + found[0].length,
  }));

/** In so many ms what is typed has come back from whoever keeps it. */
const COMES_BACK = 1000;

interface Props {
  value: Value;
  context: ValueContext;
  onChange: (value: Value) => void;
  label: string;
  /** A chip was pressed: which of the chips, from 0. */
  onChip: (index: number) => void;
  /** `=` was typed as the first sign, and this after it. */
  onFormula: (text: string) => void;
}

/** A Value as one line that reads as a sentence: text typed as text, everything else a chip in it. */
export function ValueLine({ value, context, onChange, label, onChip, onFormula }: Props) {
  const place = useRef<HTMLSpanElement>(null);
  const editor = useRef<EditorView | null>(null);
  const written = lineText(segmentsOf(value));
  const known = useRef(written);
  /** What was typed here and has not come back yet, the newest at this time: the page follows a moment later. */
  const typedHere = useRef({ lines: [] as string[], at: 0 });
  const seen = useRef(written);
  const wordsOf = useStable((json: string) => {
    try {
      return chipWords(JSON.parse(json) as Value, context);
    } catch {
      return '?';
    }
  });
  const typed = useStable((doc: string) => {
    if (doc.startsWith('=')) return onFormula(doc.slice(1));
    const next = valueOf(readLine(doc, isValue), value);
    known.current = lineText(segmentsOf(next));
    const { lines } = typedHere.current;
    typedHere.current = { lines: [...lines, known.current], at: performance.now() };
    renderLater(() => onChange(next));
  });
  const complete = useStable((at: CompletionContext) => {
    const found = at.matchBefore(/\/[^/\uE000\uE001]*$/);
    if (!found) return null;
    return {
      from: found.from,
      filter: false,
      options: offersFor(offersIn(context), found.text.slice(1))
        .slice(0, 60)
        .map((offer) => ({ label: offer.name, detail: offer.kind, apply: chipText(offer.value) })),
    };
  });
  const attributes = useStable(() => ({ 'aria-label': label }));
  const chip = useStable(onChip);
  useEffect(() => {
    const view = openEditor(place.current!, known.current, {
      complete,
      attributes,
      typed: (doc, userEvent) => {
        if (!userEvent('set')) typed(doc);
      },
      keys: [
        {
          key: 'Enter',
          run: (it) => {
            const { from, to } = it.state.selection.main;
            const index = chipsIn(it).findIndex((c) =>
              from === to ? c.to === from || c.from === from : c.from === from && c.to === to,
            );
            if (index >= 0) chip(index);
            return true;
          },
        },
      ],
      more: [
        // One line: what is pasted from several is one too.
        EditorState.transactionFilter.of((change) =>
          change.newDoc.lines > 1
            ? [
                {
                  changes: {
                    from: 0,
                    to: change.startState.doc.length,
                    insert: change.newDoc.toString().replace(/\s*\n\s*/g, ' '),
                  },
                },
              ]
            : change,
        ),
        EditorView.domEventHandlers({
          mousedown: (event, it) => {
            const el = (event.target as Element).closest('.chip');
            if (!el) return false;
            const at = it.posAtDOM(el);
            const all = chipsIn(it);
            const index = all.findIndex((c) => c.from === at);
            if (index < 0) return false;
            const { from, to } = all[index]!;
            const { main } = it.state.selection;
            chip(index);
            // Pressed again it can be dragged; the first press chooses it.
            if (main.from === from && main.to === to) return false;
            it.dispatch({ selection: EditorSelection.range(from, to) });
            it.focus();
            return true;
          },
        }),
        chips(wordsOf),
        LOOK,
      ],
    });
    editor.current = view;
    return () => view.destroy();
  }, [attributes, chip, complete, typed, wordsOf]);
  useEffect(() => {
    const view = editor.current;
    if (!view) return;
    const isNews = written !== seen.current;
    seen.current = written;
    // What comes back of this line's own is none, though it may be older than what stands in it by now.
    const { lines, at } = typedHere.current;
    const own = performance.now() - at < COMES_BACK ? lines.lastIndexOf(written) : -1;
    if (isNews) typedHere.current = { lines: own < 0 ? [] : lines.slice(own + 1), at };
    if (written === known.current || !isNews || own >= 0) return void view.dispatch({});
    known.current = written;
    view.dispatch({
      changes: { from: 0, to: view.state.doc.length, insert: written },
      userEvent: 'set',
    });
  }, [written, context]);
  return (
    <span className={css['line']}>
      <span ref={place} className={css['code']} />
      <button
        type="button"
        className={css['insert']}
        aria-label={`Insert into ${label}`}
        {...tip('A field, an input, a look-up, cases or a formula. Or type /')}
        onClick={() => {
          const view = editor.current!;
          view.focus();
          view.dispatch(view.state.replaceSelection('/'));
          startCompletion(view);
        }}
      >
        <Plus size={14} />
      </button>
    </span>
  );
}

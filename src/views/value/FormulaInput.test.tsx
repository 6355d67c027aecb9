// @vitest-environment jsdom
import { currentCompletions, startCompletion } from '@codemirror/autocomplete';
import { forEachDiagnostic } from '@codemirror/lint';
import { EditorView } from '@codemirror/view';
import { act, cleanup, configure, render, screen, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { FormulaInput } from './FormulaInput.tsx';

// A second, as it is by itself, is little on a busy machine.
configure({ asyncUtilTimeout: 20_000 });

const names = new Map([
  ['home.score', 'Home score'],
  ['home.shots-on-goal', 'Shots of the Herons'],
]);
const change = vi.fn<(text: string) => void>();
const draw = (text: string) => <FormulaInput text={text} names={names} label="the total" onChange={change} />;
/** The editor stands in a root of its own. */
const editor = () => {
  const [root] = [...document.querySelectorAll('span')].flatMap((e) => e.shadowRoot ?? []);
  return EditorView.findFromDOM(root!.querySelector<HTMLElement>('[aria-label="Formula of the total"]')!)!;
};
const type = (text: string) =>
  act(() => {
    const { doc } = editor().state;
    editor().dispatch({
      changes: { from: 0, to: doc.length, insert: text },
      selection: { anchor: text.length },
      userEvent: 'input.type',
    });
  });

describe('a formula as it is typed', () => {
  afterEach(() => {
    cleanup();
    change.mockReset();
  });

  it('tells each one that can be read, and of others what is wrong and where', async () => {
    render(draw('home.score + 1'));
    expect(screen.queryByRole('status')).toBeNull();
    type('home.score +');
    expect(screen.getByRole('status').textContent).toBe('The formula ends too early.');
    expect(change).not.toHaveBeenCalled();
    // A name that stands for nothing may stand for something later: it is kept, and marked.
    type('home.score + oops');
    expect(change.mock.calls).toEqual([['home.score + oops']]);
    expect(screen.getByRole('status').textContent).toBe('There is no field "oops".');
    await waitFor(() => {
      const marked: [number, number][] = [];
      forEachDiagnostic(editor().state, (_, from, to) => marked.push([from, to]));
      expect(marked).toEqual([[13, 17]]);
    });
    type('');
    expect(screen.getByRole('status').textContent).toBe('A formula is missing.');
    expect(change).toHaveBeenCalledTimes(1);
  });

  it('takes over what changed elsewhere, and keeps what is typed when what is known stays', () => {
    const { rerender } = render(draw('1'));
    type('1 +');
    rerender(draw('1'));
    expect(editor().state.doc.toString()).toBe('1 +');
    rerender(draw('home.score'));
    expect(editor().state.doc.toString()).toBe('home.score');
    expect(change).not.toHaveBeenCalled();
  });

  it('keeps what is typed when what it is of gets another name, and is right once its field is there', () => {
    const draw = (label: string, known: ReadonlyMap<string, string>) => (
      <FormulaInput text="1" names={known} label={label} onChange={change} />
    );
    const { rerender } = render(draw('the total', names));
    type('goals +');
    rerender(draw('the sum', names));
    const content = () => document.querySelector('span')!.querySelector('span')!.shadowRoot!;
    const box = () => content().querySelector<HTMLElement>('[aria-label="Formula of the sum"]')!;
    expect(box().textContent).toBe('goals +');
    expect(box().getAttribute('aria-invalid')).toBe('true');
    act(() => EditorView.findFromDOM(box())!.dispatch({ changes: { from: 0, to: 7, insert: 'goals' } }));
    expect(screen.getByRole('status').textContent).toBe('There is no field "goals".');
    rerender(draw('the sum', new Map([...names, ['goals', 'Goals']])));
    expect(box().getAttribute('aria-invalid')).toBe('false');
    expect(screen.queryByRole('status')).toBeNull();
  });

  it('offers fields by key and by name, as they are written, and functions', async () => {
    render(draw('1'));
    type('1 + shots');
    act(() => void startCompletion(editor()));
    await waitFor(() => expect(currentCompletions(editor().state)).not.toEqual([]));
    expect(currentCompletions(editor().state)).toMatchObject([
      { label: 'home.shots-on-goal', detail: 'Shots of the Herons', apply: 'field("home.shots-on-goal")' },
    ]);
    type('start');
    act(() => void startCompletion(editor()));
    await waitFor(() =>
      expect(currentCompletions(editor().state)).toMatchObject([{ label: 'startsWith()' }]),
    );
  });

  it.each(['Enter', 'Tab'])(
    '%s takes the first of what is listed, though the list does not stand yet',
    (key) => {
      render(draw('1'));
      type('1 + shots');
      const pressed = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
      act(() => void editor().contentDOM.dispatchEvent(pressed));
      expect(editor().state.doc.toString()).toBe('1 + field("home.shots-on-goal")');
      expect(pressed.defaultPrevented).toBe(true);
    },
  );
});

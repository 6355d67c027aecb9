// @vitest-environment jsdom
import { act, cleanup, render, screen } from '@testing-library/react';
import { afterEach, expect, it, vi } from 'vitest';
import type { ActionBody } from '../../core/actions/actions.ts';
import type { Item } from '../../core/show/item.ts';
import type { Answer, Desk } from './desk.ts';
import { Recall } from './Recall.tsx';

afterEach(cleanup);

const items = [
  { key: 'bar', number: 10, name: 'Bar' },
  { key: 'card', number: 52, name: 'Card' },
] as Item[];

/** A line that answers when it is told to, and what is asked on it. */
function recall() {
  const answers: ((answer: Answer) => void)[] = [];
  const asked = vi.fn((_: ActionBody) => new Promise<Answer>((done) => answers.push(done)));
  const takeItem = ({ key }: Item) => asked({ kind: 'take', item: key });
  const desk = { act: asked, takeItem } as unknown as Desk;
  const onNext = vi.fn<(item: Item) => void>();
  render(<Recall desk={desk} items={items} onNext={onNext} />);
  return { asked, onNext, answer: (ok: boolean) => act(async () => answers.shift()!({ ok, text: '' })) };
}

/** Presses keys as hands do, one event after another; gives those that were left to the view around it. */
function press(...keys: string[]): string[] {
  return keys.filter((key) => {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
    act(() => void document.body.dispatchEvent(event));
    return !event.defaultPrevented;
  });
}

it('a number, Enter and Enter take that item, and never what a lane has next, though no answer has come between', async () => {
  const { asked, onNext, answer } = recall();
  expect(press('0', '5', '2', 'Enter', 'Enter')).toEqual([]);
  expect(asked.mock.calls).toEqual([[{ kind: 'next', item: 'card' }], [{ kind: 'take', item: 'card' }]]);
  expect(onNext).toHaveBeenCalledExactlyOnceWith(items[1]);
  await answer(true);
  // It is done with: the keys are the view's again.
  expect(press('Enter')).toEqual(['Enter']);
});

it('what is refused is next no more; a number that nobody has does nothing', async () => {
  const { asked, answer } = recall();
  press('5', '2', 'Enter');
  expect(screen.getByRole('status').textContent).toContain('Card is next');
  await answer(false);
  expect(screen.getByRole('status').textContent).toBe('Type a number to call an item');
  expect(press('9', 'Enter', 'Escape', 'Enter')).toEqual(['Enter']);
  expect(asked).toHaveBeenCalledTimes(1);
});

it('whatever is done in between, by a key or with the mouse, leaves it: the next Enter is the view’s', () => {
  const { asked } = recall();
  press('5', '2', 'Enter', 'Shift');
  expect(screen.getByRole('status').textContent).toContain('Card is next');
  expect(press('ArrowDown', 'Enter')).toEqual(['ArrowDown', 'Enter']);
  press('5', '2', 'Enter');
  act(() => void document.body.dispatchEvent(new Event('pointerdown', { bubbles: true })));
  expect(press('Enter')).toEqual(['Enter']);
  expect(asked.mock.calls).toEqual([[{ kind: 'next', item: 'card' }], [{ kind: 'next', item: 'card' }]]);
});

// @vitest-environment jsdom
import { act, cleanup, render, screen } from '@testing-library/react';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { later, laterDialog } from './Later.tsx';
import { fetchAhead } from './loaded.ts';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const Asks = ({ onClose }: { onClose: () => void }) => (
  <div role="dialog" aria-label="Asks">
    <button onClick={onClose}>Leave</button>
  </div>
);
/** Code that comes when it is told to. */
function line() {
  let comes = (_: typeof Asks) => {};
  const load = vi.fn(() => new Promise<typeof Asks>((done) => (comes = done)));
  return { load, arrives: () => act(async () => comes(Asks)) };
}
/** Presses a key; tells whether what lies under the dialog heard it. */
function heard(key: string, more: KeyboardEventInit = {}): boolean {
  const under = vi.fn();
  addEventListener('keydown', under);
  document.body.dispatchEvent(
    new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }),
  );
  removeEventListener('keydown', under);
  return under.mock.calls.length > 0;
}

it('a dialog that is on its way has all keys, is left by Escape, and stands at once from then on', async () => {
  const { load, arrives } = line();
  const Dialog = laterDialog(load);
  const onClose = vi.fn();
  expect(heard('Enter')).toBe(true);
  const { rerender } = render(<Dialog onClose={onClose} />);
  expect(['Enter', 'm', 'Delete'].map((key) => heard(key))).toEqual([false, false, false]);
  expect(heard('z', { ctrlKey: true })).toBe(false);
  expect(onClose).not.toHaveBeenCalled();
  expect(heard('Escape')).toBe(false);
  expect(onClose).toHaveBeenCalledOnce();
  await arrives();
  expect(screen.getByRole('dialog', { name: 'Asks' })).toBeTruthy();
  expect(heard('Enter')).toBe(true);
  rerender(<></>);
  rerender(<Dialog onClose={onClose} />);
  expect(screen.getByRole('dialog', { name: 'Asks' })).toBeTruthy();
  expect(load).toHaveBeenCalledOnce();
});

it('what was fetched ahead stands at once', async () => {
  const { load, arrives } = line();
  void fetchAhead(load);
  await arrives();
  const Dialog = laterDialog(load);
  render(<Dialog onClose={() => {}} />);
  expect(screen.getByRole('dialog', { name: 'Asks' })).toBeTruthy();
});

it('what cannot be had is tried again, then said in its place, and asked for once more by a press', async () => {
  const load = vi.fn(() => Promise.reject<typeof Asks>(new Error('no line')));
  const Part = later(load);
  vi.spyOn(console, 'error').mockImplementation(() => {});
  render(<Part onClose={() => {}} />);
  await act(() => vi.advanceTimersByTimeAsync(5500));
  expect(screen.queryByRole('alert')).toBeNull();
  await act(() => vi.advanceTimersByTimeAsync(1000));
  expect(screen.getByRole('alert').textContent).toContain(
    'This part could not be shown. All else goes on. (no line)',
  );
  load.mockImplementation(() => Promise.resolve(Asks));
  await act(async () => screen.getByRole('button', { name: 'Try again' }).click());
  expect(screen.getByRole('dialog', { name: 'Asks' })).toBeTruthy();
  vi.restoreAllMocks();
});

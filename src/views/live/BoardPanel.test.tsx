// @vitest-environment jsdom
import { act, cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { Profiler, useState } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeSocket, score, snapshot, tell } from '../../../tests/support/desk.ts';
import { Desk } from '../shared/desk.ts';
import { usePrepared } from '../shared/use-desk.ts';
import { BoardPanel } from './BoardPanel.tsx';

const def = (key: string, label: string, group: string) => ({
  ...{ key, label, group, kind: 'integer' as const, min: 0, max: 99 },
});
const defs = [
  def('home.score', 'Home score', 'home'),
  def('away.score', 'Away score', 'away'),
  def('period', 'Period', 'situation'),
];
let desk: Desk;
let drawn = 0;
let prepared = 0;

function Panel() {
  const [selected, select] = useState<string | null>(null);
  const known = usePrepared(desk);
  prepared++;
  return (
    <Profiler id="board" onRender={() => drawn++}>
      <BoardPanel desk={desk} defs={known!.defs} selected={selected} onSelect={select} />
    </Profiler>
  );
}

beforeEach(() => {
  vi.stubGlobal('WebSocket', FakeSocket);
  Element.prototype.scrollIntoView = () => {};
  desk = new Desk('live', { desk: 'mine', name: () => '' });
  const fields = defs.map(({ key }) => ({ ...score, key, value: 0, at: 0 }));
  FakeSocket.last.say({ t: 'snapshot', seq: 1, body: { ...snapshot, defs, fields, sources: [] } });
  drawn = prepared = 0;
});
afterEach(() => {
  cleanup();
  desk.link.close();
  vi.unstubAllGlobals();
});

/** The row of a field; none where it is not shown. */
const row = (field: string) => document.querySelector(`[data-field="${field}"]`);

describe('the board at hand', () => {
  const say = (seq: number, key: string, value: number, more: object = {}) =>
    act(() => tell(seq, { op: 'fields', fields: [{ ...score, key, value, at: 0, ...more } as never] }));

  it('draws the row of a field that changed, and nothing for what a game changes elsewhere', () => {
    render(<Panel />);
    const before = { drawn, prepared };
    say(2, 'home.score', 7);
    expect(row('home.score')?.textContent).toContain('7');
    expect({ drawn, prepared }).toEqual({ drawn: before.drawn + 1, prepared: before.prepared });
    act(() =>
      tell(
        3,
        { op: 'sources', sources: [] },
        { op: 'tables', tables: [], gone: ['t'] },
        { op: 'log', line: { id: 'l', text: 'Took', at: 1, who: '' } as never, replaces: false },
      ),
    );
    expect({ drawn, prepared }).toEqual({ drawn: before.drawn + 1, prepared: before.prepared });
    // What people prepared is news for who shows it.
    act(() => tell(4, { op: 'document-gone', kind: 'game', key: 'opening' }));
    expect(prepared).toBe(before.prepared + 1);
  });

  it('says how old all values are by one timer, so that a second that goes by is drawn once', () => {
    vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval', 'performance'] });
    const { unmount } = render(<Panel />);
    expect(vi.getTimerCount()).toBe(1);
    const at = desk.link.serverNow();
    for (const [i, { key }] of defs.entries()) say(2 + i, key, 1, { at });
    act(() => void vi.advanceTimersByTime(2000));
    for (const { key } of defs) expect(row(key)?.textContent).toMatch(/ · 2 s$/);
    unmount();
    expect(vi.getTimerCount()).toBe(0);
    vi.useRealTimers();
  });

  it('says what holds a value and which source fell silent, and finds fields by any part of their names', async () => {
    render(<Panel />);
    say(2, 'home.score', 7, { pin: { value: 8, at: 1 } });
    expect(screen.getByText('pinned · says 7')).toBeTruthy();
    const source = { key: 'c', name: 'Controller' } as never;
    act(() => tell(3, { op: 'sources', sources: [source] }));
    say(4, 'away.score', 2, { quality: 'lost' });
    expect(screen.getByText('Controller lost')).toBeTruthy();
    const user = userEvent.setup();
    await user.type(screen.getByLabelText('Find a field'), 'away sc');
    expect(row('period')).toBeNull();
    await user.keyboard('{Enter}');
    expect(row('away.score')?.getAttribute('aria-pressed')).toBe('true');
    await user.type(screen.getByLabelText('Find a field'), ' zz');
    expect(screen.getByText(/No field is named/)).toBeTruthy();
    await user.keyboard('{Escape}');
    expect(row('period')).toBeTruthy();
  });
});

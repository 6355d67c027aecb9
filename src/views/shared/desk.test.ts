import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { FakeSocket, media, score, snapshot, tell } from '../../../tests/support/desk.ts';
import { Desk } from './desk.ts';
import { doAgain, takeBack } from './UndoRedo.tsx';

let posted: Record<string, unknown>[];
let desk: Desk;
let answer: () => object;
beforeEach(() => {
  vi.useFakeTimers();
  posted = [];
  answer = () => ({ ok: true, text: 'Done' });
  vi.stubGlobal('location', { protocol: 'http:', host: 'x' });
  vi.stubGlobal('WebSocket', FakeSocket);
  FakeSocket.act = (action) => {
    posted.push(action);
    return answer();
  };
  vi.stubGlobal('fetch', () => Promise.reject(new Error('gone')));
  desk = new Desk('live', { desk: 'desk-of-mine', name: () => 'Ode' });
  FakeSocket.last.say({ t: 'snapshot', seq: 5, body: snapshot });
});
afterEach(() => {
  desk.link.close();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

describe('Desk', () => {
  it('follows the board: fields with their pins, rows of tables that change, and tells what changed', () => {
    const told: string[][] = [];
    desk.onFields((keys) => told.push(keys));
    expect(desk.read('home.score')).toBe(4);
    expect(desk.row('t', 'b')).toEqual({ name: 'Keel' });
    const { columns: _, ...t } = snapshot.tables[0]!;
    tell(6, {
      op: 'tables',
      tables: [{ ...t, change: true, rows: [['c', { name: 'Ode' }]], order: ['c', 'a'] }],
      gone: [],
    });
    expect([desk.ranked('t', 1), desk.ranked('t', 2), desk.row('t', 'b')]).toEqual([
      { name: 'Ode' },
      { name: 'Orrell' },
      undefined,
    ]);
    expect(told).toEqual([['#t#c', '#t#b', '#t']]);
    tell(7, { op: 'fields', fields: [{ ...score, pin: { value: 9 } } as never] });
    expect(desk.read('home.score')).toBe(9);
    tell(8, { op: 'tables', tables: [], gone: ['t'] });
    expect(desk.store.getState().desk!.tables).toEqual([]);
    expect(desk.row('t', 'a')).toBeUndefined();
    // A change of a table that was never told is left out until a snapshot brings it.
    tell(9, { op: 'tables', tables: [{ ...t, change: true, rows: [] }], gone: [] });
    expect(desk.store.getState().desk!.tables).toEqual([]);
    expect(desk.picture('Marks/OWLS')).toBe(`/media/by-hash/${media.hash}`);
  });

  it('asks for a snapshot when a number is missing, and takes nothing until it comes', () => {
    tell(7, { op: 'fields', fields: [{ ...score, value: 8 } as never] });
    expect(FakeSocket.last.sent.at(-1)).toEqual({ t: 'snapshot' });
    tell(8, { op: 'fields', fields: [{ ...score, value: 9 } as never] });
    expect(desk.read('home.score')).toBe(4);
    FakeSocket.last.say({ t: 'snapshot', seq: 8, body: { ...snapshot, fields: [{ ...score, value: 9 }] } });
    expect(desk.read('home.score')).toBe(9);
  });

  it('says who acts, where, and offers the undo and the redo of that person at that view alone', async () => {
    const mine = { desk: 'desk-of-mine', view: 'live' };
    tell(6, {
      op: 'undo',
      states: [{ ...mine, view: 'game', undo: 'Saved the game', redo: null, redoes: [], past: [] }],
    });
    expect(desk.store.getState()).toMatchObject({ undo: null, redo: null });
    tell(7, {
      op: 'undo',
      states: [{ ...mine, undo: 'Pinned Home score at 9', redo: 'Edited Card', redoes: [], past: [] }],
    });
    expect(desk.store.getState()).toMatchObject({ undo: 'Pinned Home score at 9', redo: 'Edited Card' });
    await desk.undo();
    await desk.redo();
    expect(posted).toMatchObject([
      { kind: 'undo', id: expect.stringMatching(/^[0-9a-f]{24}$/), who: 'Ode', ...mine },
      { kind: 'redo', ...mine },
    ]);
  });

  it('takes back one action for each press, however fast they come after each other', async () => {
    const done = ['c', 'b', 'a'].map((id) => ({ id, text: id, at: 0 }));
    let seq = 5;
    const tellFrom = (from: number) =>
      tell(++seq, {
        op: 'undo',
        states: [
          {
            desk: 'desk-of-mine',
            view: 'live',
            undo: 'x',
            redo: null,
            redoes: [],
            past: done.slice(from) as never,
          },
        ],
      });
    tellFrom(0);
    answer = () => {
      tellFrom(posted.length);
      return { ok: true, text: 'Done', seq };
    };
    await Promise.all([takeBack(desk), takeBack(desk), takeBack(desk), doAgain(desk)]);
    expect(posted.map((p) => p['of'] ?? p['kind'])).toEqual(['c', 'b', 'a', 'redo']);
    // One that fails holds up none after it.
    await expect(desk.inTurn(() => Promise.reject(new Error('odd')))).rejects.toThrow('odd');
    await expect(desk.inTurn(() => Promise.resolve('next'))).resolves.toBe('next');
  });

  it('keeps what it is told of documents one by one, with the revision that a save is to name', () => {
    const owls = { key: 'owls' } as never;
    tell(6, { op: 'document', kind: 'game', key: 'owls', doc: owls, revision: 3 });
    expect(desk.store.getState().desk!.documents.game).toEqual([{ key: 'opening' }, owls]);
    expect([desk.revisionOf('game', 'owls'), desk.revisionOf('game', 'nobody')]).toEqual([3, 0]);
    const { tapes } = desk.store.getState().desk!;
    const change = (revision: number, value: string) =>
      ({
        op: 'changed',
        kind: 'game',
        key: 'owls',
        revision,
        patches: [{ op: 'add', path: '/venue', value }],
      }) as const;
    tell(7, change(4, 'Slate Hall'));
    expect(desk.store.getState().desk!.documents.game[1]).toEqual({ key: 'owls', venue: 'Slate Hall' });
    expect(desk.revisionOf('game', 'owls')).toBe(4);
    // What it cannot know changes nothing: it asks for all anew.
    FakeSocket.last.sent.length = 0;
    tell(8, change(9, 'Elsewhere'));
    expect(desk.store.getState().desk!.documents.game[1]).toEqual({ key: 'owls', venue: 'Slate Hall' });
    expect(FakeSocket.last.sent).toEqual([{ t: 'snapshot' }]);
    tell(9, { op: 'document-gone', kind: 'game', key: 'owls' });
    expect(desk.store.getState().desk!.documents.game).toEqual([{ key: 'opening' }]);
    expect(desk.revisionOf('game', 'owls')).toBe(0);
    expect(desk.store.getState().desk!.tapes).toBe(tapes);
    const told: string[][] = [];
    desk.onFields((keys) => told.push(keys));
    tell(10, { op: 'document', kind: 'media', key: 'a', doc: { ...media, path: 'a.svg' } as never });
    expect(desk.picture('A')).toBe(`/media/by-hash/${media.hash}`);
    // One of another type in its place takes it.
    const png = { path: 'A.png', hash: 'b'.repeat(64) } as never;
    tell(11, { op: 'document', kind: 'media', key: 'a', doc: png });
    expect(desk.store.getState().desk!.media).toEqual([media, png]);
    tell(12, { op: 'world', world: { defs: [], fields: [{ ...score, value: 0 } as never], playing: 'x' } });
    expect([desk.def('home.score'), desk.read('home.score'), desk.read('clock.game')]).toEqual([
      undefined,
      0,
      null,
    ]);
    expect(told).toEqual([['#/media'], ['#/media'], ['home.score']]);
    const line = (text: string) => ({ at: 1, text, who: '' });
    tell(13, { op: 'log', line: line('Edited'), replaces: false });
    tell(14, { op: 'log', line: line('Edited again'), replaces: true });
    expect(desk.store.getState().desk!.log).toEqual([line('Edited again')]);
  });

  it('sees what it did before it calls it done; a refusal is no step to take back', async () => {
    answer = () => ({ ok: true, text: 'Pinned', seq: 6 });
    let done = false;
    const acting = desk.act({ kind: 'pin', field: 'home.score', text: '9' }).then(() => (done = true));
    await vi.advanceTimersByTimeAsync(500);
    expect(done).toBe(false);
    tell(6, { op: 'log', line: { at: 1, text: 'Pinned', who: '' }, replaces: false });
    await acting;
    expect(desk.store.getState()).toMatchObject({ said: { ok: true, text: 'Pinned' } });
    answer = () => ({ ok: false, reason: 'No.' });
    await desk.act({ kind: 'pin', field: 'home.score', text: '999' });
    expect(desk.store.getState()).toMatchObject({ said: { ok: false, text: 'No.' } });
    FakeSocket.last.readyState = 3;
    await desk.act({ kind: 'swap-sides' });
    expect(desk.store.getState().said?.text).toContain('does not answer');
  });

  it('asks once more by a request, under the same id, where the line ends before the answer; what is long goes so at once', async () => {
    const requests: { id: string; kind: string }[] = [];
    vi.stubGlobal('fetch', (_: string, { body }: { body: string }) => {
      requests.push(JSON.parse(body) as (typeof requests)[number]);
      return Promise.resolve({ json: () => Promise.resolve({ ok: true, text: 'Done', seq: 0 }) });
    });
    FakeSocket.act = null;
    const swapped = desk.act({ kind: 'swap-sides' });
    const [first] = FakeSocket.last.sent.slice(-1) as unknown as { t: string; action: { id: string } }[];
    expect([first!.t, requests]).toEqual(['act', []]);
    FakeSocket.last.onclose!();
    expect(await swapped).toEqual({ ok: true, text: 'Done' });
    expect(requests.map((r) => r.id)).toEqual([first!.action.id]);
    await vi.advanceTimersByTimeAsync(200);
    await desk.act({ kind: 'pin', field: 'home.score', text: 'x'.repeat(2000) });
    expect(requests.map((r) => r.kind)).toEqual(['swap-sides', 'pin']);
  });

  it('shows the answer to what was asked last, however late the one before it comes', async () => {
    answer = () => ({ ok: true, text: 'Next: Blank', seq: 6 });
    const first = desk.act({ kind: 'next', output: 'o', zone: 'z', item: 'i' });
    await vi.advanceTimersByTimeAsync(0);
    answer = () => ({ ok: false, reason: 'Blank needs a name.' });
    await desk.act({ kind: 'take', item: 'i' });
    tell(6, { op: 'log', line: { at: 1, text: 'Next: Blank', who: '' }, replaces: false });
    expect(await first).toMatchObject({ ok: true });
    expect(desk.store.getState().said).toEqual({ ok: false, text: 'Blank needs a name.' });
  });

  it('keeps what was refused on the screen though what is saved by itself is done; that it failed is said', async () => {
    answer = () => ({ ok: false, reason: 'Blank needs a name.' });
    await desk.act({ kind: 'take', item: 'blank' });
    answer = () => ({ ok: true, text: 'Edited Card' });
    await desk.act({ kind: 'edit', item: 'card', inputs: {} }, true);
    expect(desk.store.getState().said).toEqual({ ok: false, text: 'Blank needs a name.' });
    answer = () => ({ ok: false, reason: 'Name is too long.' });
    await desk.act({ kind: 'edit', item: 'card', inputs: {} }, true);
    expect(desk.store.getState().said?.text).toBe('Name is too long.');
  });

  it('puts an item on air once all forms have what is typed of it saved, and not where that was refused', async () => {
    const card = { key: 'card', name: 'Card' };
    const take = () => desk.takeItem(card);
    const saved: string[] = [];
    let fine = true;
    const form = async ({ name }: { name: string }) => {
      await desk.act({ kind: 'edit', item: 'card', inputs: {} }, true);
      saved.push(name);
      return fine;
    };
    const leave = [desk.heed(form), desk.heed((item) => form(item))];
    await take();
    expect(posted.map((p) => p['kind'])).toEqual(['edit', 'edit', 'take']);
    expect(saved).toEqual(['Card', 'Card']);
    fine = false;
    await take();
    expect(posted.map((p) => p['kind'])).toEqual(['edit', 'edit', 'take', 'edit']);
    leave.forEach((it) => it());
    await take();
    expect(posted.at(-1)).toMatchObject({ kind: 'take', item: 'card' });
  });

  it('says when the server is gone and when it is back', async () => {
    expect(desk.store.getState().here).toBe(true);
    const lost = FakeSocket.last;
    lost.onclose!();
    expect(desk.store.getState().here).toBe(false);
    await vi.advanceTimersByTimeAsync(300);
    expect(FakeSocket.last).not.toBe(lost);
    FakeSocket.last.say({ t: 'snapshot', seq: 1, body: snapshot });
    expect(desk.store.getState().here).toBe(true);
  });
});

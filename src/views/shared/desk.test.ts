import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { stoppedClock } from '../../core/clock/clock.ts';
import { Desk, type DeskAction } from './desk.ts';

class FakeSocket {
  static OPEN = 1;
  static last: FakeSocket;
  readyState = 1;
  sent: { t: string }[] = [];
  onopen?: () => void;
  onmessage?: (event: { data: string }) => void;
  onclose?: () => void;
  constructor(readonly url: string) {
    FakeSocket.last = this;
  }
  send(text: string) {
    this.sent.push(JSON.parse(text) as { t: string });
  }
  close() {}
  say(message: object) {
    this.onmessage?.({ data: JSON.stringify(message) });
  }
}

const score = { key: 'home.score', value: 4, quality: 'ok', origin: 'c', at: 1, pin: null };
const media = { path: 'marks/owls.svg', hash: 'a'.repeat(64) };
const snapshot = {
  defs: [{ key: 'home.score', label: 'Home score', kind: 'integer', group: 'home', min: 0, max: 99 }],
  fields: [score, { ...score, key: 'clock.game', value: stoppedClock(332_000, 'down', 0) }],
  tables: [
    {
      key: 't',
      name: 'T',
      columns: ['name'],
      rows: [
        ['a', { name: 'Orrell' }],
        ['b', { name: 'Keel' }],
      ],
      origin: 's',
      at: 1,
      quality: 'ok',
    },
  ],
  media: [media],
  items: [{ id: 'i', name: 'Card', inputs: { line: 'old' } }],
  lanes: [],
  log: [],
  bundles: [{ source: { key: 'known', name: 'Known' } }],
  playing: 'opening',
  games: [{ key: 'opening' }],
  profiles: [],
  derived: [{ own: true, doc: { key: 'lead', name: 'Lead' } }],
  tapes: [{ key: 'tape', name: 'First' }],
} as unknown as DeskSnapshot;

let posted: Record<string, unknown>[];
let desk: Desk;
let answer: () => object;
beforeEach(() => {
  vi.useFakeTimers();
  posted = [];
  answer = () => ({ ok: true, text: 'Done' });
  vi.stubGlobal('location', { protocol: 'http:', host: 'x' });
  vi.stubGlobal('WebSocket', FakeSocket);
  vi.stubGlobal('fetch', (_: string, { body }: { body: string }) => {
    posted.push(JSON.parse(body) as Record<string, unknown>);
    return Promise.resolve({ json: () => Promise.resolve(answer()) });
  });
  desk = new Desk();
  FakeSocket.last.say({ t: 'snapshot', seq: 5, body: snapshot });
});
afterEach(() => {
  desk.link.close();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
const delta = (seq: number, ...ops: DeskOp[]) => FakeSocket.last.say({ t: 'delta', seq, ops });

describe('Desk', () => {
  it('follows the board: fields with their pins, rows of tables that change, and tells what changed', () => {
    const told: string[][] = [];
    desk.onFields((keys) => told.push(keys));
    expect(desk.read('home.score')).toBe(4);
    expect(desk.row('t', 'b')).toEqual({ name: 'Keel' });
    const { columns: _, ...t } = snapshot.tables[0]!;
    delta(6, {
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
    delta(7, { op: 'fields', fields: [{ ...score, pin: { value: 9 } } as never] });
    expect(desk.read('home.score')).toBe(9);
    delta(8, { op: 'tables', tables: [], gone: ['t'] });
    expect(desk.getState().desk!.tables).toEqual([]);
    expect(desk.row('t', 'a')).toBeUndefined();
    // A change of a table that was never told is left out until a snapshot brings it.
    delta(9, { op: 'tables', tables: [{ ...t, change: true, rows: [] }], gone: [] });
    expect(desk.getState().desk!.tables).toEqual([]);
    expect(desk.picture('Marks/OWLS')).toBe(`/media/by-hash/${media.hash}`);
  });

  it('asks for a snapshot when a number is missing, and takes nothing until it comes', () => {
    delta(7, { op: 'fields', fields: [{ ...score, value: 8 } as never] });
    expect(FakeSocket.last.sent.at(-1)).toEqual({ t: 'snapshot' });
    delta(8, { op: 'fields', fields: [{ ...score, value: 9 } as never] });
    expect(desk.read('home.score')).toBe(4);
    FakeSocket.last.say({ t: 'snapshot', seq: 8, body: { ...snapshot, fields: [{ ...score, value: 9 }] } });
    expect(desk.read('home.score')).toBe(9);
  });

  it.each<[DeskAction, object | null]>([
    [
      { kind: 'edit', item: 'i', inputs: { line: 'new', logo: true } },
      { kind: 'edit', item: 'i', inputs: { line: 'old', logo: null } },
    ],
    [
      { kind: 'pin', field: 'home.score', text: '9' },
      { kind: 'release', field: 'home.score' },
    ],
    [
      { kind: 'source', bundle: { source: { key: 'fresh' } } as never },
      { kind: 'remove-source', source: 'fresh' },
    ],
    [
      { kind: 'remove-source', source: 'known' },
      { kind: 'source', bundle: { source: { key: 'known', name: 'Known' } } },
    ],
    [{ kind: 'swap-sides' }, { kind: 'swap-sides' }],
    [
      { kind: 'choose-game', game: 'other' },
      { kind: 'choose-game', game: 'opening' },
    ],
    [
      { kind: 'media', path: 'marks/owls.svg', entry: null },
      { kind: 'media', entry: media },
    ],
    [
      { kind: 'put-document', what: 'game', body: { key: 'fresh' } },
      { kind: 'remove-document', what: 'game', key: 'fresh' },
    ],
    [
      { kind: 'remove-document', what: 'derived', key: 'lead' },
      {
        kind: 'put-document',
        what: 'derived',
        body: { schema: 1, key: 'lead', derived: { key: 'lead', name: 'Lead' } },
      },
    ],
    [
      { kind: 'tape', do: 'rename', tape: 'tape', name: 'Second' },
      { kind: 'tape', do: 'rename', name: 'First' },
    ],
    [
      { kind: 'hand', source: 'pad', field: 'home.score', do: 'add', text: '1' },
      { kind: 'hand', do: 'set', text: '4' },
    ],
    [
      { kind: 'hand', source: 'pad', field: 'clock.game', do: 'set', text: '1:00' },
      { kind: 'hand', do: 'set', text: '5:32' },
    ],
    [
      { kind: 'hand', source: 'pad', field: 'clock.game', do: 'start' },
      { kind: 'hand', do: 'stop' },
    ],
    // What is on air is never touched by an undo.
    [{ kind: 'clear', zone: 'top' }, null],
  ])('takes %j back by %j', async (action, opposite) => {
    await desk.act(action);
    expect(posted[0]).toMatchObject({ ...action, id: expect.stringMatching(/^[0-9a-f]{24}$/) });
    expect(desk.getState().canUndo).toBe(opposite !== null);
    await desk.undo();
    if (opposite) expect(posted[1]).toMatchObject(opposite);
    else {
      expect(posted).toHaveLength(1);
      expect(desk.getState().said).toEqual({ ok: false, text: 'There is nothing to undo.' });
    }
  });

  it('releases a pin back to the pin that was there', async () => {
    delta(6, { op: 'fields', fields: [{ ...score, pin: { value: 9 } } as never] });
    await desk.act({ kind: 'release', field: 'home.score' });
    await desk.undo();
    expect(posted[1]).toMatchObject({ kind: 'pin', field: 'home.score', text: '9' });
  });

  it('sees what it did before it calls it done; a refusal is no step to take back', async () => {
    answer = () => ({ ok: true, text: 'Pinned', seq: 6 });
    let done = false;
    const acting = desk.act({ kind: 'pin', field: 'home.score', text: '9' }).then(() => (done = true));
    await vi.advanceTimersByTimeAsync(500);
    expect(done).toBe(false);
    delta(6, { op: 'log', line: { at: 1, text: 'Pinned' } });
    await acting;
    expect(desk.getState()).toMatchObject({ said: { ok: true, text: 'Pinned' }, canUndo: true });
    await desk.undo();
    answer = () => ({ ok: false, reason: 'No.' });
    await desk.act({ kind: 'pin', field: 'home.score', text: '999' });
    expect(desk.getState()).toMatchObject({ said: { ok: false, text: 'No.' }, canUndo: false });
    vi.stubGlobal('fetch', () => Promise.reject(new Error('gone')));
    await desk.act({ kind: 'swap-sides' });
    expect(desk.getState().said?.text).toContain('does not answer');
  });

  it('takes back one after another however fast it is asked, and tries again what was refused', async () => {
    await desk.act({ kind: 'pin', field: 'home.score', text: '7' });
    await desk.act({ kind: 'edit', item: 'i', inputs: { line: 'new' } });
    answer = () => ({ ok: false, reason: 'The database does not answer.' });
    await desk.undo();
    expect(desk.getState()).toMatchObject({ said: { text: 'The database does not answer.' }, canUndo: true });
    answer = () => ({ ok: true, text: 'Done' });
    await Promise.all([desk.undo(), desk.undo(), desk.undo()]);
    expect(posted.slice(2).map((p) => p['kind'])).toEqual(['edit', 'edit', 'release']);
    expect(desk.getState()).toMatchObject({ said: { text: 'There is nothing to undo.' }, canUndo: false });
  });

  it('says when the server is gone and when it is back', async () => {
    expect(desk.getState().here).toBe(true);
    const lost = FakeSocket.last;
    lost.onclose!();
    expect(desk.getState().here).toBe(false);
    await vi.advanceTimersByTimeAsync(300);
    expect(FakeSocket.last).not.toBe(lost);
    FakeSocket.last.say({ t: 'snapshot', seq: 1, body: snapshot });
    expect(desk.getState().here).toBe(true);
  });
});

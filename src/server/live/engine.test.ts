import { readFileSync, readdirSync } from 'node:fs';
import { createServer, type Socket } from 'node:net';
import { pino } from 'pino';
import { afterEach, describe, expect, it } from 'vitest';
import type { WebSocket } from 'ws';
import { isClock } from '../../core/board/values.ts';
import type { AirOp, DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { encodeFrame } from '../../sim/frame.ts';
import { newGame, type GameState } from '../../sim/game.ts';
import { StoreDown, type Saved, type Store } from '../store/store.ts';
import { Engine } from './engine.ts';
import { answerLook } from './look.ts';
import { loadWorld, READERS, type DocumentKind } from './world.ts';

const read = (path: string) =>
  JSON.parse(readFileSync(new URL(`../../../data/${path}`, import.meta.url), 'utf8')) as unknown;
const folder = (path: string) =>
  readdirSync(new URL(`../../../data/${path}`, import.meta.url)).map((f) => read(`${path}/${f}`));
const show = read('demo/show.json') as Pick<Saved, 'items' | 'lanes'>;
const LIMITS = { late: 300, lost: 600 };

/** A store that keeps nothing and fails when told to. */
class FakeStore {
  ok = true;
  answer: 'done' | 'again' | Error = 'done';
  committed: unknown[] = [];
  board: Saved['board'] = [];
  constructor(
    private readonly port: number,
    private readonly extra: Record<string, unknown[]> = {},
  ) {}
  documents(kind: string): Promise<unknown[]> {
    const demo: Record<string, () => unknown[]> = {
      profile: () => [read('basic/profile/box-lacrosse.json')],
      setting: () => [],
      output: () => folder('basic/output'),
      source: () =>
        [read('demo/source/controller.json')].map((s) => ({
          ...(s as object),
          limits: LIMITS,
          transport: { kind: 'tcp', host: '127.0.0.1', port: this.port },
        })),
    };
    return Promise.resolve([...(demo[kind]?.() ?? folder(`demo/${kind}`)), ...(this.extra[kind] ?? [])]);
  }
  media = () => Promise.resolve([]);
  content = () => Promise.resolve(null);
  putContent = () => Promise.resolve();
  load(): Promise<Saved> {
    return Promise.resolve({ ...structuredClone(show), pins: [], board: [], log: [] });
  }
  commit(action: unknown, change: unknown): Promise<'done' | 'again'> {
    if (this.answer instanceof Error) return Promise.reject(this.answer);
    this.committed.push({ action, change });
    return Promise.resolve(this.answer);
  }
  saveBoard(rows: Saved['board']): Promise<void> {
    this.board.push(...rows);
    return Promise.resolve();
  }
}

class FakePage {
  bufferedAmount = 0;
  messages: { t: string; seq: number; body?: unknown; ops?: unknown[]; trace?: unknown }[] = [];
  private handler: (data: string) => void = () => {};
  send(text: string) {
    this.messages.push(JSON.parse(text) as FakePage['messages'][0]);
  }
  on(event: string, handler: (data: string) => void) {
    if (event === 'message') this.handler = handler;
  }
  say(message: object) {
    this.handler(JSON.stringify(message));
  }
  close() {}
  ops<T>(): T[] {
    return this.messages.flatMap((m) => (m.ops ?? []) as T[]);
  }
}

let closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.reverse()) await close();
  closing = [];
});

async function setUp(extra: Record<string, unknown[]> = {}) {
  const sockets = new Set<Socket>();
  const controller = createServer((socket) => {
    sockets.add(socket);
    socket.on('error', () => {});
  });
  await new Promise<void>((done) => controller.listen(0, '127.0.0.1', done));
  closing.push(
    () => controller.close(),
    () => sockets.forEach((s) => s.destroy()),
  );
  const store = new FakeStore((controller.address() as { port: number }).port, extra);
  const engine = new Engine(
    await loadWorld(store as unknown as Store),
    store as unknown as Store,
    pino({ level: 'silent' }),
  );
  await engine.start();
  closing.push(() => engine.stop());
  await expect.poll(() => sockets.size).toBe(1);
  const page = (stream: string) => {
    const fake = new FakePage();
    engine.hub.join(stream, fake as unknown as WebSocket);
    return fake;
  };
  const state = newGame();
  const frame = (change: (s: GameState) => void = () => {}) => {
    change(state);
    sockets.forEach((s) => s.write(encodeFrame(state)));
  };
  let n = 0;
  const act = (action: object) => engine.act({ id: `action-${n++}`, ...action });
  return { engine, store, page, frame, act, air: page('air:broadcast'), desk: page('desk') };
}

describe('Engine', () => {
  it('shows one frame’s changes in one piece: no page ever sees half of it', async () => {
    const { air, frame } = await setUp();
    frame();
    await expect.poll(() => air.messages.length).toBeGreaterThan(1);
    const before = air.messages.length;
    frame((s) => {
      s.home.score = 3;
      s.away.score = 2;
      s.period = 2;
    });
    await expect.poll(() => air.messages.length).toBe(before + 1);
    const [op] = air.messages.at(-1)!.ops as Extract<AirOp, { op: 'layers' }>[];
    expect(op!.deltas.map((d) => [d.layer, d.props.text])).toEqual(
      expect.arrayContaining([
        ['home score', 3],
        ['away score', 2],
        ['period', '2ND'],
      ]),
    );
  });

  it('refuses a reading out of its field’s range, counts it and says so; the last good value stands', async () => {
    const { engine, frame } = await setUp();
    frame();
    await expect.poll(() => engine.board.read('situation.period')).toBe(1);
    frame((s) => {
      s.period = 0;
      s.home.score = 4;
    });
    await expect.poll(() => engine.board.read('home.score')).toBe(4);
    expect(engine.board.read('situation.period')).toBe(1);
    const [source] = engine.sourceStates();
    expect(source).toMatchObject({
      counts: { refused: 1 },
      trouble: { text: 'Period cannot be 0: it goes from 1 to 9' },
    });
  });

  it('stops clocks at the last word of a source that fell silent, marks its fields, and lets them go on its return', async () => {
    const { engine, desk, frame } = await setUp();
    frame((s) => {
      s.clock = 34_600;
      s.running = true;
    });
    const clock = () => engine.board.read('clock.game');
    await expect.poll(clock).toMatchObject({ running: true, until: 34_000 });
    await expect.poll(() => engine.board.state('clock.game')?.quality).toBe('late');
    expect(clock()).toMatchObject({ running: false, value: 34_600 });
    await expect.poll(() => engine.board.state('home.score')?.quality).toBe('lost');
    expect(engine.board.state('home.name')?.quality).toBe('ok');
    const told = desk.ops<DeskOp>().filter((op) => op.op === 'fields');
    expect(told.some((op) => op.fields.some((f) => f.key === 'home.score' && f.quality === 'lost'))).toBe(
      true,
    );
    frame((s) => (s.clock = 20_000));
    await expect.poll(clock).toMatchObject({ running: true });
    const value = clock();
    expect(isClock(value) && value.value).toBe(20_099);
  });

  it('does an action only once the store has it, and not at all when the store is down', async () => {
    const { store, act, air, desk } = await setUp();
    store.answer = new StoreDown();
    expect(await act({ kind: 'take', item: 'captain' })).toMatchObject({ ok: false, status: 503 });
    store.answer = new Error('odd');
    expect(await act({ kind: 'take', item: 'captain' })).toMatchObject({ ok: false, status: 500 });
    store.answer = 'again';
    expect(await act({ kind: 'take', item: 'captain' })).toMatchObject({ ok: true });
    expect(air.messages).toHaveLength(1);
    store.answer = 'done';
    expect(await act({ kind: 'take', item: 'captain' })).toMatchObject({
      ok: true,
      text: 'Took Away captain',
      seq: desk.messages.at(-1)!.seq,
    });
    expect(air.ops<AirOp>().at(-1)).toMatchObject({ op: 'take', item: { item: 'captain', zone: 'lower' } });
    expect(store.committed).toHaveLength(2);
    const before = air.messages.length;
    await act({ kind: 'next', zone: 'lower', item: 'welcome' });
    await act({ kind: 'edit', item: 'captain', inputs: { line: 'later' } });
    expect(air.messages).toHaveLength(before);
    await act({ kind: 'clear', zone: 'lower' });
    expect(air.ops<AirOp>().at(-1)).toEqual({ op: 'clear', zone: 'lower' });
  });

  it.each([
    [{ kind: 'take', item: 'blank' }, 409, 'needs Name'],
    [{ kind: 'pin', field: 'home.score', text: '100' }, 409, 'from 0 to 99'],
    [{ kind: 'pin', field: 'nope', text: '1' }, 409, 'no field'],
    [{ kind: 'release', field: 'home.score' }, 409, 'is not pinned'],
    [{ kind: 'dance' }, 400, 'An action is one of'],
  ])('refuses %o', async (action, status, why) => {
    const { act, store } = await setUp();
    expect(await act(action)).toMatchObject({ ok: false, status, reason: expect.stringContaining(why) });
    expect(store.committed).toEqual([]);
  });

  it('tells a page that watches a field its way from the bytes to the picture', async () => {
    const { desk, frame, act } = await setUp();
    frame((s) => (s.home.score = 12));
    await act({ kind: 'pin', field: 'home.score', text: '13' });
    desk.say({ t: 'watch', key: 'home.score' });
    const trace = () => desk.messages.filter((m) => m.t === 'trace').at(-1)?.trace;
    await expect.poll(trace).toMatchObject({
      frame: { offset: 13, length: 2, source: 'Controller' },
      reading: { name: 'home score', raw: '12', value: '12' },
      patch: { reading: 'home score' },
      uses: [{ item: 'Scoreboard bar', layer: 'home score', property: 'text' }],
    });
  });

  it('takes sources on, anew and off while it runs, once the store has them', async () => {
    const { engine, act, frame, desk, store } = await setUp();
    frame((s) => (s.home.score = 2));
    await expect.poll(() => engine.board.read('home.score')).toBe(2);
    const [bundle] = engine.world.bundles;
    const copy = structuredClone(bundle!);
    Object.assign(copy.source, { key: 'second', name: 'Second' });
    Object.assign(copy.patch!, { key: 'second', source: 'second' });
    expect(await act({ kind: 'source', bundle: { ...copy, map: null } })).toMatchObject({
      status: 409,
      reason: expect.stringContaining('cannot be saved'),
    });
    const astray = structuredClone(copy);
    astray.patch!.links = [{ reading: 'home score', field: 'home.runs' }];
    expect(await act({ kind: 'source', bundle: astray })).toMatchObject({
      status: 409,
      reason: 'The board has no field "home.runs".',
    });
    expect(store.committed).toHaveLength(0);

    expect(await act({ kind: 'remove-source', source: 'controller' })).toMatchObject({ ok: true });
    expect(engine.sourceStates()).toEqual([]);
    expect(engine.board.state('home.score')).toMatchObject({ value: 2, quality: 'lost' });
    expect(engine.hub.has('bytes:controller')).toBe(false);
    expect(await act({ kind: 'remove-source', source: 'controller' })).toMatchObject({ status: 409 });

    expect(await act({ kind: 'source', bundle: copy })).toMatchObject({
      ok: true,
      text: 'Saved the source Second',
    });
    await expect.poll(() => engine.sourceStates()[0]?.connected).toBe(true);
    frame((s) => (s.home.score = 3));
    await expect
      .poll(() => engine.board.state('home.score'))
      .toMatchObject({ value: 3, origin: 'second', quality: 'ok' });
    expect(
      await act({ kind: 'source', bundle: { ...copy, source: { ...copy.source, enabled: false } } }),
    ).toMatchObject({ ok: true });
    await expect.poll(() => engine.sourceStates()[0]?.health).toBe('off');
    expect(desk.ops<DeskOp>().map((op) => op.op)).toEqual(
      expect.arrayContaining(['source', 'source-gone', 'sources']),
    );
  });

  it('leaves a document out that it cannot read, says which, and goes on', async () => {
    const { engine, desk } = await setUp({ template: [{ schema: 9, key: 'odd' }], patch: ['nonsense'] });
    expect(engine.world.problems).toHaveLength(2);
    expect(engine.world.problems.join()).toContain('A template document in the database is left out: schema');
    expect((desk.messages[0]!.body as DeskSnapshot).templates).toHaveLength(3);
  });

  it('saves the board in batches, clocks at rest', async () => {
    const { store, frame } = await setUp();
    frame((s) => (s.running = true));
    await expect
      .poll(() => store.board.find((r) => r.field === 'clock.game'), { timeout: 3000 })
      .toMatchObject({ value: { running: false } });
  });

  const pad = {
    schema: 1,
    key: 'pad',
    name: 'Pad',
    transport: { kind: 'hand' },
    limits: { late: 300, lost: 600 },
  };
  const hand = (field: string, how: string, text?: string) => ({
    kind: 'hand',
    source: 'pad',
    field,
    do: how,
    ...(text === undefined ? {} : { text }),
  });

  it('changes a patch without a break: the line stays, clocks run on, what nobody feeds any more stands', async () => {
    const { engine, frame, act } = await setUp();
    frame((s) => Object.assign(s, { running: true, clock: 300_000 }));
    await expect.poll(() => engine.board.state('clock.game')?.quality).toBe('ok');
    const bundle = structuredClone(engine.incoming.bundle('controller')!);
    const without = (field: string) => ({
      ...bundle,
      patch: { ...bundle.patch!, links: bundle.patch!.links.filter((l) => l.field !== field) },
    });
    const before = engine.board.state('clock.game')!.value;
    expect(await act({ kind: 'source', bundle: without('home.score') })).toMatchObject({ ok: true });
    expect(engine.board.state('clock.game')).toMatchObject({ value: before, quality: 'ok' });
    expect(engine.board.state('home.score')).toMatchObject({ quality: 'lost' });
    expect(engine.sourceStates()[0]!.counts.good).toBeGreaterThan(0);
    expect(await act({ kind: 'source', bundle: without('clock.game') })).toMatchObject({ ok: true });
    expect(engine.board.state('clock.game')).toMatchObject({ value: { running: false }, quality: 'lost' });
    expect(await act({ kind: 'source', bundle })).toMatchObject({ ok: true });
    frame();
    await expect
      .poll(() => engine.board.state('clock.game'))
      .toMatchObject({ quality: 'ok', value: { running: true } });
  });

  it('is worked by hand where no device speaks, clocks together, to their end, and saves it with the action', async () => {
    const { engine, store, frame, act } = await setUp({ source: [pad] });
    frame((s) => Object.assign(s, { clock: 2000, running: true, shot: 9000 }));
    await expect.poll(() => engine.board.state('home.score')?.quality).toBe('ok');
    const refused = async (action: object) => ((await act(action)) as { reason: string }).reason;
    expect(await refused(hand('home.score', 'add', '1'))).toMatch(
      /^Controller speaks and feeds Home score\./,
    );
    await expect.poll(() => engine.board.state('clock.game')?.quality).toBe('late');
    expect(await refused(hand('home.name', 'set', 'Owls'))).toBe(
      'Home name belongs to the game, not to a pad.',
    );
    expect(await refused(hand('situation.horn', 'add', '1'))).toBe('Horn is not a number.');
    expect(await refused(hand('home.score', 'start'))).toBe('Home score is not a clock.');
    expect(await refused(hand('home.score', 'add', '200'))).toBe('Home score goes from 0 to 99.');
    expect(await refused(hand('clock.game', 'stop'))).toBe('Game clock stands already.');
    expect(await refused({ ...hand('home.score', 'add', '1'), source: 'nobody' })).toMatch(
      /There is no source/,
    );
    expect(await act(hand('home.score', 'add', '1'))).toMatchObject({ text: 'Home score up by hand' });
    expect(engine.board.state('home.score')).toMatchObject({ value: 1, origin: 'pad', quality: 'ok' });
    expect(store.committed.at(-1)).toMatchObject({
      change: { hand: { changes: [{ key: 'home.score', value: 1 }] } },
    });
    expect(await act(hand('clock.game', 'start'))).toMatchObject({ ok: true });
    expect(engine.board.state('clock.shot')).toMatchObject({ origin: 'pad', value: { running: true } });
    expect(await refused(hand('clock.game', 'start'))).toBe('Game clock runs already.');
    // Two seconds were left: at zero it stands by itself, and cannot be started from there.
    await expect
      .poll(() => engine.board.read('clock.game'), { timeout: 4000 })
      .toMatchObject({ running: false, value: 0 });
    expect(await refused(hand('clock.game', 'start'))).toBe('Game clock is at zero; set it first.');
    const heard = () => {
      frame((s) => Object.assign(s, { running: false }));
      return engine.sourceStates().find((s) => s.key === 'pad')?.holds;
    };
    await expect.poll(heard, { timeout: 8000, interval: 100 }).toEqual([]);
    expect(engine.board.state('home.score')).toMatchObject({ value: 0, origin: 'controller' });
  }, 20_000);

  it('changes the game, its sport and what is derived, refuses what is used, and an undo is the opposite', async () => {
    const { engine, store, act, desk } = await setUp({
      profile: [read('basic/profile/ice-hockey.json')],
    });
    const other = {
      ...(read('demo/game/opening-night.json') as object),
      key: 'rematch',
      profile: 'ice-hockey',
    };
    const put = (what: string, body: object) => act({ kind: 'put-document', what, body });
    expect(await put('game', { ...other, profile: 'chess' })).toMatchObject({
      reason: 'There is no sport profile "chess".',
    });
    expect(await put('game', other)).toMatchObject({ text: 'Saved the game rematch' });
    expect(store.committed.at(-1)).toMatchObject({
      change: { documents: [{ kind: 'game', key: 'rematch' }] },
    });
    expect(engine.board.def('home.pulled')).toBeUndefined();
    expect(await act({ kind: 'choose-game', game: 'rematch' })).toMatchObject({ ok: true });
    expect(engine.board.def('home.pulled')).toBeDefined();
    expect(engine.board.def('clock.shot')).toBeUndefined();
    expect(engine.board.read('home.name')).toBe('Thornmere Herons');
    expect(await act({ kind: 'swap-sides' })).toMatchObject({ ok: true });
    expect(engine.board.read('home.name')).toBe('Cindergap Foxes');
    expect(engine.board.tables.get('home.players')!.rows.get('3')).toMatchObject({ name: 'Bram Hallowick' });
    expect(await act({ kind: 'remove-document', what: 'game', key: 'rematch' })).toMatchObject({
      reason: 'This game is being played; choose another one first.',
    });
    expect(await act({ kind: 'remove-document', what: 'profile', key: 'ice-hockey' })).toMatchObject({
      reason: expect.stringContaining('is played by this profile') as string,
    });
    expect(await act({ kind: 'choose-game', game: 'nothing' })).toMatchObject({ status: 409 });
    // A refusal of the sport's own field, and of a table that comes in.
    const derived = (key: string, rest: object) => ({ schema: 1, key, derived: { key, name: key, ...rest } });
    const field = { what: 'field', value: { formula: 'home.score * 2' } };
    expect(await put('derived', derived('home.score', field))).toMatchObject({
      reason: expect.stringContaining('has a field "home.score" already') as string,
    });
    expect(
      await put('derived', derived('home.players', { what: 'table', from: ['away.players'] })),
    ).toMatchObject({ reason: expect.stringContaining('has a table "home.players" already') as string });
    expect(await put('derived', derived('twice', field))).toMatchObject({ ok: true });
    await act({ kind: 'pin', field: 'home.score', text: '4' });
    expect(engine.board.read('twice')).toBe(8);
    // What the sport derives can be made one's own, and comes back when that is deleted.
    expect(
      await put('derived', derived('derived.lead', { what: 'field', value: { fixed: 'ours' } })),
    ).toMatchObject({ ok: true });
    expect(engine.board.read('derived.lead')).toBe('ours');
    await act({ kind: 'remove-document', what: 'derived', key: 'derived.lead' });
    expect(engine.board.read('derived.lead')).toBe('Foxes by 4');
    expect(await act({ kind: 'remove-document', what: 'derived', key: 'nothing' })).toMatchObject({
      status: 409,
    });
    const { derived: list } = desk.messages.filter((m) => m.body).at(-1)!.body as DeskSnapshot;
    expect(list.find((d) => d.doc.key === 'twice')).toMatchObject({ own: true });
    expect(engine.trace('twice').derived!.from).toEqual([
      { key: 'home.score', name: 'Home score', table: false },
    ]);
  });

  it('keeps pictures by what they are, and looks at documents only of sources that send them', async () => {
    const { engine, act } = await setUp();
    const entry = {
      path: 'a/b.png',
      hash: 'c'.repeat(64),
      type: 'image/png',
      size: 1,
      width: 1,
      height: 1,
      alpha: true,
      length: null,
    };
    expect(await act({ kind: 'media', path: 'a/b.png', entry })).toMatchObject({
      reason: 'Its content is not in the library; bring the file in again.',
    });
    const svg = new TextEncoder().encode('<svg viewBox="0 0 1 1"/>');
    const taken = await engine.library.take(svg, 'b.svg');
    if ('problem' in taken) throw new Error(taken.problem);
    const whole = { ...taken.about, path: 'a/b.svg' };
    expect(await act({ kind: 'media', path: 'a/other.svg', entry: whole })).toMatchObject({
      reason: 'Its path is not where it is to stand.',
    });
    expect(await act({ kind: 'media', path: 'a/b.svg', entry: { ...whole, size: 0 } })).toMatchObject({
      status: 409,
    });
    expect(await act({ kind: 'media', path: 'a/b.svg', entry: whole })).toMatchObject({ ok: true });
    expect(engine.library.index.address('A/B')).toBe(`/media/by-hash/${taken.about.hash}`);
    expect((await engine.library.content(taken.about.hash))!.type).toBe('image/svg+xml');
    expect(await act({ kind: 'media', path: 'a/b.svg', entry: null })).toMatchObject({ ok: true });
    expect(await act({ kind: 'media', path: 'a/b.svg', entry: null })).toMatchObject({ status: 409 });

    const look = (key: string, text: string) => answerLook(engine.incoming, key, text);
    expect(await look('controller', '{"fetch":true}')).toMatchObject({
      status: 409,
      body: { reason: 'This source sends no documents.' },
    });
    expect(await look('controller', '{}')).toMatchObject({
      status: 409,
      body: { reason: 'No good document has come yet.' },
    });
    expect(await look('nobody', '{}')).toMatchObject({ status: 404 });
    expect(await look('controller', '{"map":{"schema":2}}')).toMatchObject({ status: 400 });
    expect(await look('controller', '{"odd":1}')).toMatchObject({ status: 400 });
    expect(await look('controller', 'no json')).toMatchObject({ status: 400 });
  });
});

describe('the documents that ship', () => {
  it.each(Object.keys(READERS) as DocumentKind[])('every %s is well formed', (kind) => {
    const list = ['basic', 'demo'].flatMap((part) => {
      try {
        return folder(`${part}/${kind}`);
      } catch {
        return [];
      }
    });
    expect(list.length).toBeGreaterThan(0);
    for (const body of list) expect(READERS[kind](body)).toMatchObject({ ok: true });
  });
});

import { bundlesOf } from '../../core/actions/world.ts';
import { describe, expect, it } from 'vitest';
import { ReadLog } from './read-log.ts';
import type { Traced } from '../../core/trace/traced.ts';
import type { AirOp, AirSnapshot, DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { StoreDown } from '../store/store.ts';
import { DOCUMENT_KINDS, type DocumentKind } from '../../core/documents/kinds.ts';
import { FakeTime } from '../../../tests/support/fake-time.ts';
import { folder, setUp, SOON } from '../../../tests/support/engine.ts';

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
    expect(op!.deltas.map((d) => [d.layer, d.props['text']])).toEqual(
      expect.arrayContaining([
        ['home-score', 3],
        ['away-score', 2],
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
    const time = new FakeTime();
    const { engine, desk, frame } = await setUp({}, SOON, time);
    frame((s) => {
      s.clock = 34_600;
      s.running = true;
    });
    const clock = () => engine.board.read('clock.game');
    // What was told is looked at, not what stands: that may be late again before anybody looks.
    const told = () => desk.ops<DeskOp>().flatMap((op) => (op.op === 'fields' ? op.fields : []));
    const clocks = () => told().filter((f) => f.key === 'clock.game');
    const runs = (more: object) =>
      expect.objectContaining({ value: expect.objectContaining({ running: true, ...more }) as unknown });
    await time.until(() => expect(clocks()).toContainEqual(runs({ until: 34_000 })));
    await time.until(() => expect(clocks()).toContainEqual(expect.objectContaining({ quality: 'late' })));
    expect(clock()).toMatchObject({ running: false, value: 34_600 });
    await time.until(() => expect(engine.board.state('home.score')?.quality).toBe('lost'));
    expect(engine.board.state('home.name')?.quality).toBe('ok');
    expect(told()).toContainEqual(expect.objectContaining({ key: 'home.score', quality: 'lost' }));
    frame((s) => (s.clock = 20_000));
    await time.until(() => expect(clocks()).toContainEqual(runs({ value: 20_099 })));
  });

  it('does an action only once the store has it, and not at all when the store is down', async () => {
    const { store, act, air, desk } = await setUp();
    store.answer = new StoreDown();
    expect(await act({ kind: 'take', item: 'captain' })).toMatchObject({ ok: false, status: 503 });
    store.answer = new Error('odd');
    expect(await act({ kind: 'take', item: 'captain' })).toMatchObject({ ok: false, status: 500 });
    store.answer = { id: 'action-2', asked: '', text: 'Took Away captain' };
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
    await act({ kind: 'next', output: 'broadcast', zone: 'lower', item: 'welcome' });
    await act({ kind: 'edit', item: 'captain', inputs: { line: 'later' } });
    expect(air.messages).toHaveLength(before);
    await act({ kind: 'clear', output: 'broadcast', zone: 'lower' });
    expect(air.ops<AirOp>().at(-1)).toEqual({ op: 'clear', mount: 'broadcast/lower' });
  });

  it('an input that begins anew does so when its item leaves the air, cleared or by another take', async () => {
    const { act, page } = await setUp();
    const [lower] = folder('demo/template').filter((t) => (t as { key: string }).key === 'lower-third');
    const body = structuredClone(lower) as { inputs: { key: string; resets?: boolean }[] };
    Object.assign(
      body.inputs.find((i) => i.key === 'line')!,
      { resets: true, default: 'fresh' },
    );
    expect(await act({ kind: 'put-document', what: 'template', body })).toMatchObject({ ok: true });
    const line = () =>
      (page('desk').messages[0]!.body as DeskSnapshot).documents.item.find((i) => i.key === 'captain')!
        .inputs['line'];
    for (const leave of [
      { kind: 'clear', output: 'broadcast', zone: 'lower' },
      { kind: 'take', item: 'welcome' },
    ]) {
      await act({ kind: 'edit', item: 'captain', inputs: { line: 'typed tonight' } });
      await act({ kind: 'take', item: 'captain' });
      expect(line()).toBe('typed tonight');
      expect(await act(leave)).toMatchObject({ ok: true });
      expect(line()).toBe('fresh');
    }
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
    desk.say({ t: 'watch', of: { field: 'home.score' } });
    const trace = () => desk.messages.filter((m) => m.t === 'trace').at(-1)?.trace;
    await expect.poll(trace).toMatchObject({
      frame: { places: [{ from: 13, to: 15 }], source: 'Controller' },
      reading: { name: 'home score', raw: '12', value: '12' },
      patch: { reading: 'home score' },
      uses: [{ item: 'Scoreboard bar', layer: 'home score', property: 'text' }],
    });
  });

  it('traces a layer on air and a cell of a derived table to the line that says it', async () => {
    const column = (name: string, as: string) => ({ name, place: name, as });
    const table = {
      key: 'record',
      name: 'Record',
      rows: '/document/teams',
      columns: [column('side', 'text'), column('wins', 'number')],
      keyed: ['side'],
    };
    const derived = (key: string, rest: object) => ({ schema: 1, key, derived: { key, name: key, ...rest } });
    const { engine, act, frame, line } = await setUp();
    const say = (home: string, away: string) => {
      const teams = [
        { side: 'home', wins: home },
        { side: 'away', wins: away },
      ];
      line.say(Buffer.from(`${JSON.stringify({ teams })}\n`), 4002);
    };
    const bundle = {
      schema: 1,
      source: {
        schema: 1,
        key: 'lines',
        name: 'Lines',
        transport: { kind: 'tcp', host: '127.0.0.1', port: 4002 },
        limits: { late: 60_000, lost: 120_000 },
      },
      map: null,
      document: { schema: 1, key: 'lines', readings: [], tables: [table] },
      patch: null,
    };
    expect(await act({ kind: 'source', bundle })).toMatchObject({ ok: true });
    say('4', 'x');
    const formula = 'wins * 2';
    const doubled = { what: 'table', from: ['record'], compute: [{ name: 'double', formula }] };
    const best = { lookup: { table: 'doubled', rank: { fixed: 1 }, column: 'double' } };
    for (const body of [derived('doubled', doubled), derived('best', { what: 'field', value: best })])
      expect(await act({ kind: 'put-document', what: 'derived', body })).toMatchObject({ ok: true });
    await expect.poll(() => engine.board.read('best')).toBe(8);
    const follow = (of: Traced) => engine.trace(of).derived!.from[0]!;
    const second = follow({ field: 'best' });
    expect(second).toMatchObject({ name: 'doubled · home · double', says: '8' });
    expect(engine.trace(second.of!)).toMatchObject({ origin: 'a derivation', derived: { how: formula } });
    const last = follow(second.of!);
    expect(engine.trace(last.of!)).toMatchObject({
      says: '4',
      origin: 'Lines',
      document: {
        source: 'Lines',
        format: 'JSON line',
        place: "/document/teams[side='home']/wins",
        raw: '4',
      },
    });
    // What was made of it stands, whatever else changes, until something that it read is another.
    const seen = [{ field: 'best' }, second.of!, last.of!].map((of) => {
      const noted = new ReadLog();
      engine.trace(of, noted);
      return noted;
    });
    const current = () => seen.map((noted) => noted.isCurrent);
    frame((s) => (s.home.score = 31));
    await expect.poll(() => engine.board.read('home.score')).toBe(31);
    expect(current()).toEqual([true, true, true]);
    say('4', '1');
    await expect.poll(() => engine.board.row('record', 'away')?.['wins']).toBe(1);
    // Only the cell's way leads to the line itself, and that is another.
    expect(current()[0]).toBe(true);
    expect(current()[2]).toBe(false);
    say('6', '1');
    await expect.poll(() => engine.board.read('best')).toBe(12);
    expect(current()).toEqual([false, false, false]);
    expect(engine.trace({ layer: { mount: 'broadcast/top', id: 'home-name' } })).toMatchObject({
      says: 'Thornmere Herons',
      derived: { from: expect.arrayContaining([expect.objectContaining({ of: { field: 'home.name' } })]) },
    });
  });

  it('takes sources on, anew and off while it runs, once the store has them', async () => {
    const { engine, act, frame, desk, store } = await setUp();
    frame((s) => (s.home.score = 2));
    await expect.poll(() => engine.board.read('home.score')).toBe(2);
    const [bundle] = bundlesOf(engine.world);
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
    expect(
      desk.ops<DeskOp>().flatMap((op) => ('kind' in op ? [`${op.op} ${op.kind} ${op.key}`] : [])),
    ).toEqual(['document-gone source controller', 'document source second', 'document source second']);
  });

  it('saves the board in batches, clocks at rest', async () => {
    const { store, frame } = await setUp();
    frame((s) => (s.running = true));
    await expect
      .poll(() => store.board.find((r) => r.field === 'clock.game'))
      .toMatchObject({ value: { running: false } });
  });

  it('does nothing whose answer was given up before it could begin', async () => {
    const time = new FakeTime();
    const { engine, store, act } = await setUp({}, undefined, time);
    const pin = (until: number) => act({ kind: 'pin', field: 'home.score', text: '9', until });
    expect(await pin(engine.time.now() - 1)).toMatchObject({ status: 409 });
    // It waits behind one that the database keeps waiting.
    let go = () => {};
    const commit = store.commit.bind(store);
    store.commit = (...all) => new Promise<void>((done) => (go = done)).then(() => commit(...all));
    const first = act({ kind: 'pin', field: 'away.score', text: '1' });
    const second = pin(engine.time.now() + 30);
    await time.pass(60);
    go();
    expect(await first).toMatchObject({ ok: true });
    expect(await second).toMatchObject({ reason: expect.stringContaining('too late') as string });
    expect(engine.board.state('home.score')?.pin).toBeUndefined();
  });
});

describe('the documents that ship', () => {
  it.each(Object.keys(DOCUMENT_KINDS) as DocumentKind[])('every %s is well formed', (kind) => {
    const list = ['basic', 'demo'].flatMap((part) => {
      try {
        return folder(`${part}/${kind}`);
      } catch {
        return [];
      }
    });
    expect(list.length).toBeGreaterThan(0);
    for (const body of list) expect(DOCUMENT_KINDS[kind].parse(body)).toMatchObject({ ok: true });
  });

  it('keeps outputs apart: each has its lanes and layers, and who joins gets what is known without working it out', async () => {
    const ribbon = {
      schema: 1,
      key: 'ribbon',
      name: 'Ribbon',
      width: 3840,
      height: 96,
      zones: [{ key: 'top', name: 'All', x: 0, y: 0, width: 3840, height: 96 }],
    };
    const { act, frame, page, air, desk, engine } = await setUp({ output: [ribbon] });
    expect((desk.messages[0]!.body as DeskSnapshot).lanes).toHaveLength(3);
    const low = page('air:ribbon');
    const { items } = low.messages[0]!.body as AirSnapshot;
    expect(items).toEqual([]);
    await act({ kind: 'pin', field: 'home.score', text: '5' });
    expect(low.ops()).toEqual([]);
    expect(air.ops<AirOp>().at(-1)).toMatchObject({
      op: 'layers',
      deltas: [{ mount: 'broadcast/top', layer: 'home-score', props: { text: 5 } }],
    });
    expect(await act({ kind: 'clear', output: 'ribbon', zone: 'top' })).toMatchObject({ status: 409 });
    expect(await act({ kind: 'clear', output: 'nowhere', zone: 'top' })).toMatchObject({
      reason: 'There is no zone "top" on the output "nowhere".',
    });
    frame((s) => (s.away.score = 4));
    await expect.poll(() => engine.board.read('away.score')).toBe(4);
    const late = page('air:broadcast').messages[0]!.body as AirSnapshot;
    expect(late.items.map((i) => i.mount)).toEqual(['broadcast/top']);
    expect(late.items[0]!.states).toMatchObject({
      'home-score': { text: 5 },
      'away-score': { text: 4 },
    });
  });
});

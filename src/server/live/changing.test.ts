import { describe, expect, it } from 'vitest';
import type { DeskSnapshot } from '../../core/wire/wire.ts';
import { answerLook } from './look.ts';
import { FakeTime } from '../../../tests/support/fake-time.ts';
import { read, setUp, SOON } from '../../../tests/support/engine.ts';

describe('Engine, what is changed while it runs', () => {
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
    const time = new FakeTime();
    const { engine, store, frame, act } = await setUp({ source: [pad] }, { ...SOON, lost: 60_000 }, time);
    frame((s) => Object.assign(s, { clock: 2000, running: true, shot: 9000 }));
    await time.until(() => expect(engine.board.state('home.score')?.origin).toBe('controller'));
    const refused = async (action: object) => ((await act(action)) as { reason: string }).reason;
    expect(await refused(hand('home.score', 'add', '1'))).toMatch(
      /^Controller speaks and feeds Home score\./,
    );
    await time.until(() => expect(engine.board.state('clock.game')?.quality).toBe('late'));
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
      change: { press: { changes: [{ key: 'home.score', value: 1 }] } },
    });
    expect(await act(hand('clock.game', 'start'))).toMatchObject({ ok: true });
    expect(engine.board.state('clock.shot')).toMatchObject({ origin: 'pad', value: { running: true } });
    expect(await refused(hand('clock.game', 'start'))).toBe('Game clock runs already.');
    // Two seconds were left: at zero it stands by itself, and cannot be started from there.
    await time.until(() =>
      expect(engine.board.read('clock.game')).toMatchObject({ running: false, value: 0 }),
    );
    expect(await refused(hand('clock.game', 'start'))).toBe('Game clock is at zero; set it first.');
    const heard = () => {
      frame((s) => Object.assign(s, { running: false }));
      return engine.sourceStates().find((s) => s.key === 'pad')?.holds;
    };
    // What leaps on air waits for somebody who chooses, with both values told.
    await time.until(() => expect(heard()).toEqual(['clock.game', 'clock.shot']));
    expect(engine.sourceStates().find((s) => s.key === 'controller')?.waiting[0]).toMatchObject({
      field: 'clock.game',
      held: { value: 0 },
      back: { value: 2000 },
    });
    expect(await act({ kind: 'give-back', source: 'controller' })).toMatchObject({ ok: true });
    await time.until(() => expect(heard()).toEqual([]));
    expect(engine.board.state('home.score')).toMatchObject({ value: 0, origin: 'controller' });
  });

  it('changes the game, its sport and what is derived, refuses what is used, and an undo is the opposite', async () => {
    const { engine, store, act, page } = await setUp({
      profile: [read('basic/profile/ice-hockey.json')],
      source: [pad],
    });
    const other = {
      ...(read('demo/game/opening-night.json') as object),
      key: 'rematch',
      profile: 'ice-hockey',
    };
    const put = (what: string, body: object) => act({ kind: 'put-document', what, body });
    expect(await put('game', { ...other, profile: 'chess' })).toMatchObject({
      reason: 'There is no sport "chess".',
    });
    expect(await put('game', other)).toMatchObject({ text: 'Saved the game Herons v Foxes' });
    expect(store.committed.at(-1)).toMatchObject({
      change: { edits: [{ kind: 'game', key: 'rematch', was: null, revision: 1 }] },
    });
    expect(engine.board.def('home.pulled')).toBeUndefined();
    expect(await act({ kind: 'choose-game', game: 'rematch' })).toMatchObject({ ok: true });
    expect(engine.board.def('home.pulled')).toBeDefined();
    expect(engine.board.def('clock.shot')).toBeUndefined();
    // The pad is for the fields of the sport that is played.
    expect(await act(hand('home.pulled', 'set', 'yes'))).toMatchObject({ ok: true });
    expect(engine.board.read('home.pulled')).toBe(true);
    expect(engine.board.read('home.name')).toBe('Thornmere Herons');
    expect(await act({ kind: 'swap-sides' })).toMatchObject({
      reason: expect.stringContaining('say whether the scorer has changed them') as string,
    });
    expect(await act({ kind: 'swap-sides', scorer: 'swapped' })).toMatchObject({ ok: true });
    expect(engine.board.read('home.name')).toBe('Cindergap Foxes');
    expect(engine.board.read('away.pulled')).toBe(true);
    expect(engine.board.tables.get('home.players')!.rows.get('3')).toMatchObject({ name: 'Bram Hallowick' });
    expect(await act({ kind: 'remove-document', what: 'game', key: 'rematch' })).toMatchObject({
      reason: 'This game is being played; choose another one first.',
    });
    expect(await act({ kind: 'remove-document', what: 'profile', key: 'ice-hockey' })).toMatchObject({
      reason: expect.stringContaining('needs this sport') as string,
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
    const { derived: list } = page('desk').messages[0]!.body as DeskSnapshot;
    expect(list.find((d) => d.doc.key === 'twice')).toMatchObject({ own: true });
    expect(engine.trace({ field: 'twice' }).derived!.from).toEqual([
      { of: { field: 'home.score' }, name: 'Home score', says: expect.any(String) },
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
      reason: 'This cannot be kept: path: is not where the entry is to stand.',
    });
    // What it is, its bytes say, whatever the request does.
    const lying = { ...whole, size: 0, type: 'image/png', width: 9 };
    expect(await act({ kind: 'media', path: 'a/b.svg', entry: lying })).toMatchObject({ ok: true });
    expect(engine.library.index.find('a/b')).toEqual(whole);
    expect(engine.library.index.address('A/B')).toBe(`/media/by-hash/${taken.about.hash}`);
    expect((await engine.library.content(taken.about.hash))!.type).toBe('image/svg+xml');
    expect(await act({ kind: 'media', path: 'a/b.svg', entry: null })).toMatchObject({ ok: true });
    expect(await act({ kind: 'media', path: 'a/b.svg', entry: null })).toMatchObject({ status: 409 });

    // Several at once: all or none, and nothing that stands in the way is overwritten.
    const moved = { ...whole, path: 'c/b.svg' };
    const arrange = (...changes: object[]) => act({ kind: 'arrange-media', changes });
    for (const path of ['a/b.svg', 'a/e.svg'])
      expect(await act({ kind: 'media', path, entry: { ...whole, path } })).toMatchObject({ ok: true });
    const move = [
      { path: 'a/b.svg', entry: null },
      { path: 'c/b.svg', entry: moved },
    ];
    expect(await arrange(...move)).toMatchObject({ ok: true, text: 'Moved 1 picture in the library' });
    // What names it by its former path still finds it, until something else stands there.
    const { index } = engine.library;
    expect(index.at('a/b')).toBeUndefined();
    expect(index.find('c/b')).toEqual({ ...moved, formerly: ['a/b.svg'] });
    expect(index.find('a/b')).toBe(index.find('c/b'));
    // A path that was worked out from a key means what stands there.
    expect([index.address('a/b'), index.address('a/b', true)]).toEqual([index.address('c/b'), null]);
    const again = [
      { path: 'c/b.svg', entry: null },
      { path: 'd/z.svg', entry: { ...moved, path: 'd/z.svg' } },
    ];
    expect(await arrange(...again)).toMatchObject({ ok: true });
    expect(index.find('a/b')).toMatchObject({ path: 'd/z.svg', formerly: ['a/b.svg', 'c/b.svg'] });
    expect(await act({ kind: 'undo' })).toMatchObject({ ok: true });
    expect(index.find('a/b')).toEqual({ ...moved, formerly: ['a/b.svg'] });
    expect(index.find('d/z')).toBeUndefined();
    expect(await act({ kind: 'media', path: 'a/b.svg', entry: whole })).toMatchObject({ ok: true });
    expect(index.find('a/b')).toEqual(whole);
    expect(await act({ kind: 'media', path: 'a/b.svg', entry: null })).toMatchObject({ ok: true });
    expect(index.find('a/b')?.path).toBe('c/b.svg');
    expect(await arrange(...move)).toMatchObject({
      status: 409,
      reason: expect.stringContaining('has no "a/b.svg"'),
    });
    const there = await engine.library.take(new TextEncoder().encode('<svg viewBox="0 0 2 2"/>'), 'o.svg');
    if ('problem' in there) throw new Error(there.problem);
    const other = { ...there.about, path: 'c/b.svg' };
    expect(await arrange({ path: 'a/e.svg', entry: null }, { path: 'c/b.svg', entry: other })).toMatchObject({
      reason: '"c/b.svg" stands there already; nothing was moved.',
    });
    expect(
      await arrange(
        { path: 'x/b', entry: { ...moved, path: 'x/b' } },
        { path: 'X/B.svg', entry: { ...moved, path: 'X/B.svg' } },
      ),
    ).toMatchObject({
      reason: 'Two would stand at "X/B.svg"; nothing was moved.',
    });
    expect(await arrange({ path: 7, entry: null })).toMatchObject({ status: 409 });
    expect(index.at('a/e')).toBeDefined();
    expect(await arrange({ path: 'c/b.svg', entry: null }, { path: 'a/e.svg', entry: null })).toMatchObject({
      text: 'Took 2 pictures out of the library',
    });
    expect(index.list().filter((m) => /^[ac]\//.test(m.path))).toEqual([]);
    expect(index.find('a/b')).toBeUndefined();

    const look = (key: string, text: string) => answerLook(engine.incoming, key, JSON.parse(text));
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
    expect(await look('controller', '[]')).toMatchObject({ status: 400 });
  });

  it('keeps the value of a header at the server, sends it to its own host alone, and two sources hold no map together', async () => {
    const { engine, store, desk, act } = await setUp();
    const feed = (header: object | null, url = 'http://127.0.0.1:9/a', key = 'feed') => ({
      schema: 1,
      source: {
        schema: 1,
        key,
        name: key,
        enabled: false,
        transport: { kind: 'http', url, header },
        limits: { late: 300, lost: 600 },
      },
      map: null,
      document: null,
      patch: null,
    });
    const save = (header: object | null, url?: string, key?: string) =>
      act({ kind: 'source', bundle: feed(header, url, key) });
    const value = () => {
      const { transport } = engine.incoming.bundle('feed')!.source;
      return transport.kind === 'http' && transport.header?.value;
    };
    const kept = { name: 'X-Key', value: '', kept: true };
    expect(await save({ name: 'X-Key', value: 's3cret' })).toMatchObject({ ok: true });
    expect(value()).toBe('s3cret');
    expect(await save(kept)).toMatchObject({ ok: true });
    expect(value()).toBe('s3cret');
    expect(await save(kept, 'http://evil.example/a')).toMatchObject({ status: 409 });
    expect(await save({ ...kept, name: 'X-Other' })).toMatchObject({ status: 409 });
    expect(await save(kept, undefined, 'other')).toMatchObject({ status: 409 });
    expect(await act({ kind: 'remove-source', source: 'feed' })).toMatchObject({ ok: true });
    expect(await save(kept)).toMatchObject({ ok: true });
    expect(value()).toBe('s3cret');
    engine.hub.refresh('desk');
    expect(JSON.stringify(desk.messages)).not.toContain('s3cret');
    expect(JSON.stringify(store.committed.map((c) => (c as { action: object }).action))).not.toContain(
      's3cret',
    );

    const controller = engine.incoming.bundle('controller')!;
    const thief = {
      ...controller,
      source: { ...controller.source, key: 'thief', enabled: false },
      patch: null,
    };
    expect(await act({ kind: 'source', bundle: thief })).toMatchObject({
      reason: expect.stringContaining('belongs to Controller already') as string,
    });
  });

  it('exchanges all that belongs to a side in one step, and the patches where the scorer has not', async () => {
    const { engine, frame, act, air } = await setUp({ source: [pad] });
    frame((s) => {
      Object.assign(s, { running: true, clock: 300_000, possession: 'home' });
      s.home.score = 3;
      s.away.score = 5;
    });
    await expect.poll(() => engine.board.read('away.score')).toBe(5);
    expect(await act({ kind: 'pin', field: 'home.shots', text: '40' })).toMatchObject({ ok: true });
    const read = (...keys: string[]) => keys.map((key) => engine.board.read(key));
    const possession = engine.board.read('situation.possession');
    const ops = air.ops().length;
    expect(await act({ kind: 'swap-sides', scorer: 'not' })).toMatchObject({ ok: true });
    expect(read('home.name', 'home.score', 'away.score', 'away.shots')).toEqual([
      'Cindergap Foxes',
      5,
      3,
      40,
    ]);
    expect(engine.board.state('home.shots')?.pin).toBeUndefined();
    expect(engine.board.read('situation.possession')).toBe(possession === 'home' ? 'away' : 'home');
    expect(engine.board.read('clock.game')).toMatchObject({ running: true });
    // One step for every page: names and scores together.
    expect(air.ops().length - ops).toBe(1);
    // The controller still says home for what is away now, and that is where it goes.
    frame((s) => (s.home.score = 4));
    await expect.poll(() => read('home.score', 'away.score')).toEqual([5, 4]);
    expect(engine.board.read('situation.possession')).toBe(possession === 'home' ? 'away' : 'home');
    expect(await act({ kind: 'swap-sides', scorer: 'not' })).toMatchObject({ ok: true });
    frame((s) => (s.home.score = 6));
    await expect.poll(() => read('home.score', 'away.score')).toEqual([6, 5]);
    expect(engine.board.read('situation.possession')).toBe(possession);
  });

  it('begins a game with the first values of its sport, never with the score of another, and takes it back whole', async () => {
    const { engine, frame, act, air } = await setUp({ profile: [read('basic/profile/ice-hockey.json')] });
    const game = {
      ...(read('demo/game/opening-night.json') as object),
      key: 'rematch',
      profile: 'ice-hockey',
    };
    expect(await act({ kind: 'put-document', what: 'game', body: game })).toMatchObject({ ok: true });
    frame((s) => {
      s.home.score = 3;
      s.home.timeouts = 1;
    });
    await expect.poll(() => engine.board.read('home.score')).toBe(3);
    expect(await act({ kind: 'pin', field: 'away.score', text: '9' })).toMatchObject({ ok: true });
    const chose = await act({ kind: 'choose-game', game: 'rematch', board: 'keep', air: 'clear' });
    expect(chose).toMatchObject({ ok: true });
    const now = (...keys: string[]) => keys.map((key) => engine.board.read(key));
    expect(
      now('home.score', 'away.score', 'home.timeouts', 'home.penalty1.player', 'situation.period'),
    ).toEqual([0, 0, 1, null, 1]);
    expect(engine.board.read('clock.game')).toMatchObject({ running: false, value: 1_200_000 });
    expect(air.ops<{ op: string }>().at(-1)).toMatchObject({ op: 'clear' });
    expect(await act({ kind: 'undo' })).toMatchObject({
      text: expect.stringMatching(/^Undid: Chose the game/),
    });
    expect(now('home.score', 'away.score', 'home.timeouts')).toEqual([3, 9, 1]);
    expect(engine.board.def('clock.shot')).toBeDefined();
    expect(air.ops<{ op: string }>().at(-1)).toMatchObject({ op: 'take' });
    // What was pinned before comes back with the game; nothing was done before that.
    expect(await act({ kind: 'undo' })).toMatchObject({ text: 'Undid: Pinned Away score at 9' });
  });
});

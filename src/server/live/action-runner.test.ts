import { describe, expect, it } from 'vitest';
import type { Game } from '../../core/show/game.ts';
import type { DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { engineOn, FakeStore, read, setUp } from '../../../tests/support/engine.ts';
import type { Answered } from '../store/store.ts';

const opening = read('demo/game/opening-night.json') as Game;
const at = (desk: string, view = 'game') => ({ desk: `desk-of-${desk}`, who: desk, view });

describe('ActionRunner', () => {
  it('takes back and does again for each person at each view, over restarts, and refuses what others changed since', async () => {
    const { engine, store, act, desk } = await setUp();
    const pin = (who: string, text: string, view = 'live', field = 'home.score') =>
      act({ kind: 'pin', field, text, ...at(who, view) });
    const undo = (who: string, view = 'live') => act({ kind: 'undo', ...at(who, view) });
    const redo = (who: string, view = 'live') => act({ kind: 'redo', ...at(who, view) });
    const score = () => engine.board.state('home.score')?.pin?.value ?? null;
    await pin('ode', '1');
    await pin('ode', '2');
    expect(await undo('ada')).toMatchObject({ reason: 'There is nothing to undo.' });
    expect(await undo('ode', 'game')).toMatchObject({ status: 409 });
    expect(await undo('ode')).toMatchObject({ text: 'Undid: Pinned Home score at 2' });
    expect(score()).toBe(1);
    const states = () => desk.ops<DeskOp>().findLast((o) => o.op === 'undo');
    expect(states()).toMatchObject({
      states: [{ undo: 'Pinned Home score at 1', redo: 'Pinned Home score at 2' }],
    });
    expect(await redo('ode')).toMatchObject({ text: 'Redid: Pinned Home score at 2' });
    expect(score()).toBe(2);
    // What was done again can be taken back again, with what stood before it.
    expect(await undo('ode')).toMatchObject({ ok: true });
    expect(score()).toBe(1);
    await pin('ada', '5');
    expect(await undo('ode')).toMatchObject({
      reason: 'It cannot be taken back: what "Pinned Home score at 1" changed was changed again since.',
    });
    expect(score()).toBe(5);
    // It is not lost: once the other took hers back it goes.
    await undo('ada');
    expect(await undo('ode')).toMatchObject({ ok: true });
    expect(score()).toBeNull();
    await pin('ode', '7');
    expect(await redo('ode')).toMatchObject({ reason: 'There is nothing to redo.' });
    // What the database was given is enough to go on from after a restart.
    const kept = store.committed.map((c) => (c as { action: { id: string; past: object | null } }).action);
    expect(kept.filter((a) => a.past !== null)).toHaveLength(4);
    expect(kept.at(-1)).toMatchObject({ by: { desk: 'desk-of-ode', name: 'ode', view: 'live' } });
  });

  it('says what of the air a redo changes, and nothing where it changes none of it', async () => {
    const { act, desk } = await setUp();
    const mine = at('ode', 'live');
    const redoes = () => {
      const told = desk.ops<DeskOp>().findLast((o) => o.op === 'undo');
      return told?.op === 'undo' ? told.states.find((s) => s.desk === mine.desk)!.redoes : null;
    };
    const done = async (...actions: object[]) => {
      for (const action of actions) expect(await act({ ...action, ...mine })).toMatchObject({ ok: true });
    };
    const lower = { output: 'broadcast', zone: 'lower' };
    const take = { kind: 'take', item: 'captain' };
    await done(take, { kind: 'undo' });
    expect(redoes()).toEqual([{ ...lower, item: 'captain' }]);
    await done(take, { kind: 'clear', ...lower }, { kind: 'undo' });
    expect(redoes()).toEqual([{ ...lower, item: null }]);
    await act({ kind: 'pin', field: 'home.score', text: '1', ...mine });
    await act({ kind: 'undo', ...mine });
    expect(redoes()).toEqual([]);
  });

  it('answers a request that comes again as at first, also after a restart, and refuses an id that another action had', async () => {
    const { engine, store, act, desk } = await setUp();
    const pinned = { id: 'asked-once', kind: 'pin', field: 'home.score', text: '1' };
    const first = await engine.act({ ...pinned, ...at('ode') });
    expect(first).toMatchObject({ ok: true, text: 'Pinned Home score at 1', seq: desk.messages.at(-1)!.seq });
    await act({ kind: 'release', field: 'home.score' });
    // Nothing of it is done again, whoever sends it and until when.
    expect(await engine.act({ ...pinned, until: 1, ...at('ada') })).toEqual(first);
    expect(engine.board.state('home.score')?.pin).toBeUndefined();
    const other = { id: 'asked-once', kind: 'take', item: 'captain' };
    const refused = {
      ...{ ok: false, status: 409 },
      reason: expect.stringContaining('used for another one (Pinned Home score at 1)') as string,
    };
    expect(await engine.act(other)).toMatchObject(refused);
    expect(store.committed).toHaveLength(2);
    // Another engine, that only knows what the database says: of the last ones at once, of older ones when it commits.
    const { action } = store.committed[0] as { action: Answered };
    const again = await setUp();
    again.store.answer = action;
    expect(await again.engine.act(pinned)).toMatchObject({ ok: true, text: 'Pinned Home score at 1' });
    expect(again.engine.board.state('home.score')?.pin).toBeUndefined();
    expect(await again.engine.act(other)).toMatchObject(refused);
    const third = new FakeStore(0);
    third.answered = [action];
    const started = await engineOn(third);
    expect(await started.act(pinned)).toMatchObject({ ok: true });
    expect(await started.act(other)).toMatchObject(refused);
    expect(third.committed).toHaveLength(0);
  });

  it('writes edits of one input down as one entry until something else is done, with one undo for all', async () => {
    const { engine, store, act, desk, page } = await setUp();
    const type = (line: string, who = 'ode') =>
      act({ kind: 'edit', item: 'captain', inputs: { line }, ...at(who, 'live') });
    const line = () =>
      (page('desk').messages[0]!.body as DeskSnapshot).documents.item.find((i) => i.key === 'captain')!
        .inputs['line'];
    const first = line();
    for (const text of ['F', 'Fo', 'Fou']) expect(await type(text)).toMatchObject({ ok: true });
    const log = desk.ops<DeskOp>().flatMap((o) => (o.op === 'log' ? [o.replaces] : []));
    expect(log).toEqual([false, true, true]);
    await type('Four', 'ada');
    await type('Five', 'ode');
    const follows = store.committed.map((c) => (c as { action: { follows?: string } }).action.follows);
    expect(follows.map((f) => f !== undefined)).toEqual([false, true, true, false, false]);
    expect(await act({ kind: 'undo', ...at('ode', 'live') })).toMatchObject({ ok: true });
    expect(await act({ kind: 'undo', ...at('ada', 'live') })).toMatchObject({ ok: true });
    expect(await act({ kind: 'undo', ...at('ode', 'live') })).toMatchObject({ ok: true });
    expect(line()).toBe(first);
    expect(engine.database.ok).toBe(true);
  });

  it('makes two saves of one document one where they touch different things, and else says what clashes', async () => {
    const { engine, store, act } = await setUp();
    const save = (who: string, body: Game, revision: number) =>
      act({ kind: 'put-document', what: 'game', body, revision, ...at(who) });
    const game = () => engine.world.documents.game.get('opening-night')!;
    const started = structuredClone(game());
    expect(await save('ode', { ...started, venue: 'Slate Hall' }, 1)).toMatchObject({ ok: true });
    const home = { ...started.home, nickname: 'The Waders' };
    expect(await save('ada', { ...started, home }, 1)).toMatchObject({ ok: true });
    expect(game()).toMatchObject({ venue: 'Slate Hall', home: { nickname: 'The Waders' } });
    const players = started.home.players.map((p, i) => (i === 0 ? { ...p, last: 'Other' } : p));
    expect(await save('ode', { ...started, home: { ...started.home, players } }, 1)).toMatchObject({
      ok: true,
    });
    expect(await save('ada', { ...started, venue: 'Old Rink' }, 1)).toMatchObject({
      status: 409,
      reason:
        'It was saved at another desk meanwhile, and both changed venue (Slate Hall there, Old Rink here).',
      clash: true,
    });
    expect(game()).toMatchObject({ venue: 'Slate Hall' });
    expect(await save('ada', { ...game(), venue: 'Old Rink' }, 4)).toMatchObject({ ok: true });
    // One's own save is taken back out of the middle, and what others did since stays.
    expect(await act({ kind: 'undo', ...at('ode') })).toMatchObject({ ok: true });
    expect(game().home.players[0]!.last).toBe(started.home.players[0]!.last);
    expect(game()).toMatchObject({ venue: 'Old Rink', home: { nickname: 'The Waders' } });
    expect(await act({ kind: 'undo', ...at('ode') })).toMatchObject({ status: 409 });
    // Every version is kept, the first of all too; any can be restored.
    expect(store.versions.filter((v) => !v.before).map((v) => [v.revision, v.who])).toEqual([
      [2, 'ode'],
      [3, 'ada'],
      [4, 'ode'],
      [5, 'ada'],
      [6, 'ode'],
    ]);
    const restore = (revision: number) =>
      act({ kind: 'restore-version', what: 'game', key: 'opening-night', revision, ...at('ada') });
    expect(await restore(1)).toMatchObject({ ok: true });
    expect(game()).toEqual(started);
    expect(await restore(99)).toMatchObject({ reason: 'There is no version 99 of it.' });
    expect(await save('ode', { ...opening, key: 'opening-night' }, 99)).toMatchObject({ status: 409 });
  });

  it('saves what is drawn by its changes, tells desks those alone, and takes a whole sitting back and does it again', async () => {
    const { engine, act, desk } = await setUp();
    const template = () => engine.world.documents.template.get('lower-third')!;
    const first = structuredClone(template());
    const put = (revision: number, patches: object, who = 'ode', key = 'lower-third') =>
      act({ kind: 'put-document', what: 'template', key, revision, patches, ...at(who, 'templates') });
    const set = (path: string, value: unknown) => [{ op: 'replace', path, value }];
    const told = () => desk.ops<DeskOp>().findLast((o) => o.op === 'changed');
    expect(await put(1, set('/layouts/0/width', 900))).toMatchObject({
      ok: true,
      text: 'Saved the template Lower third',
    });
    expect(told()).toMatchObject({
      kind: 'template',
      key: 'lower-third',
      revision: 2,
      patches: set('/layouts/0/width', 900),
    });
    expect(await put(2, set('/name', 'Third'))).toMatchObject({ text: 'Saved the template Third' });
    expect(await put(3, set('/layouts/0/height', 90))).toMatchObject({ ok: true });
    // Whoever began from an older one changes something else; from one that never was, or of no document, nothing.
    const guided = [{ op: 'add', path: '/layouts/0/guides', value: { x: [5], y: [] } }];
    expect(await put(1, guided, 'ada')).toMatchObject({ ok: true });
    expect(await put(1, set('/name', 'Fourth'), 'ada')).toMatchObject({ clash: true });
    const drawn = { ...first, name: 'Third' };
    drawn.layouts = [{ ...first.layouts[0]!, width: 900, height: 90, guides: { x: [5], y: [] } }];
    expect(template()).toEqual(drawn);
    expect(await act({ kind: 'undo', ...at('ada', 'templates') })).toMatchObject({ ok: true });
    for (const [kind, name, width] of [
      ['undo', first.name, first.layouts[0]!.width],
      ['redo', 'Third', 900],
      ['undo', first.name, first.layouts[0]!.width],
    ] as const) {
      expect(await act({ kind, ...at('ode', 'templates') })).toMatchObject({ ok: true });
      expect(template()).toMatchObject({ name, layouts: [{ width }] });
    }
    expect(template()).toEqual(first);
    const revision = engine.world.revisions.get('template/lower-third')!;
    expect(revision).toBe(9);
    expect(
      await Promise.all([
        put(revision, [{ op: 'remove', path: '/layouts/7' }]),
        put(revision, set('/layouts', [])),
        put(77, set('/name', 'x')),
        put(1, set('/name', 'x'), 'ode', 'gone'),
        put(revision, []),
        put(revision, [{ op: 'move', path: '/name', from: '/key' }]),
        act({ kind: 'put-document', what: 'template', key: 'lower-third', patches: set('/name', 'x') }),
        act({ kind: 'put-document', what: 'template' }),
      ]),
    ).toMatchObject([
      { reason: 'These changes are not of revision 9 of it: there is no "/layouts/7" in it.' },
      { reason: expect.stringContaining('This cannot be saved: layouts') },
      { reason: 'It was saved at another desk meanwhile.', clash: true },
      { reason: 'It was deleted at another desk meanwhile.', clash: true },
      { status: 400, reason: expect.stringContaining('patches') },
      { status: 400, reason: expect.stringContaining('each must add, remove or replace') },
      { reason: expect.stringContaining('Give the whole document as body') },
      { reason: expect.stringContaining('Give the whole document as body') },
    ]);
    expect(template()).toEqual(first);
  });

  it('follows a player who gets another number, at a save beside a new name and in what was picked by number', async () => {
    const { engine, act } = await setUp();
    const game = () => engine.world.documents.game.get('opening-night')!;
    const started = structuredClone(game());
    const [first] = started.home.players;
    const saved = (part: object) => ({
      ...started,
      home: { ...started.home, players: started.home.players.map((p, i) => (i ? p : { ...p, ...part })) },
    });
    const how = { by: 'key', is: first!.number };
    const derived = { what: 'pick', key: 'best', name: 'Best', table: 'home.players', how };
    const doc = { schema: 1, key: 'best', derived };
    expect(await act({ kind: 'put-document', what: 'derived', body: doc })).toMatchObject({ ok: true });
    expect(engine.board.read('best')).toBe(first!.number);
    const put = (body: object) =>
      act({ kind: 'put-document', what: 'game', body, revision: 1, ...at('ode') });
    expect(await put(saved({ last: 'Marlow' }))).toMatchObject({ ok: true });
    expect(await put(saved({ number: '88' }))).toMatchObject({ ok: true });
    expect(game().home.players[0]).toMatchObject({ ...first, number: '88', last: 'Marlow' });
    expect(engine.board.read('best')).toBe('88');
    expect(await act({ kind: 'undo', ...at('ode') })).toMatchObject({ ok: true });
    expect(game().home.players[0]).toMatchObject({ number: first!.number, last: 'Marlow' });
    expect(engine.board.read('best')).toBe(first!.number);
  });

  it('changes the patch link by link, and a link that was changed meanwhile only when it is said', async () => {
    const { engine, act } = await setUp();
    const links = () => engine.incoming.bundle('controller')!.patch!.links;
    const was = links().find((l) => l.field === 'home.score')!;
    const change = (is: object | null, more: object = {}) =>
      act({
        kind: 'link',
        links: [{ source: 'controller', field: 'home.score', was, is }],
        ...at('ode', 'patch'),
        ...more,
      });
    const count = links().length;
    const second = { ...was, priority: 2 };
    expect(await change(second)).toMatchObject({ text: expect.stringContaining('feeds Home score') });
    expect(links().find((l) => l.field === 'home.score')).toMatchObject({ priority: 2 });
    expect(await change(null)).toMatchObject({
      reason: expect.stringContaining('was changed at another desk meanwhile'),
    });
    expect(await change(null, { over: true })).toMatchObject({ ok: true });
    expect(links()).toHaveLength(count - 1);
    expect(await change({ ...was, reading: 'nothing' }, { over: true })).toMatchObject({
      reason: 'Controller has no reading "nothing".',
    });
    for (let i = 0; i < 2; i++)
      expect(await act({ kind: 'undo', ...at('ode', 'patch') })).toMatchObject({ ok: true });
    expect(links()).toHaveLength(count);
    expect(links().find((l) => l.field === 'home.score')).toEqual(was);
  });

  it('answers what has no key, or one of another form, in words', async () => {
    const { act } = await setUp();
    for (const body of [{}, { key: 7 }, { key: { a: 1 } }])
      expect(await act({ kind: 'put-document', what: 'game', body, revision: 4 })).toMatchObject({
        status: 409,
        reason: expect.stringContaining('This cannot be saved'),
      });
  });
});

import { describe, expect, it } from 'vitest';
import type { WebSocket } from 'ws';
import type { AirOp, DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { DOCUMENT_KINDS, type DocumentKind } from '../../core/documents/kinds.ts';
import { engineOn, FakePage, FakeStore, folder, read, setUp } from '../../../tests/support/engine.ts';
import { CONTROLLER } from '../../../tests/support/memory-line.ts';
import { exportUnread } from './unread.ts';

const profile = read('basic/profile/ice-hockey.json') as { key: string };
const game = read('demo/game/opening-night.json') as { key: string; profile: string };
const [template] = folder('demo/template') as { key: string; name: string }[];
const spoilt = (doc: object, more: object) => ({ ...doc, ...more });

describe('Documents that cannot be read', () => {
  const unreadOf = (desk: { messages: { body?: unknown }[] }) =>
    (desk.messages.findLast((m) => m.body)!.body as DeskSnapshot).unread;

  it('are kept, named to the desks with the reason, and nothing else stops', async () => {
    const { engine, desk } = await setUp({
      template: [{ schema: 9, key: 'odd', name: 'Odd one' }],
      profile: ['{"schema": 1, "key": "hal', spoilt(profile, { fields: 'none' })],
    });
    expect(unreadOf(desk)).toMatchObject([
      { kind: 'profile', key: 'text-1', name: 'text-1', problems: ['document: is not JSON'] },
      {
        kind: 'profile',
        key: 'ice-hockey',
        name: 'Ice hockey',
        problems: [expect.stringMatching(/^fields: /)],
      },
      {
        kind: 'template',
        key: 'odd',
        word: 'template',
        name: 'Odd one',
        problems: ['schema: version 9 is of a newer Foothill; this one reads up to 3'],
      },
    ]);
    expect(JSON.stringify(unreadOf(desk))).not.toContain('"text"');
    expect(engine.world.documents.template.size).toBe(10);
    expect(exportUnread(engine.world, 'profile', 'text-1')).toBe('{"schema": 1, "key": "hal');
    expect(exportUnread(engine.world, 'profile', 'constructor')).toBeUndefined();
  });

  const kinds = Object.keys(DOCUMENT_KINDS) as DocumentKind[];
  it.each<DocumentKind[]>([...kinds.map((kind) => [kind]), ['profile', 'output', 'game'], kinds])(
    'may be all there are, of whatever kind: %s, %s',
    async (...spoilt: DocumentKind[]) => {
      const store = new FakeStore(CONTROLLER);
      for (const kind of spoilt) store.spoilt.add(kind);
      const engine = await engineOn(store);
      const page = new FakePage(engine.hub.tellDesks);
      engine.hub.join('desk', page as unknown as WebSocket);
      const { documents, unread } = page.messages[0]!.body as DeskSnapshot;
      const there = await Promise.all(
        spoilt.map(async (kind) => ((await store.kept(kind)).length ? [kind] : [])),
      );
      expect(new Set(unread.map((u) => u.kind))).toEqual(new Set(there.flat()));
      // There is something to put graphics on, and a sport; and what stands in is not under the key of what is to be mended.
      const key = (kind: string) => (spoilt.includes(kind as DocumentKind) ? 'stand-in' : expect.any(String));
      expect(documents.output).toMatchObject([{ key: key('output'), zones: expect.any(Array) }]);
      expect(documents.profile).toMatchObject([{ key: key('profile') }]);
      expect(engine.board.read('home.score')).toBeDefined();
      const name = documents.output[0]!.name;
      const body = { ...documents.output[0]!, name: `${name}!` };
      expect(
        await engine.act({ id: 'a-new-name', kind: 'put-document', what: 'output', body }),
      ).toMatchObject({ ok: true });
    },
  );

  it('are not written over, and are mended or deleted by a request that says so', async () => {
    const { engine, desk, store, act, page } = await setUp({
      profile: [spoilt(profile, { fields: 'none' })],
      template: [spoilt(template!, { key: 'mine', layouts: [] })],
      game: [spoilt(game, { key: 'second', home: null })],
    });
    const put = await act({ kind: 'put-document', what: 'profile', body: profile });
    expect(put).toMatchObject({ status: 409, reason: expect.stringContaining('Mend or delete it first') });
    const repair = (what: string, key: string, body: object | null) =>
      act({ kind: 'repair-document', what, key, body });
    expect(await repair('profile', 'ice-hockey', spoilt(profile, { fields: [] }))).toMatchObject({
      reason: 'This is not mended yet: fields: must be a list of 1 to 5000.',
    });
    expect(await repair('profile', 'ice-hockey', spoilt(profile, { key: 'other' }))).toMatchObject({
      reason: expect.stringContaining('has the key "ice-hockey"'),
    });
    expect(await repair('profile', 'handball', profile)).toMatchObject({
      reason: expect.stringContaining('There is no sport "handball"'),
    });
    expect(store.committed).toHaveLength(0);
    expect(await repair('profile', 'ice-hockey', profile)).toMatchObject({
      text: 'Mended the sport Ice hockey, which could not be read',
    });
    expect(engine.world.documents.profile.has('ice-hockey')).toBe(true);
    expect(await repair('template', 'mine', spoilt(template!, { key: 'mine' }))).toMatchObject({ ok: true });
    expect(engine.world.documents.template.get('mine')?.name).toBe(template!.name);
    expect(await repair('game', 'second', null)).toMatchObject({
      text: expect.stringMatching(/^Deleted the game/),
    });
    expect(unreadOf(page('desk'))).toEqual([]);
    expect(desk.ops<DeskOp>().findLast((op) => op.op === 'world')).toEqual({
      op: 'world',
      world: { unread: [] },
    });
    expect(await repair('game', 'second', null)).toMatchObject({ status: 409 });
    expect(await act({ kind: 'put-document', what: 'profile', body: profile })).toMatchObject({ ok: true });
  });

  it('are parts of a source: it is not saved without them, and has them once they are mended', async () => {
    const map = read('demo/frame-map/lacrosse-console.json') as object;
    const other = read('demo/source/controller.json') as object;
    const limits = { late: 300, lost: 600 };
    const transport = { kind: 'http', url: 'http://127.0.0.1:9/', header: { name: 'key', value: 'secret' } };
    const { engine, act } = await setUp({
      source: [
        { ...other, key: 'second', name: 'Second', frameMap: 'second', enabled: false, limits },
        { schema: 1, key: 'third', name: 'Third', transport, limits: { late: 9, lost: 3 } },
        '{"transport": {"kind": "http", "header": {"value": "secret"',
      ],
      'frame-map': [spoilt(map, { key: 'second', readings: {} })],
    });
    const bundle = engine.incoming.bundle('second')!;
    expect(bundle.map).toBeNull();
    expect(await act({ kind: 'source', bundle })).toMatchObject({
      reason: expect.stringContaining('The frame map "Lacrosse console'),
    });
    expect(await act({ kind: 'remove-source', source: 'second' })).toMatchObject({ status: 409 });
    const body = spoilt(map, { key: 'second' });
    expect(await act({ kind: 'repair-document', what: 'frame-map', key: 'second', body })).toMatchObject({
      ok: true,
    });
    expect(engine.incoming.bundle('second')?.map?.key).toBe('second');
    expect(exportUnread(engine.world, 'source', 'third')).toContain('"kept": true');
    expect(exportUnread(engine.world, 'source', 'third')).not.toContain('secret');
    expect(exportUnread(engine.world, 'source', 'text-3')).toBeNull();
  });

  it('is on air in its new form at once, where it is a template that is on air', async () => {
    const bar = read('demo/template/scoreboard-bar.json') as { key: string; layouts: { height: number }[] };
    const { act, air } = await setUp({ template: [spoilt(bar, { layouts: [] })] });
    const body = structuredClone(bar);
    body.layouts[0]!.height = 99;
    expect(await act({ kind: 'repair-document', what: 'template', key: bar.key, body })).toMatchObject({
      ok: true,
    });
    expect(air.ops<AirOp>().at(-1)).toMatchObject({
      op: 'take',
      item: { mount: 'broadcast/top', item: 'bar', layout: { height: 99 } },
    });
  });
});

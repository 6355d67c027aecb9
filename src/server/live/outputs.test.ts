import { describe, expect, it, vi } from 'vitest';
import type { Output } from '../../core/show/show.ts';
import type { AirOp, AirSnapshot, DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { machineTime } from '../scheduler.ts';
import { folder, setUp } from '../../../tests/support/engine.ts';

const broadcast = folder('basic/output')[0] as Output;
const at = { desk: 'desk-of-ode', who: 'ode', view: 'outputs' };

describe('outputs', () => {
  it('are made, changed and deleted while the show runs; what is on air moves with its zone in one step', async () => {
    const { act, page, air, desk, engine } = await setUp();
    const put = (body: object, more = {}) =>
      act({ kind: 'put-document', what: 'output', body, ...at, ...more });
    const undo = () => act({ kind: 'undo', ...at });
    const lanes = () =>
      (page('desk').messages[0]!.body as DeskSnapshot).lanes.map((l) => `${l.output}/${l.zone}`);
    const last = () => air.messages.findLast((m) => m.t === 'snapshot')!.body as AirSnapshot;
    const ribbon = {
      ...broadcast,
      key: 'ribbon',
      name: 'Ribbon',
      width: 3840,
      height: 96,
      background: { kind: 'colour', colour: '#102030' },
      zones: [{ key: 'all', name: 'All', x: 0, y: 0, width: 3840, height: 96 }],
    };
    expect(await put(ribbon, { revision: 0 })).toMatchObject({ text: 'Saved the output Ribbon' });
    expect(lanes()).toEqual(['broadcast/top', 'broadcast/lower', 'ribbon/all']);
    expect(
      desk
        .ops<DeskOp>()
        .filter((o) => o.op === 'document')
        .map((o) => o.key),
    ).toEqual(['ribbon', 'ribbon/all']);
    expect(page('air:ribbon').messages[0]!.body).toMatchObject({
      output: { width: 3840, background: { colour: '#102030' } },
      items: [],
    });

    // A zone moves: every page has all of it at once, and nothing is taken anew or worked out again.
    const before = air.messages.length;
    const [top, lower] = broadcast.zones;
    const moved = { ...broadcast, zones: [lower!, { ...top!, y: 200, width: 1500 }] };
    expect(await put({ ...moved, background: { kind: 'camera' } }, { revision: 1 })).toMatchObject({
      ok: true,
    });
    expect(air.messages).toHaveLength(before + 1);
    expect(last()).toMatchObject({
      output: { background: { address: '/media/stand-in/arena.svg' } },
      items: [
        {
          mount: 'broadcast/top',
          level: 1,
          box: { x: 96, y: 200, width: 1500 },
          states: { 'home-score': {} },
        },
      ],
    });
    expect(await act({ kind: 'pin', field: 'home.score', text: '7' })).toMatchObject({ ok: true });
    expect(air.ops().at(-1)).toMatchObject({ op: 'layers', deltas: [{ props: { text: 7 } }] });
    expect(await undo()).toMatchObject({ ok: true });
    expect(last().items).toMatchObject([{ level: 0, box: { y: 54, width: 1728 } }]);

    // A zone in use stays: something is on air in it, or an item would go nowhere.
    expect(await put({ ...broadcast, zones: [lower!] })).toMatchObject({
      reason: 'The zone Top of Broadcast cannot be deleted: Scoreboard bar is on air in it. Clear it first.',
    });
    expect(await put({ ...broadcast, zones: [top!] })).toMatchObject({
      reason: expect.stringMatching(
        /^The zone Lower third of Broadcast cannot be deleted: .* would go nowhere\.$/,
      ),
    });
    const remove = (key: string) => act({ kind: 'remove-document', what: 'output', key, ...at });
    expect(await remove('broadcast')).toMatchObject({ reason: expect.stringContaining('is on air in it') });
    const item = { item: 'low', name: 'Low', template: 'lower-third', output: 'ribbon', zone: 'all' };
    expect(await act({ kind: 'put-item', ...item })).toMatchObject({ ok: true });
    for (const back of [undo, () => remove('ribbon')])
      expect(await back()).toMatchObject({ reason: expect.stringContaining('Low would go nowhere') });
    expect(await act({ kind: 'remove-item', item: 'low' })).toMatchObject({ ok: true });

    // Without it all goes, and comes back by one undo.
    expect(await remove('ribbon')).toMatchObject({ text: 'Deleted the output Ribbon' });
    expect(lanes()).toEqual(['broadcast/top', 'broadcast/lower']);
    expect(engine.hub.has('air:ribbon')).toBe(false);
    expect(desk.ops<DeskOp>()).toContainEqual({ op: 'document-gone', kind: 'lane', key: 'ribbon/all' });
    expect(await undo()).toMatchObject({ ok: true });
    expect(lanes()).toContain('ribbon/all');
    expect(engine.hub.has('air:ribbon')).toBe(true);
  });

  it('one that is deleted takes its test card along, and comes back without it', async () => {
    const { act, desk } = await setUp();
    const cards = () => desk.ops<DeskOp>().findLast((o) => o.op === 'cards');
    const body = { ...broadcast, key: 'ribbon', name: 'Ribbon' };
    await act({ kind: 'put-document', what: 'output', body, revision: 0, ...at });
    await act({ kind: 'test-card', output: 'ribbon', on: true });
    expect(cards()).toMatchObject({ cards: ['ribbon'] });
    await act({ kind: 'remove-document', what: 'output', key: 'ribbon', ...at });
    expect(cards()).toMatchObject({ cards: [] });
    expect(await act({ kind: 'undo', ...at })).toMatchObject({ ok: true });
    expect(await act({ kind: 'test-card', output: 'ribbon', on: false })).toMatchObject({
      reason: 'There is no test card on Ribbon.',
    });
  });

  it('stand as they were made, and as they were moved, at every desk and after a restart; their lanes with them', async () => {
    const { act, page } = await setUp();
    const put = (key: string, name: string, zones = broadcast.zones) =>
      act({
        kind: 'put-document',
        what: 'output',
        body: { ...broadcast, key, name, place: 0, zones },
        ...at,
      });
    const move = (key: string, before: string | null) => act({ kind: 'move-output', key, before, ...at });
    const order = (of = page('desk')) => {
      const { documents, lanes } = of.messages[0]!.body as DeskSnapshot;
      expect([...new Set(lanes.map((l) => l.output))]).toEqual(documents.output.map((o) => o.key));
      return documents.output.map((o) => o.key).join(' ');
    };
    for (const [key, name] of [
      ['zulu', 'Zulu'],
      ['alpha', 'Alpha'],
      ['mike', 'Mike'],
    ] as const)
      expect(await put(key, name)).toMatchObject({ ok: true });
    expect(order()).toBe('broadcast zulu alpha mike');
    expect(await move('mike', 'broadcast')).toMatchObject({ text: 'Moved the output Mike before Broadcast' });
    expect(await move('zulu', null)).toMatchObject({ text: 'Moved the output Zulu behind all others' });
    expect(order()).toBe('mike broadcast alpha zulu');
    // Whoever works at one keeps what is done there; a place that is gone is said.
    expect(await put('alpha', 'Alpha one')).toMatchObject({ ok: true });
    expect(await move('alpha', 'nowhere')).toMatchObject({
      reason: 'There is no output "nowhere"; it may have been deleted.',
    });
    const [top, lower] = broadcast.zones;
    expect(await put('mike', 'Mike', [top!, { ...lower!, name: 'TOP ' }])).toMatchObject({
      reason: 'Two zones are called TOP ; give one of them another name.',
    });
    expect(await move('broadcast', 'broadcast')).toMatchObject({ ok: true });
    // A database gives them by their keys.
    const { output } = (page('desk').messages[0]!.body as DeskSnapshot).documents;
    const again = await setUp({ output: [...output].sort((a, b) => (a.key < b.key ? -1 : 1)) });
    expect(order(again.page('desk'))).toBe('mike broadcast alpha zulu');
  });

  it('there is always one', async () => {
    const { act } = await setUp();
    for (const [kind, more] of [
      ['clear', { output: 'broadcast', zone: 'top' }],
      ...(['goalkeeper', 'captain', 'bar'] as const).map((item) => ['remove-item', { item }] as const),
    ] as const)
      await act({ kind, ...more });
    const answer = await act({ kind: 'remove-document', what: 'output', key: 'broadcast' });
    expect(answer).toMatchObject({ status: 409, reason: expect.stringMatching(/only output|nowhere/) });
  });

  it('fifty, with four pages each: a change is in all in one commit, each page gets its own alone, and who joins costs nothing', async () => {
    const [OUTPUTS, PAGES] = [50, 4];
    const keys = Array.from({ length: OUTPUTS }, (_, i) => `board-${i}`);
    const output = keys.map((key) => ({ ...broadcast, key, name: key }));
    const { act, page, frame, engine } = await setUp({ output });
    const item = (key: string) => ({
      item: key,
      name: key,
      template: 'scoreboard-bar',
      output: key,
      zone: 'top',
    });
    for (const key of keys) {
      expect(await act({ kind: 'put-item', ...item(key) })).toMatchObject({ ok: true });
      expect(await act({ kind: 'take', item: key })).toMatchObject({ ok: true });
    }
    const pages = keys.flatMap((key) =>
      Array.from({ length: PAGES }, () => ({ key, page: page(`air:${key}`) })),
    );
    for (const { key, page: p } of pages)
      expect((p.messages[0]!.body as AirSnapshot).items.map((i) => i.mount)).toEqual([`${key}/top`]);

    frame((s) => void (s.home.score = 7));
    await expect.poll(() => pages.every(({ page: p }) => p.ops().length > 0)).toBe(true);
    const scores = pages.map(({ key, page: p }) => {
      const deltas = p.ops<AirOp>().flatMap((o) => (o.op === 'layers' ? o.deltas : []));
      expect(deltas.every((d) => d.mount === `${key}/top`)).toBe(true);
      return deltas.filter((d) => d.layer === 'home-score').map((d) => d.props['text']);
    });
    expect(scores).toEqual(pages.map(() => [7]));

    // Two hundred that join in one moment ask for one text an output, and nothing is worked out for them.
    const moment = vi.spyOn(performance, 'now').mockReturnValue(performance.now());
    const made = vi.spyOn(JSON, 'stringify');
    for (const key of keys) for (let n = 0; n < PAGES; n++) page(`air:${key}`);
    const snapshots = made.mock.calls.filter(([m]) => (m as { t?: string } | null)?.t === 'snapshot');
    made.mockRestore();
    moment.mockRestore();
    expect(snapshots).toHaveLength(OUTPUTS);
    expect(engine.hub.openPages(machineTime.now())).toHaveLength(2 * OUTPUTS * PAGES + 1);
  });
});

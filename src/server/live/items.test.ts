import { describe, expect, it, vi } from 'vitest';
import { newItem, type Item } from '../../core/show/item.ts';
import type { Output } from '../../core/show/show.ts';
import type { AirOp, AirSnapshot, DeskSnapshot } from '../../core/wire/wire.ts';
import { folder, setUp } from '../../../tests/support/engine.ts';

const broadcast = folder('basic/output')[0] as Output;
const at = { desk: 'desk-of-ode', who: 'ode', view: 'rundown' };
const top = { output: 'broadcast', zone: 'top' };
const strip = { output: 'strip', zone: 'top' };
/** A second output with the same zones; it has a lead. */
const extra = { output: [{ ...broadcast, key: 'strip', name: 'Strip', lead: 250 }] };

async function running() {
  const all = await setUp(extra);
  const { act, page } = all;
  return {
    ...all,
    does: (asked: object) => act({ ...asked, ...at }),
    items: () =>
      (page('desk').messages[0]!.body as DeskSnapshot).documents.item
        .slice()
        .sort((a, b) => (a.key < b.key ? -1 : 1)),
    item: (key: string) =>
      (page('desk').messages[0]!.body as DeskSnapshot).documents.item.find((i) => i.key === key),
    groups: () =>
      (page('desk').messages[0]!.body as DeskSnapshot).documents.rundown[0]!.groups.map(
        (g) => `${g.key}: ${g.items.join(' ')}`,
      ),
    lanes: () =>
      Object.fromEntries(
        (page('desk').messages[0]!.body as DeskSnapshot).lanes.map((l) => [
          `${l.output}/${l.zone}`,
          l.onAir?.item ?? null,
        ]),
      ),
  };
}
const score = { kind: 'put-item', item: 'score', name: 'Scöre', template: 'scoreboard-bar' };

describe('items', () => {
  it('one goes to zones of several outputs at one moment, and leaves them at one', async () => {
    const { does, item, lanes, page, air } = await running();
    const board = page('air:strip');
    expect(await does({ ...score, zones: [top, strip] })).toMatchObject({ text: 'Made the item Scöre' });
    const before = lanes();
    expect(await does({ kind: 'take', item: 'score' })).toMatchObject({ text: 'Took Scöre' });
    expect(lanes()).toEqual({ ...before, 'broadcast/top': 'score', 'strip/top': 'score' });
    const told = [air, board].map(
      (p) =>
        p.messages.findLast((m) => (m.ops as AirOp[])?.some((o) => o.op === 'take')) as unknown as {
          at: number;
        },
    );
    // The longest lead counts for both.
    expect(told[0]!.at).toBe(told[1]!.at);
    expect(item('score')!.aired).not.toBeNull();

    // It is cleared from one zone, or from all in which it stands.
    expect(await does({ kind: 'clear', ...top })).toMatchObject({ text: 'Cleared Scöre' });
    expect(lanes()).toEqual({ ...before, 'broadcast/top': null, 'strip/top': 'score' });
    expect(await does({ kind: 'take', item: 'score', ...top })).toMatchObject({ ok: true });
    expect(await does({ kind: 'clear', item: 'score' })).toMatchObject({ text: 'Cleared Scöre' });
    expect(lanes()).toEqual({ ...before, 'broadcast/top': null, 'strip/top': null });
    for (const [asked, why] of [
      [{ kind: 'clear', item: 'score' }, 'Scöre is not on air, so there is nothing to clear.'],
      [{ kind: 'clear' }, 'Say which zone or which item to clear.'],
      [{ kind: 'take', item: 'score', output: 'strip', zone: 'lower' }, 'Scöre does not go to that zone.'],
    ] as const)
      expect(await does(asked)).toMatchObject({ ok: false, reason: why });
  });

  it('an input that begins anew does so when the item has left the last of its zones', async () => {
    const { does, item } = await running();
    const [lower] = folder('demo/template').filter((t) => (t as { key: string }).key === 'lower-third');
    const body = structuredClone(lower) as { inputs: { key: string; resets?: boolean }[] };
    Object.assign(
      body.inputs.find((i) => i.key === 'line')!,
      { resets: true, default: 'fresh' },
    );
    await does({ kind: 'put-document', what: 'template', body });
    await does({
      ...score,
      template: 'lower-third',
      zones: [top, strip],
      inputs: { name: 'A', line: 'typed' },
    });
    await does({ kind: 'take', item: 'score' });
    await does({ kind: 'clear', ...top });
    expect(item('score')!.inputs['line']).toBe('typed');
    await does({ kind: 'clear', ...strip });
    expect(item('score')!.inputs['line']).toBe('fresh');
  });

  it('what is said of one is changed part by part and taken back; what cannot stand beside the others is refused', async () => {
    const { does, item, groups } = await running();
    await does({ ...score, zones: [top], group: 'breaks' });
    expect(groups()[2]).toBe('breaks: goalkeeper captain score');
    const first = item('score')!;
    expect(
      await does({
        id: 'the-length',
        kind: 'put-item',
        item: 'score',
        length: 8,
        follows: 'bar',
        hotkey: 'F8',
      }),
    ).toMatchObject({
      text: 'Changed the item Scöre',
    });
    expect(item('score')).toEqual({ ...first, length: 8, follows: 'bar', hotkey: 'F8' });
    await does({ kind: 'take', item: 'score' });
    // What was taken since does not stand in the way of what was said of it before.
    expect(await does({ kind: 'undo', of: 'the-length' })).toMatchObject({ ok: true });
    expect(await does({ kind: 'undo', of: 'the-length' })).toMatchObject({
      reason: 'That was taken back already.',
    });
    expect(item('score')).toMatchObject({ length: null, follows: null, hotkey: '' });
    await does({ kind: 'put-item', item: 'score', hotkey: 'F8' });
    for (const [asked, why] of [
      [{ item: 'score', number: 10 }, 'Scoreboard bar has the number 10 already.'],
      [{ item: 'welcome', hotkey: 'F8' }, 'Scöre has the key F8 already.'],
      [{ item: 'welcome', zones: [{ output: 'gone', zone: 'z' }] }, 'no zone "z" on the output "gone"'],
      [{ item: 'welcome', template: 'gone' }, 'There is no template "gone".'],
      [{ item: 'welcome', follows: 'gone' }, 'no item "gone" to follow'],
      [{ item: 'welcome', inputs: { nick: 'B' } }, 'Welcome: This template has no input "nick".'],
      [{ item: 'score', zones: [strip] }, 'Scöre is on air: clear it before it goes elsewhere.'],
      [{ item: 'new', template: 'lower-third' }, 'A new item needs a name.'],
      [{ item: '__proto__', name: 'N', template: 'lower-third' }, 'The key of an item is letters'],
      [{ item: 'score', length: -1 }, 'length'],
    ] as const)
      expect(await does({ kind: 'put-item', ...asked })).toMatchObject({
        ok: false,
        reason: expect.stringContaining(why),
      });
    // It stays where it is and goes to one more.
    expect(await does({ kind: 'put-item', item: 'score', zones: [strip, top] })).toMatchObject({ ok: true });
  });

  it('what was taken or cleared is taken back with the inputs of then, where nobody took or cleared anything since', async () => {
    const { act, does, lanes, page } = await running();
    const undos = () =>
      (page('desk').messages[0]!.body as DeskSnapshot).undos.find((u) => u.view === at.view)!.past;
    const lower = () => page('air:broadcast').messages[0]!.body as AirSnapshot;
    const line = () => lower().items.find((i) => i.zone === 'lower')?.states['line'];
    await does({ kind: 'edit', item: 'welcome', inputs: { line: 'as it was taken' } });
    await does({ kind: 'take', item: 'welcome' });
    await does({ kind: 'edit', item: 'welcome', inputs: { line: 'since then' } });
    await does({ kind: 'take', item: 'captain' });
    expect(undos()[0]).toMatchObject({
      text: 'Took Away captain',
      air: [{ output: 'broadcast', zone: 'lower', now: { item: 'captain' }, again: 'welcome' }],
    });
    expect(undos()[1]!.air).toBeUndefined();
    expect(await does({ kind: 'undo' })).toMatchObject({ text: 'Undid: Took Away captain' });
    expect(lanes()).toMatchObject({ 'broadcast/lower': 'welcome' });
    expect(line()).toMatchObject({ text: 'as it was taken' });
    expect(await does({ kind: 'redo' })).toMatchObject({ text: 'Redid: Took Away captain' });
    expect(lanes()).toMatchObject({ 'broadcast/lower': 'captain' });

    await does({ kind: 'clear', output: 'broadcast', zone: 'lower' });
    expect(await does({ kind: 'undo' })).toMatchObject({ ok: true });
    expect(lanes()).toMatchObject({ 'broadcast/lower': 'captain' });
    // What another person took stays, in the lane where it was taken.
    await does({ ...score, zones: [top, strip] });
    await does({ kind: 'take', item: 'score' });
    await act({ kind: 'take', item: 'bar', output: 'broadcast', zone: 'top' });
    expect(await does({ kind: 'undo' })).toMatchObject({ ok: true });
    expect(lanes()).toMatchObject({ 'broadcast/top': 'bar', 'strip/top': null });
    await does({ kind: 'clear', ...top });
    await act({ kind: 'take', item: 'bar', output: 'broadcast', zone: 'top' });
    expect(await does({ kind: 'undo' })).toMatchObject({
      ok: false,
      reason: 'It cannot be taken back: what is on air was changed again since.',
    });
  });

  it('of two takes in one lane within a moment, at two desks, the first stands and the other is told', async () => {
    const { act, lanes } = await running();
    const take = (item: string, desk: string) => act({ kind: 'take', item, desk: `desk-of-${desk}` });
    // All within the moment, however slow the machine.
    const moment = vi.spyOn(performance, 'now').mockReturnValue(performance.now());
    expect(await take('welcome', 'ode')).toMatchObject({ ok: true });
    expect(await take('captain', 'ada')).toMatchObject({
      ok: false,
      reason: 'Welcome was taken there a moment ago at another desk. Take again if Away captain is to be on.',
    });
    expect(lanes()).toMatchObject({ 'broadcast/lower': 'welcome' });
    // One's own, and the same again, are no such thing; and a moment later it is meant.
    expect(await take('captain', 'ode')).toMatchObject({ ok: true });
    expect(await take('captain', 'ada')).toMatchObject({ ok: true });
    moment.mockRestore();
    await expect.poll(() => take('welcome', 'ode')).toMatchObject({ ok: true });
  });

  it('a look puts all of its zones on air at one moment, leaves alone what stands, and is taken back as one', async () => {
    const { does, lanes, air, page } = await running();
    await does({ ...score, zones: [strip] });
    const place = (output: string, zone: string, item: string | null) => ({ output, zone, item });
    const body = {
      ...{ schema: 1, key: 'half', name: 'Half-time', hotkey: 'F10' },
      places: [
        place('broadcast', 'top', 'bar'),
        place('broadcast', 'lower', 'welcome'),
        place('strip', 'top', 'score'),
        place('strip', 'lower', 'gone'),
        place('gone', 'top', 'bar'),
      ],
    };
    const save = (more = {}) =>
      does({ kind: 'put-document', what: 'look', body: { ...body, ...more }, revision: 0 });
    expect(await save({ places: [body.places[0], body.places[0]] })).toMatchObject({
      reason: expect.stringContaining('stands there twice'),
    });
    expect(await save()).toMatchObject({ ok: true });
    const before = lanes();
    const board = page('air:strip');
    expect(await does({ kind: 'recall-look', look: 'half' })).toMatchObject({ text: 'Recalled Half-time' });
    expect(lanes()).toEqual({ ...before, 'broadcast/lower': 'welcome', 'strip/top': 'score' });
    const taken = [air, board].map((p) =>
      p.messages.filter((m) => (m.ops as AirOp[])?.some((o) => o.op === 'take')),
    ) as unknown as { at: number; ops: AirOp[] }[][];
    expect(taken.map((m) => m.length)).toEqual([1, 1]);
    expect(taken[0]![0]!.at).toBe(taken[1]![0]!.at);
    expect(await does({ kind: 'recall-look', look: 'half' })).toMatchObject({
      reason: 'Everything stands as Half-time has it already.',
    });
    expect(await does({ kind: 'undo' })).toMatchObject({ text: 'Undid: Recalled Half-time' });
    expect(lanes()).toEqual(before);
    const strange = { ...body, key: 'strange', hotkey: '', places: body.places.slice(3) };
    await does({ kind: 'put-document', what: 'look', body: strange, revision: 0 });
    expect(await does({ kind: 'recall-look', look: 'strange' })).toMatchObject({
      reason: 'Nothing of Half-time is there any more.',
    });
    // All of it or nothing.
    await does({ kind: 'edit', item: 'welcome', inputs: { name: '' } });
    expect(await does({ kind: 'recall-look', look: 'half' })).toMatchObject({
      reason: 'Welcome needs Name before it can go on air.',
    });
    expect(lanes()).toEqual(before);
    expect(await does({ kind: 'put-item', item: 'welcome', hotkey: 'F10' })).toMatchObject({
      reason: 'The look Half-time has the key F10 already.',
    });
    expect(await save({ key: 'other' })).toMatchObject({ reason: 'Half-time has the key F10 already.' });
    await does({ kind: 'put-item', item: 'welcome', hotkey: 'F9' });
    expect(await save({ key: 'other', hotkey: 'F9' })).toMatchObject({
      reason: 'Welcome has the key F9 already.',
    });
  });

  it('several are made, placed, deleted and brought back as one', async () => {
    const { does, items, groups } = await running();
    const before = { items: items(), groups: groups() };
    const card = (n: number): Item =>
      newItem({
        key: `c-${n}`,
        number: 100 + n,
        name: `Card ${n}`,
        template: 'player-card',
        follows: `c-${1 - n}`,
      });
    const twice = [
      { key: 'game', name: 'Game', items: ['bar', 'c-0'] },
      { key: 'breaks', name: 'Breaks', items: ['c-1', 'captain'] },
    ];
    // What somebody else filled in meanwhile stays, where only another part is changed.
    const welcome = items().find((i) => i.key === 'welcome')!;
    await does({ kind: 'edit', item: 'welcome', inputs: { line: 'by another' } });
    const moved = { ...welcome, zones: [strip], aired: 5 };
    expect(await does({ kind: 'put-items', items: [moved], only: ['zones'] })).toMatchObject({
      text: 'Changed the item Welcome',
    });
    expect(items().find((i) => i.key === 'welcome')).toEqual({
      ...welcome,
      zones: [strip],
      inputs: { ...welcome.inputs, line: 'by another' },
    });
    for (const _ of [1, 2]) await does({ kind: 'undo' });
    expect(await does({ kind: 'put-items', items: [card(0), card(1)], groups: twice })).toMatchObject({
      text: 'Added 2 items',
    });
    expect(groups()).toEqual(['game: bar c-0', 'breaks: c-1 captain']);
    expect(await does({ kind: 'remove-item', items: ['c-1', 'welcome', 'blank'] })).toMatchObject({
      text: 'Deleted 3 items',
    });
    expect(groups()).toEqual(['game: bar c-0', 'breaks: captain']);
    expect(items().find((i) => i.key === 'c-0')).toMatchObject({ follows: null });
    for (const _ of [1, 2]) expect(await does({ kind: 'undo' })).toMatchObject({ ok: true });
    expect({ items: items(), groups: groups() }).toEqual(before);

    for (const [asked, why] of [
      [{ items: [card(0), card(0)] }, 'Two of these items have the same key.'],
      [{ items: [card(0), { ...card(1), number: 100 }] }, 'has the number 100 already'],
      [{ items: [{ ...card(0), length: 1e9 }] }, 'length'],
      [
        { items: [{ ...card(0), follows: null }], groups: [{ key: 'g', name: 'G', items: ['a', 'a'] }] },
        'stands there twice',
      ],
    ] as const)
      expect(await does({ kind: 'put-items', ...asked })).toMatchObject({
        ok: false,
        reason: expect.stringContaining(why),
      });
    expect(await does({ kind: 'remove-item', items: ['welcome', 'bar'] })).toMatchObject({
      reason: 'Scoreboard bar is on air: clear it first.',
    });
    expect(items()).toEqual(before.items);
    expect(await does({ kind: 'remove-document', what: 'template', key: 'lower-third' })).toMatchObject({
      reason: expect.stringMatching(/the item .* needs this template/),
    });
  });
});

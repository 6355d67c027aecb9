import { expect, it } from 'vitest';
import type { AirOp, AirSnapshot, DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { newItem } from '../../core/show/item.ts';
import { FakeTime } from '../../../tests/support/fake-time.ts';
import { setUp, folder } from '../../../tests/support/engine.ts';

const goal = newItem({
  key: 'welcome-home',
  number: 90,
  name: 'Göal',
  template: 'lower-third',
  zones: [{ output: 'broadcast', zone: 'lower' }],
  inputs: { name: 'Goal' },
});
const trigger = (more: object = {}) => ({
  schema: 1,
  key: 'goal',
  name: 'Home goal',
  on: true,
  when: { field: 'home.score' },
  edge: 'rise',
  item: 'welcome-home',
  ...more,
});

async function running() {
  const time = new FakeTime();
  const all = await setUp({ item: [goal] }, undefined, time);
  const { act, desk, page, frame } = all;
  const known = () => page('desk').messages[0]!.body as DeskSnapshot;
  const put = async (what: string, body: { key: string }) => {
    const answer = await act({
      kind: 'put-document',
      what,
      body,
      revision: known().revisions[`${what}/${body.key}`] ?? 0,
    });
    expect(answer).toMatchObject({ ok: true });
  };
  const shows = (score: number) => expect.poll(() => all.engine.board.read('home.score')).toBe(score);
  return {
    ...all,
    time,
    known,
    put,
    on: () => known().lanes.find((l) => l.zone === 'lower')!.onAir?.item ?? null,
    lines: () => desk.ops<DeskOp>().flatMap((o) => (o.op === 'log' ? [`${o.line.who}: ${o.line.text}`] : [])),
    score: async (home: number) => {
      frame((s) => (s.home.score = home));
      await shows(home);
    },
  };
}

it('a trigger takes its item when its value rises, and says so under the name of Foothill; a correction by hand does nothing', async () => {
  const { put, score, on, lines, act, known } = await running();
  await score(0);
  await put('trigger', trigger());
  await score(1);
  await expect.poll(on).toBe('welcome-home');
  expect(lines()).toContain('Foothill: Home goal: took Göal');
  await act({ kind: 'clear', output: 'broadcast', zone: 'lower' });
  // Down, by hand, and when it is let go again: no goal.
  await score(0);
  expect(await act({ kind: 'pin', field: 'home.score', text: '5' })).toMatchObject({ ok: true });
  await act({ kind: 'release', field: 'home.score' });
  for (const _ of [1, 2]) await act({ kind: 'swap-sides', scorer: 'not' });
  expect(on()).toBeNull();
  // Once is once, and it stands there as switched off.
  await put('trigger', { ...trigger({ once: true }), key: 'goal' });
  await score(3);
  await expect.poll(on).toBe('welcome-home');
  expect(known().documents.trigger.find((t) => t.key === 'goal')).toMatchObject({ on: false });
  await act({ kind: 'clear', output: 'broadcast', zone: 'lower' });
  await score(4);
  expect(on()).toBeNull();
});

it('a trigger waits, and takes only while its condition holds then', async () => {
  const { put, score, on, act, time } = await running();
  await score(0);
  await put('trigger', trigger({ wait: 0.05, only: { formula: 'home.score > 1' } }));
  await score(1);
  await time.pass(150);
  expect(on()).toBeNull();
  await score(2);
  await time.pass(49);
  expect(on()).toBeNull();
  await time.pass(1);
  expect(on()).toBe('welcome-home');
  await act({ kind: 'clear', output: 'broadcast', zone: 'lower' });
  // Switched off while it waits, it does not come.
  await put('trigger', trigger({ wait: 1.5, only: null }));
  await score(3);
  await put('trigger', trigger({ wait: 1.5, on: false }));
  await time.pass(1600);
  expect(on()).toBeNull();
});

it('while it is quiet boards in the venue are told to move nothing, others are not, and the log says what was shortened', async () => {
  const { put, frame, act, page, lines, known, desk, engine } = await running();
  const [broadcast] = folder('basic/output') as [{ key: string }];
  const strip = { ...broadcast, key: 'strip', name: 'Strip', venue: true };
  await put('output', strip);
  const [board, air] = [page('air:strip'), page('air:broadcast')];
  const quiets = (p: typeof board) => p.ops<AirOp>().flatMap((o) => (o.op === 'quiet' ? [o.quiet] : []));
  frame((s) => (s.running = true));
  await expect.poll(() => engine.board.read('clock.game.running')).toBe(true);
  await put('quiet', { schema: 1, key: 'quiet', on: false, rule: { field: 'clock.game.running' } } as never);
  expect([quiets(board), quiets(air), known().quiet]).toEqual([[true], [], 'rule']);
  expect((page('air:strip').messages[0]!.body as AirSnapshot).quiet).toBe(true);
  await act({
    kind: 'put-item',
    item: 'welcome-home',
    zones: [
      { output: 'broadcast', zone: 'lower' },
      { output: 'strip', zone: 'lower' },
    ],
  });
  expect(await act({ kind: 'take', item: 'welcome-home' })).toMatchObject({
    text: 'Took Göal, without motion on Strip (quiet)',
  });
  frame((s) => (s.running = false));
  await expect.poll(() => known().quiet).toBeNull();
  expect(quiets(board)).toEqual([true, false]);
  await put('quiet', { schema: 1, key: 'quiet', on: true, rule: null } as never);
  expect(known().quiet).toBe('switch');
  expect(desk.ops<DeskOp>().flatMap((o) => (o.op === 'quiet' ? [o.quiet] : []))).toEqual([
    'rule',
    null,
    'switch',
  ]);
  expect(lines().at(-1)).toContain('quiet');
});

it('edits that were held back reach a page as one: a pin, an item and what is on air; one undo takes them back', async () => {
  const { act, air, known, on, time } = await running();
  const by = { desk: 'desk-of-ode', view: 'live' };
  await act({ kind: 'take', item: 'welcome-home' });
  await time.pass(1000);
  const before = air.messages.length;
  const edits = {
    kind: 'send-edits',
    fields: [{ field: 'home.score', text: '7' }],
    items: [{ item: 'welcome-home', inputs: { name: 'Nöw' } }],
  };
  expect(await act({ ...edits, ...by })).toMatchObject({ text: 'Sent 2 edits together' });
  const told = air.messages.slice(before).filter((m) => m.t === 'delta');
  expect(told.map((m) => (m.ops as AirOp[]).map((o) => o.op))).toEqual([['layers', 'take']]);
  const lane = () => known().lanes.find((l) => l.zone === 'lower')!;
  expect(lane().onAir!.inputs['name']).toBe('Nöw');
  const state = known().undos.find((u) => u.desk === by.desk);
  expect(state!.past[0]).toMatchObject({ air: [{ zone: 'lower', again: 'welcome-home' }] });
  expect(await act({ kind: 'undo', ...by })).toMatchObject({ ok: true });
  expect(lane().onAir!.inputs['name']).toBe('Goal');
  expect(known().fields.find((f) => f.key === 'home.score')!.pin).toBeUndefined();
  expect(on()).toBe('welcome-home');
  for (const [asked, why] of [
    [{ ...edits, fields: [], items: [] }, 'No edits are held.'],
    [{ ...edits, fields: [{ field: 'home.score', text: 'many' }] }, 'number'],
    [{ ...edits, items: [{ item: 'welcome-home', inputs: { nick: 'x' } }] }, 'no input "nick"'],
  ] as const)
    expect(await act(asked)).toMatchObject({ ok: false, reason: expect.stringContaining(why) as string });
  // Refused is refused whole.
  expect(known().fields.find((f) => f.key === 'home.score')!.pin).toBeUndefined();
});

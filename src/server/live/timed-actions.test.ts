import { afterEach, beforeEach, expect, it } from 'vitest';
import { newItem } from '../../core/show/item.ts';
import { emptyLane, type Show } from '../../core/show/show.ts';
import type { DeskOp, DeskSnapshot } from '../../core/wire/wire.ts';
import { setUp } from '../../../tests/support/engine.ts';
import { FakeTime } from '../../../tests/support/fake-time.ts';
import { TimedActions, type OwnAction } from './timed-actions.ts';

let now: number;
let time: FakeTime;
let show: Show;
let asked: string[];
let answer: boolean;
let self: TimedActions;
const item = (key: string, length: number | null) =>
  newItem({ key, number: 1, name: key, template: 't', length });
const put = (zone: string, key: string | null, takenAt = now) => {
  const onAir = key === null ? null : { item: key, layout: 'l', inputs: {}, takenAt };
  show.lanes.set(`o/${zone}`, { ...emptyLane({ output: 'o', zone }), onAir });
  self.look();
};
/** Time goes on, for the timers and for the show. */
const pass = async (ms: number, shows = true) => {
  if (shows) now += ms;
  await time.pass(ms);
};

beforeEach(() => {
  time = new FakeTime();
  now = 1_000_000;
  asked = [];
  answer = true;
  const items = new Map([item('ten', 10), item('five', 5), item('stays', null)].map((i) => [i.key, i]));
  show = { items, lanes: new Map(), cards: new Set(), quiet: null };
  const act = ({ item: key, takenAt }: OwnAction) => {
    asked.push(`${key} ${takenAt - 1_000_000}`);
    if (answer) for (const lane of show.lanes.values()) if (lane.onAir?.item === key) lane.onAir = null;
    return Promise.resolve(answer);
  };
  self = new TimedActions({ show, scheduler: time, now: () => now, act });
});
afterEach(() => {
  self.stop();
  expect(time.waiting).toBe(0);
});

it('items go off one after another when their lengths are over, once however many zones they are in', async () => {
  put('a', 'ten');
  put('b', 'ten');
  put('c', 'five');
  put('d', 'stays');
  await pass(4999);
  expect(asked).toEqual([]);
  await pass(1);
  expect(asked).toEqual(['five 0']);
  await pass(5000);
  expect(asked).toEqual(['five 0', 'ten 0']);
  await pass(1e7);
  expect(asked).toHaveLength(2);
});

it('what is taken anew begins anew; what was over while nobody looked goes off at once; what cannot be done is tried again', async () => {
  put('a', 'five');
  await pass(4000);
  put('a', 'five');
  await pass(4000);
  expect(asked).toEqual([]);
  answer = false;
  await pass(1000);
  expect(asked).toEqual(['five 4000']);
  await pass(999);
  expect(asked).toHaveLength(1);
  answer = true;
  await pass(2);
  expect(asked).toHaveLength(2);
  put('b', 'ten', now - 60_000);
  await pass(1);
  expect(asked.at(-1)).toMatch(/^ten/);
});

it('the time of the show may stand still', async () => {
  put('a', 'five');
  await pass(5000, false);
  expect(asked).toEqual([]);
  await pass(5000);
  expect(asked).toEqual(['five 0']);
});

it('the next follows at the same moment, in its own zones; one that cannot is said, and the first goes off all the same', async () => {
  const time = new FakeTime();
  const { act, page, desk } = await setUp({}, undefined, time);
  const onAir = () =>
    (page('desk').messages[0]!.body as DeskSnapshot).lanes.find((l) => l.zone === 'lower')!.onAir?.item;
  const said = () =>
    desk
      .ops<DeskOp>()
      .flatMap((o) => (o.op === 'log' ? [o.line] : []))
      .at(-1)!;
  await act({ kind: 'put-item', item: 'welcome', length: 0.5, follows: 'captain' });
  await act({ kind: 'take', item: 'welcome' });
  await time.pass(499);
  expect(onAir()).toBe('welcome');
  await time.pass(1);
  expect(onAir()).toBe('captain');
  expect(said()).toMatchObject({
    text: 'Welcome went off after 0.5 s, Away captain followed',
    who: 'Foothill',
  });
  await act({ kind: 'put-item', item: 'welcome', follows: 'blank' });
  await act({ kind: 'take', item: 'welcome' });
  await time.pass(500);
  expect(onAir()).toBeUndefined();
  expect(said().text).toContain('Blank name could not follow: Blank name needs Name');
  expect(await act({ kind: 'end-item', item: 'welcome', takenAt: 1 })).toMatchObject({
    ok: false,
    reason: 'Welcome was taken anew or cleared since.',
  });
});

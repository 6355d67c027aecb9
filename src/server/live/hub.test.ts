import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { WebSocket } from 'ws';
import { FakePage } from '../../../tests/support/engine.ts';
import { airStream, DESK, Hub } from './hub.ts';
import { LOOKS_ON } from './open-pages.ts';

const AIR = airStream('board');

let hub: Hub;
/** All that was published, as the snapshots have it. */
let all: unknown[] = [];
beforeEach(() => {
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  hub = new Hub();
  all = [];
  for (const name of [DESK, AIR]) hub.open(name, () => [...all]);
});
afterEach(() => {
  hub.close();
  vi.useRealTimers();
});

const join = (stream: string, as = 'page') => {
  const page = new FakePage();
  hub.join(stream, page as unknown as WebSocket, { from: 'here', as });
  return page;
};
const publish = (name: string, ...ops: unknown[]) => {
  all.push(...ops);
  hub.publish(name, ops);
};
const got = (page: FakePage) => page.messages.map((m) => [m.t, m.seq, m.body ?? m.ops]);

describe('the hub', () => {
  it('tells pages of outputs at once, and those that look on a moment later, in the same order', () => {
    const [page, looking] = [join(AIR), join(AIR, LOOKS_ON)];
    publish(AIR, 'goal');
    publish(AIR, 'horn');
    const deltas = [
      ['snapshot', 0, []],
      ['delta', 1, ['goal']],
      ['delta', 2, ['horn']],
    ];
    expect([got(page), got(looking)]).toEqual([deltas, deltas.slice(0, 1)]);
    vi.runAllTimers();
    expect([got(page), got(looking)]).toEqual([deltas, deltas]);
  });

  it.each([
    ['nothing', () => {}, true],
    ['what is no message', (page: FakePage) => page.say([1]), true],
    ['a message that no page sends', (page: FakePage) => page.say({ t: 'constructor' }), true],
    ['when it asks the time', (page: FakePage) => page.say({ t: 'ping', at: 1 }), false],
  ])('lets whoever is no page go, by what it says: %s', (_, say, gone) => {
    const page = join(DESK);
    const ended = vi.spyOn(page, 'terminate');
    say(page);
    vi.advanceTimersByTime(60_000);
    expect(ended).toHaveBeenCalledTimes(Number(gone));
  });

  it('tells desks all of a moment as one, by the number that whoever asked has been given', () => {
    const desk = join(DESK);
    publish(DESK, 'lane');
    expect(hub.numberOf(DESK)).toBe(1);
    publish(DESK, 'undo', 'log');
    expect(hub.numberOf(DESK)).toBe(1);
    expect(got(desk)).toHaveLength(1);
    vi.runAllTimers();
    publish(DESK, 'next');
    vi.runAllTimers();
    expect(got(desk).slice(1)).toEqual([
      ['delta', 1, ['lane', 'undo', 'log']],
      ['delta', 2, ['next']],
    ]);
  });

  it.each([
    ['joins', () => join(DESK), 1],
    ['asks for all anew', (desk: FakePage) => desk.say({ t: 'snapshot' }), 1],
    ['is told all anew', () => hub.refresh(DESK), 2],
    ['is told another time', () => hub.setTime(null), 1],
  ])('nobody is told twice, or misses, what waits while somebody %s', (_, does, number) => {
    const desk = join(DESK);
    publish(DESK, 'lane');
    does(desk);
    publish(DESK, 'log');
    vi.runAllTimers();
    const numbers = desk.messages.filter((m) => m.t !== 'time').map((m) => m.seq);
    expect(numbers).toEqual([...numbers].sort((a, b) => a - b));
    expect(desk.messages.at(-1)).toMatchObject({ t: 'delta', seq: number + 1, ops: ['log'] });
    // What it holds in the end is all there is, each once.
    const held = desk.messages.reduce<unknown[]>(
      (has, m) => (m.t === 'snapshot' ? (m.body as unknown[]) : [...has, ...(m.ops ?? [])]),
      [],
    );
    expect(held).toEqual(['lane', 'log']);
    const joined = join(DESK);
    expect(got(joined)).toEqual([['snapshot', number + 1, ['lane', 'log']]]);
  });
});

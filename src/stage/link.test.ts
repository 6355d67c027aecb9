import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { FakeSocket } from '../../tests/support/desk.ts';
import { openLink, type Link } from './link.ts';

let link: Link;
let done: string[];
beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('location', { protocol: 'http:', host: 'x' });
  vi.stubGlobal('WebSocket', FakeSocket);
  done = [];
  link = openLink<string, string>('air:x', {
    onSnapshot: (body) => done.push(body),
    onOps: (ops) => done.push(...ops),
    onHere: () => {},
  });
  say({ t: 'snapshot', seq: 1, body: 'all' });
});
afterEach(() => {
  link.close();
  vi.useRealTimers();
  vi.unstubAllGlobals();
});

const say = (message: object) => FakeSocket.last.say(message);
/** The server's clock is so far from this page's, in ms; the way there and back takes no time. */
const measure = (offset: number) => {
  const at = performance.timeOrigin + performance.now();
  say({ t: 'pong', at, now: at + offset });
};

it('what is to be done at a moment waits for it, by the server’s clock, and what is told after it waits too', () => {
  measure(5000);
  const at = link.realNow() + 200;
  say({ t: 'delta', seq: 2, ops: ['take'], at });
  say({ t: 'delta', seq: 3, ops: ['score'] });
  vi.advanceTimersByTime(198);
  expect(done).toEqual(['all']);
  vi.advanceTimersByTime(3);
  expect(done).toEqual(['all', 'take', 'score']);
  // What is late already is done as it comes.
  say({ t: 'delta', seq: 4, ops: ['clear'], at: link.realNow() - 1 });
  expect(done.at(-1)).toBe('clear');
});

it.each([
  ['a snapshot has all that waited', () => say({ t: 'snapshot', seq: 9, body: 'anew' }), ['anew'], 300],
  ['a moment beyond all measure comes all the same', () => {}, ['take'], 1600],
])('%s', (_, then, expected, ms) => {
  measure(0);
  say({ t: 'delta', seq: 2, ops: ['take'], at: link.realNow() + (ms > 1000 ? 1e9 : 200) });
  then();
  vi.advanceTimersByTime(ms);
  expect(done).toEqual(['all', ...expected]);
});

it('where the server’s clock is not known yet, it is done at once', () => {
  say({ t: 'delta', seq: 2, ops: ['take'], at: 1e15 });
  expect(done).toEqual(['all', 'take']);
});

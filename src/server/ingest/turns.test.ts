import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { LineScheduler } from './turns.ts';

beforeEach(() => void vi.useFakeTimers({ toFake: ['setTimeout'] }));
afterEach(() => {
  vi.useRealTimers();
  vi.restoreAllMocks();
});

/** A line each of whose bytes takes so many ms to read. */
function lineOf(turns: LineScheduler, ms: number) {
  const took: number[][] = [];
  let dropped = 0;
  const turn = turns.line(
    (bytes) => {
      busy(ms);
      took.push([...bytes]);
    },
    (bytes) => (dropped += bytes),
  );
  return { turn, took, dropped: () => dropped };
}

let clock = 0;
beforeEach(() => {
  clock = 1000;
  vi.spyOn(performance, 'now').mockImplementation(() => clock);
});
const busy = (ms: number) => (clock += ms);
const byte = (n: number) => Uint8Array.of(n);
const pass = (ms: number) => {
  clock += ms;
  vi.advanceTimersByTime(ms);
};

it('takes what comes at once while there is time, then in slices of all that came meanwhile', () => {
  const turns = new LineScheduler();
  const { turn, took } = lineOf(turns, 8);
  for (let n = 1; n <= 6; n++) turn.push(byte(n));
  expect(took).toEqual([[1], [2], [3]]);
  pass(60);
  expect(took).toEqual([[1], [2], [3], [4, 5, 6]]);
  pass(60);
  turn.push(byte(7));
  expect(took.at(-1)).toEqual([7]);
});

it('lets a line that floods hold up no other: each has its turn', () => {
  const turns = new LineScheduler();
  const [flood, calm] = [lineOf(turns, 21), lineOf(turns, 0)];
  flood.turn.push(byte(1));
  for (let n = 2; n < 5; n++) flood.turn.push(byte(n));
  calm.turn.push(byte(9));
  pass(60);
  flood.turn.push(byte(5));
  pass(60);
  pass(60);
  expect(calm.took).toEqual([[9]]);
  expect(flood.took.flat()).toEqual([1, 2, 3, 4, 5]);
});

it('keeps a bounded part of what waits, the newest, and counts the rest', () => {
  const turns = new LineScheduler();
  const { turn, took, dropped } = lineOf(turns, 30);
  turn.push(byte(1));
  for (let n = 0; n < 100; n++) turn.push(new Uint8Array(4096).fill(n));
  pass(60);
  expect(took[1]!.length).toBeLessThanOrEqual(64 * 1024);
  expect(took[1]!.at(-1)).toBe(99);
  expect(dropped() + took[1]!.length).toBe(100 * 4096);
  turn.push(byte(2));
  turn.drop();
  pass(100);
  expect(took).toHaveLength(2);
});

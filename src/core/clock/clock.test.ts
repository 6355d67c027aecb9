import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ClockState } from '../board/values.ts';
import { clockAt, clockText, clockUnchangedFor, followClock, parseClock, stoppedClock } from './clock.ts';

describe('clockText', () => {
  it.each([
    [900_000, {}, '15:00'],
    [332_999, {}, '5:32'],
    [60_000, { tenthsBelow: 60_000 }, '1:00'],
    [59_999, { tenthsBelow: 60_000 }, '59.9'],
    [34_599, { tenthsBelow: 60_000 }, '34.5'],
    [34_599, {}, '0:34'],
    [9_999, { form: 's' as const }, '9'],
    [0, { tenthsBelow: 60_000 }, '0.0'],
    [-5, {}, '0:00'],
  ])('%d ms with %o reads %s', (ms, form, text) => expect(clockText(ms, form)).toBe(text));
});

it('a clock shows the same for as long as it says, and another tenth right after', () => {
  const clocks = fc.record({
    value: fc.double({ min: 0, max: 700_000, noNaN: true }),
    running: fc.boolean(),
    direction: fc.constantFrom('up' as const, 'down' as const),
    anchor: fc.integer({ min: 0, max: 5000 }),
    until: fc.integer({ min: 0, max: 700_000 }),
  });
  fc.assert(
    fc.property(
      clocks,
      fc.integer({ min: 0, max: 9000 }),
      fc.double({ min: 0, max: 0.999, noNaN: true }),
      (clock, now, share) => {
        const shown = (at: number) => clockText(clockAt(clock, at), { form: 's', tenthsBelow: Infinity });
        const tenth = (at: number) => Math.floor(clockAt(clock, at) / 100);
        const same = clockUnchangedFor(clock, now);
        expect(shown(now + share * Math.min(same - 1, 60_000))).toBe(shown(now));
        if (same === Infinity) expect(tenth(now + 1e9)).toBe(tenth(now));
        else {
          expect(same).toBeLessThanOrEqual(100 + 1 + Math.max(0, clock.anchor - now));
          const ends = clock.direction === 'down' ? Math.max(0, clock.until) : clock.until;
          if (Math.abs(clockAt(clock, now) - ends) > 101) expect(tenth(now + same)).not.toBe(tenth(now));
        }
      },
    ),
    // What the sum of once fell short of.
    { examples: [[{ value: 6.7e-8, running: true, direction: 'up', anchor: 925, until: 102 }, 0, 0]] },
  );
});

describe('parseClock', () => {
  it.each([
    ['12:34', { ms: 754_000, step: 1000 }],
    [' 5:32', { ms: 332_000, step: 1000 }],
    [':34', { ms: 34_000, step: 1000 }],
    [' 34.5', { ms: 34_500, step: 100 }],
    ['7', { ms: 7000, step: 1000 }],
    ['1:05.2', { ms: 65_200, step: 100 }],
    ['5:61', null],
    ['ab', null],
    ['', null],
    ['-3', null],
  ])('%j gives %o', (text, reading) => expect(parseClock(text)).toEqual(reading));
});

describe('followClock', () => {
  const read = (text: string) => parseClock(text)!;

  it('stops exactly where the controller stopped', () => {
    const running = followClock(null, read('34.5'), true, 'down', 1000);
    const stopped = followClock(running, read('34.2'), false, 'down', 1300);
    expect(stopped).toEqual(stoppedClock(34_200, 'down', 1300));
    expect(followClock(stopped, read('34.2'), false, 'down', 1400)).toBe(stopped);
  });

  it('never leaves the second that was confirmed, nor passes zero', () => {
    const clock = followClock(null, read('0.3'), true, 'down', 0);
    expect(clockAt(clock, 60_000)).toBe(0);
    const second = followClock(null, read('5:32'), true, 'down', 0);
    expect(clockText(clockAt(second, 60_000))).toBe('5:32');
    const up = followClock(null, read('5:32'), true, 'up', 0);
    expect(clockText(clockAt(up, 60_000))).toBe('5:32');
  });

  it('does not run ahead of its anchor when a page’s time lies before it', () => {
    expect(clockAt(followClock(null, read('34.5'), true, 'down', 1000), 400)).toBe(34_599);
  });

  it('takes a set clock at once, in the same second too', () => {
    const clock = followClock(null, read('34.5'), true, 'down', 0);
    expect(clockAt(followClock(clock, read('34.9'), true, 'down', 10), 10)).toBe(34_999);
    expect(clockAt(followClock(clock, read('8:00'), true, 'down', 10), 10)).toBe(480_999);
  });

  /** A controller at ten frames a second over a line with some delay; a page that draws sixty times a second. */
  function watch(startMs: number, seconds: number, jitter: number[]) {
    let clock: ClockState | null = null;
    let changes = 0;
    const shown: string[] = [];
    const said = new Set<number>();
    let frame = 0;
    for (let now = 0; now < seconds * 1000; now += 16) {
      while (frame * 100 + (jitter[frame % jitter.length] ?? 0) <= now) {
        const ms = Math.max(0, startMs - frame * 100);
        const text = clockText(ms, { tenthsBelow: 60_000 });
        said.add(Math.floor(ms / 1000));
        const next = followClock(clock, read(text), ms > 0, 'down', now);
        if (next !== clock) changes++;
        clock = next;
        frame++;
      }
      if (clock) shown.push(clockText(clockAt(clock, now), { tenthsBelow: 60_000 }));
    }
    return { shown, changes, said };
  }

  it('shows each second once, in order, none that the controller had not reached, at about one change a second', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2000, max: 70_000 }),
        fc.array(fc.integer({ min: 0, max: 40 }), { minLength: 3, maxLength: 20 }),
        (start, jitter) => {
          const { shown, changes, said } = watch(start, 9, jitter);
          const seconds = shown.map((t) => Math.floor(parseClock(t)!.ms / 1000));
          const runs = seconds.filter((s, i) => s !== seconds[i - 1]);
          expect(new Set(runs).size).toBe(runs.length);
          expect(runs).toEqual([...runs].sort((a, b) => b - a));
          expect(runs.every((s) => said.has(s))).toBe(true);
          expect(changes).toBeLessThanOrEqual(12);
        },
      ),
      { numRuns: 60 },
    );
  });
});

import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Arbiter, SETTLED, type BackPolicy } from './arbiter.ts';

const say = (origin: string, value: number, key = 'home.score') => ({ key, value, origin });

/** Two sources for one field, the first with the given policy; both have spoken at time 0. */
function two(policy: BackPolicy) {
  const arbiter = new Arbiter();
  arbiter.put('first', policy, [{ field: 'home.score', priority: 1 }]);
  arbiter.put('second', 'at-once', [{ field: 'home.score', priority: 2 }]);
  arbiter.offer('second', [say('second', 1)], 0);
  arbiter.offer('first', [say('first', 1)], 0);
  return arbiter;
}

describe('Arbiter', () => {
  it('lets the first in order hold, whoever speaks first, and drops the word of the second', () => {
    const arbiter = two('by-hand');
    expect(arbiter.offer('second', [say('second', 9)], 10)).toEqual([]);
    expect(arbiter.offer('first', [say('first', 2)], 20)).toEqual([say('first', 2)]);
  });

  it('hands over to the second’s newest word when the first falls silent', () => {
    const arbiter = two('at-once');
    arbiter.offer('second', [say('second', 7)], 10);
    expect(arbiter.silent('first', [say('first', 1)], 2000)).toEqual([say('second', 7)]);
    expect(arbiter.offer('second', [say('second', 8)], 2100)).toEqual([say('second', 8)]);
  });

  it('changes what a source feeds while it speaks on: what stays holds, what goes is taken over or orphaned', () => {
    const arbiter = two('by-hand');
    const both = [
      { field: 'home.score', priority: 1 },
      { field: 'away.score', priority: 1 },
    ];
    expect(arbiter.change('first', 'by-hand', both)).toEqual({ changes: [], orphans: [] });
    arbiter.offer('first', [say('first', 4, 'away.score')], 10);
    expect(arbiter.offer('first', [say('first', 2)], 10)).toEqual([say('first', 2)]);
    expect(arbiter.change('first', 'by-hand', [])).toEqual({
      changes: [say('second', 1)],
      orphans: ['away.score'],
    });
    expect(arbiter.holder('home.score')).toBe('second');
    expect(arbiter.change('third', 'at-once', both)).toEqual({ changes: [], orphans: [] });
  });

  it('lets one that stands by speak where the first is silent, and tells who is ahead of it', () => {
    const arbiter = two('at-once');
    arbiter.put('hand', 'at-once', [{ field: 'home.score', priority: 9 }]);
    expect(arbiter.ahead('hand', 'home.score')).toBe('first');
    expect(arbiter.ahead('first', 'home.score')).toBeNull();
    arbiter.silent('second', [], 100);
    arbiter.silent('first', [], 200);
    expect(arbiter.ahead('hand', 'home.score')).toBeNull();
    expect(arbiter.offer('hand', [say('hand', 5)], 300)).toEqual([say('hand', 5)]);
    // Who was taken over from while it was silent comes back by its policy, not at its first word.
    expect(arbiter.offer('first', [say('first', 1)], 400)).toEqual([]);
    expect(arbiter.tick(400 + SETTLED, true)).toEqual([say('first', 1)]);
    arbiter.forget('hand', 'home.score');
    expect(arbiter.silent('first', [], 9000)).toEqual([]);
    expect(arbiter.holder('home.score')).toBe('first');
  });

  it('keeps the last word at rest where nobody else speaks', () => {
    const arbiter = two('at-once');
    arbiter.silent('second', [], 100);
    expect(arbiter.silent('first', [say('first', 5)], 2000)).toEqual([say('first', 5)]);
    expect(arbiter.offer('first', [say('first', 6)], 2500)).toEqual([say('first', 6)]);
  });

  it.each<[BackPolicy, boolean, boolean]>([
    ['at-once', false, true],
    ['stoppage', false, false],
    ['stoppage', true, true],
    ['by-hand', true, false],
  ])('on its return, policy %s, play stopped %s: taken back %s', (policy, stopped, back) => {
    const arbiter = two(policy);
    arbiter.silent('first', [], 1000);
    expect(arbiter.offer('first', [say('first', 3)], 5000)).toEqual([]);
    expect(arbiter.tick(5000 + SETTLED - 1, true)).toEqual([]);
    expect(arbiter.waiting('first').length).toBe(1);
    expect(arbiter.tick(5000 + SETTLED, stopped)).toEqual(back ? [say('first', 3)] : []);
    expect(arbiter.waiting('first').length).toBe(back ? 0 : 1);
    expect(arbiter.giveBack('first', 9000)).toEqual(back ? [] : [say('first', 3)]);
    expect(arbiter.offer('second', [say('second', 4)], 9100)).toEqual([]);
  });

  it('says of the first of those that are back alone that it waits, and of none that has its fields', () => {
    const arbiter = two('by-hand');
    arbiter.put('second', 'by-hand', [{ field: 'home.score', priority: 2 }]);
    arbiter.put('third', 'by-hand', [{ field: 'home.score', priority: 3 }]);
    for (const source of ['second', 'third']) arbiter.offer(source, [say(source, 1)], 10);
    for (const source of ['first', 'second']) arbiter.silent(source, [], 1000);
    const waiting = () => ['first', 'second', 'third'].map((s) => arbiter.waiting(s).length);
    expect([arbiter.holder('home.score'), ...waiting()]).toEqual(['third', 0, 0, 0]);
    arbiter.offer('second', [say('second', 2)], 5000);
    expect(waiting()).toEqual([0, 1, 0]);
    arbiter.offer('first', [say('first', 3)], 5000);
    expect(waiting()).toEqual([1, 0, 0]);
    expect(arbiter.giveBack('first', 6000)).toEqual([say('first', 3)]);
    expect(waiting()).toEqual([0, 0, 0]);
  });

  it('does not flap: a first that comes and goes keeps the field with the second', () => {
    const arbiter = two('at-once');
    arbiter.silent('first', [], 1000);
    for (let t = 2000; t < 20_000; t += 2000) {
      expect(arbiter.offer('first', [say('first', t)], t)).toEqual([]);
      expect(arbiter.tick(t + 900, true)).toEqual([]);
      expect(arbiter.silent('first', [], t + 1000)).toEqual([]);
    }
  });

  it('frees what a source held that is removed, and knows nothing of strangers', () => {
    const arbiter = two('at-once');
    expect(arbiter.remove('first')).toEqual([say('second', 1)]);
    expect(arbiter.offer('first', [say('first', 2)], 10)).toEqual([]);
    expect(arbiter.silent('stranger', [], 10)).toEqual([]);
  });

  it('at any time lets one source hold a field at most, and never one that is silent while another speaks', () => {
    const step = fc.record({
      who: fc.constantFrom('a', 'b', 'c'),
      what: fc.constantFrom('speak', 'silent', 'tick'),
      wait: fc.nat(4000),
    });
    fc.assert(
      fc.property(fc.array(step, { maxLength: 40 }), (steps) => {
        const arbiter = new Arbiter();
        ['a', 'b', 'c'].forEach((s, i) =>
          arbiter.put(s, 'at-once', [{ field: 'home.score', priority: i + 1 }]),
        );
        const speaking = new Set<string>();
        let now = 0;
        let shown: string | null = null;
        steps.forEach(({ who, what, wait }, n) => {
          now += wait;
          if (what === 'speak') speaking.add(who);
          if (what === 'silent') speaking.delete(who);
          const changes =
            what === 'speak'
              ? arbiter.offer(who, [say(who, n)], now)
              : what === 'silent'
                ? arbiter.silent(who, [], now)
                : arbiter.tick(now, false);
          expect(changes.length).toBeLessThanOrEqual(1);
          for (const change of changes) if ('origin' in change) shown = change.origin;
          if (speaking.size) expect(speaking.has(shown ?? '')).toBe(true);
        });
      }),
    );
  });
});

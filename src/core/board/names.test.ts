import { expect, it } from 'vitest';
import type { FieldDef } from '../sport/profile.ts';
import { NONE, withMore } from './lists.ts';
import { isRecord, own, setOwn } from './own.ts';
import { clockOf, runningDef, runningKey, runs, withRunning } from './running.ts';
import { yesOrNo } from './yes.ts';

it.each([
  [{}, true],
  [Object.create(null), true],
  [[], false],
  [null, false],
  ['x', false],
  [undefined, false],
])('%j is a record: %s', (value, is) => expect(isRecord(value)).toBe(is));

it('a name from outside finds what is a record’s own, whatever it is', () => {
  const record: Record<string, unknown> = { score: 0 };
  expect([own(record, 'score'), own(record, 'constructor'), own(record, 'toString')]).toEqual([
    0,
    undefined,
    undefined,
  ]);
  setOwn(record, '__proto__', 'Owls');
  expect(own(record, '__proto__')).toBe('Owls');
  expect(Object.getPrototypeOf(record)).toBe(Object.prototype);
  expect(Object.keys(record)).toEqual(['score', '__proto__']);
});

it('the empty list is never added to; a list that has grown is the same one', () => {
  const one = withMore<number>(NONE, 1);
  const two = withMore(one, 2);
  expect([NONE, two, two === one]).toEqual([[], [1, 2], true]);
});

it.each([
  [true, true],
  [1, true],
  [' YES ', true],
  ['x', true],
  [0, false],
  ['Off', false],
  ['-', false],
  ['', null],
  [2, null],
  ['maybe', null],
  [null, null],
  [{}, null],
])('%j says %s', (said, is) => expect(yesOrNo(said)).toBe(is));

it('a clock has a field that says whether it runs, and nothing else has', () => {
  const clock = { key: 'clock.game', label: 'Game clock', kind: 'clock', group: 'clocks' } as FieldDef;
  const score = { key: 'home.score', label: 'Score', kind: 'integer', group: 'home' } as FieldDef;
  expect(withRunning([clock, score]).map((d) => [d.key, d.kind])).toEqual([
    ['clock.game', 'clock'],
    ['clock.game.running', 'flag'],
    ['home.score', 'integer'],
  ]);
  expect(runningDef(score)).toBeUndefined();
  expect([clockOf(runningKey('a')), clockOf('a'), clockOf('.running')]).toEqual(['a', null, '']);
  const running = { value: 1, running: true, direction: 'down', anchor: 0, until: 0 } as never;
  expect([runs(running), runs(7), runs(null)]).toEqual([true, null, null]);
});

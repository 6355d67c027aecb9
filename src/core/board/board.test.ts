import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import profileDoc from '../../../data/basic/profile/box-lacrosse.json' with { type: 'json' };
import { parseClock, stoppedClock } from '../clock/clock.ts';
import { Patch } from '../patch/patch.ts';
import { parsePatch } from '../patch/patch-doc.ts';
import { parseProfile } from '../sport/profile.ts';
import { parseTyped } from '../sport/typed.ts';
import { healthOf, retryWait } from '../source/health.ts';
import { orderToken, rowToken, Tables, type Row } from './tables.ts';
import { Board } from './board.ts';
import type { FieldValue } from './values.ts';

const parsed = parseProfile(profileDoc);
if (!parsed.ok) throw new Error(parsed.problems.join());
const profile = parsed.value;
const newBoard = () => new Board(profile.fields);
const say = (key: string, value: string | number | boolean | null, origin = 'controller') => ({
  key,
  value,
  origin,
});

describe('Board', () => {
  it('applies all changes under one number; equal values are no change', () => {
    const board = newBoard();
    const first = board.apply([say('home.score', 1), say('away.score', 2)], 10);
    expect(first).toMatchObject({ seq: 1, changed: ['home.score', 'away.score'], refused: [] });
    expect(board.apply([say('home.score', 1), say('away.score', 2)], 20)).toMatchObject({
      seq: 1,
      changed: [],
      touched: [],
    });
    expect(board.state('home.score')?.at).toBe(10);
  });

  it.each([
    [say('home.score', 100), 'from 0 to 99'],
    [say('home.score', 1.5), 'whole number'],
    [say('home.score', 'x'), 'whole number'],
    [say('situation.possession', 'left'), 'home or away'],
    [say('situation.horn', 1), 'yes or no'],
    [say('home.colour', 'teal'), '#rrggbb'],
    [say('clock.game', 5), 'clock'],
    [say('nowhere', 1), 'no field'],
    [{ key: 'clock.game', value: stoppedClock(1_000_000, 'down', 0), origin: 'c' }, 'at most'],
  ])('refuses %o; the last good value stands and the rest of the frame holds', (bad, why) => {
    const board = newBoard();
    board.apply([say('home.score', 4)], 0);
    const { refused, changed } = board.apply([bad, say('away.score', 3)], 1);
    expect(refused).toHaveLength(1);
    expect(refused[0]!.reason).toContain(why);
    expect(changed).toEqual(['away.score']);
    expect(board.read('home.score')).toBe(4);
  });

  it('holds a pin over what the source says, and shows both', () => {
    const board = newBoard();
    board.apply([say('home.score', 4)], 0);
    expect(board.apply([{ key: 'home.score', pin: 5 }], 1).changed).toEqual(['home.score']);
    expect(board.apply([say('home.score', 6)], 2)).toMatchObject({ changed: [], touched: ['home.score'] });
    expect(board.read('home.score')).toBe(5);
    expect(board.state('home.score')).toMatchObject({ value: 6, pin: { value: 5, at: 1 } });
    expect(board.apply([{ key: 'home.score', release: true }], 3).changed).toEqual(['home.score']);
    expect(board.read('home.score')).toBe(6);
    expect(board.apply([{ key: 'home.score', release: true }], 4).touched).toEqual([]);
    expect(board.apply([{ key: 'home.score', pin: 400 }], 5).refused).toHaveLength(1);
  });

  it('marks the fields of a silent source, and only those', () => {
    const board = newBoard();
    board.apply([say('home.score', 4), say('home.name', 'Herons', 'game')], 0);
    expect(board.mark('controller', 'lost')).toEqual(['home.score']);
    expect(board.state('home.name')?.quality).toBe('ok');
    expect(board.apply([say('home.score', 4)], 9).touched).toEqual(['home.score']);
    expect(board.state('home.score')).toMatchObject({ quality: 'ok', at: 0 });
  });
});

describe('parseTyped', () => {
  const def = (key: string) => profile.fields.find((f) => f.key === key)!;
  it.each([
    ['home.score', '7', { value: 7 }],
    ['home.score', ' ', { value: null }],
    ['home.score', '7.5', { problem: 'Home score is a whole number from 0 to 99' }],
    ['home.score', '-1', { problem: 'Home score cannot be -1: it goes from 0 to 99' }],
    ['clock.game', '5:32', { value: stoppedClock(332_000, 'down', 50) }],
    ['clock.game', '16:00', { problem: 'Game clock cannot be 16:00: it goes to 15:00 at most' }],
    ['clock.game', 'noon', { problem: 'Game clock is a time such as 5:32, 34.5 or 18' }],
    ['situation.horn', 'Yes', { value: true }],
    ['situation.horn', 'maybe', { problem: 'Horn is yes or no' }],
    ['situation.possession', 'home', { value: 'home' }],
    ['home.name', 'x'.repeat(80), { value: 'x'.repeat(80) }],
    ['home.name', 'x'.repeat(121), { problem: 'Home name is limited to 120 characters' }],
  ])('%s typed as %j', (key, text, wanted) => expect(parseTyped(def(key), text, 50)).toEqual(wanted));
});

describe('Patch', () => {
  const doc = parsePatch({
    schema: 1,
    key: 'p',
    source: 'controller',
    links: [
      { reading: 'clock', field: 'clock.game', running: 'run' },
      { reading: 'score', field: 'home.score' },
      {
        reading: 'ball',
        field: 'situation.possession',
        as: { choose: { input: 'reading' }, cases: [{ is: ['H'], then: { fixed: 'home' } }] },
      },
    ],
  });
  if (!doc.ok) throw new Error(doc.problems.join());
  const newPatch = () => new Patch(doc.value, (key) => profile.fields.find((f) => f.key === key));
  const clock = (text: string, run: boolean) => [
    { name: 'clock', raw: text, value: parseClock(text) },
    { name: 'run', raw: '', value: run },
  ];

  it('converts by its Value and leaves unread readings alone', () => {
    const { changes, problems } = newPatch().changes(
      [
        { name: 'ball', raw: 'H', value: 'H' },
        { name: 'score', raw: 'zz', problem: '"zz" is not a whole number' },
      ],
      0,
    );
    expect(changes).toEqual([{ key: 'situation.possession', value: 'home', origin: 'controller' }]);
    expect(problems).toEqual(['score: "zz" is not a whole number']);
  });

  it('knows readings by their ids, whatever they are called', () => {
    const named = new Patch(
      doc.value,
      (key) => profile.fields.find((f) => f.key === key),
      (id) => ({ score: 'Goals', run: 'Going' })[id] ?? id,
    );
    const [clockIs] = clock('34.7', true);
    const { changes } = named.changes(
      [{ name: 'Goals', raw: '3', value: 3 }, clockIs!, { name: 'Going', raw: '', value: true }],
      0,
    );
    expect(changes).toMatchObject([
      { key: 'clock.game', value: { running: true } },
      { key: 'home.score', value: 3 },
    ]);
    expect(named.linkTo('home.score')).toMatchObject({ reading: 'Goals' });
  });

  it('leaves out what the sport does not have, without a word', () => {
    const elsewhere = new Patch(doc.value, (key) => (key === 'home.score' ? newBoard().def(key) : undefined));
    expect(elsewhere.changes([{ name: 'score', raw: '3', value: 3 }, ...clock('34.7', true)], 0)).toEqual({
      changes: [{ key: 'home.score', value: 3, origin: 'controller' }],
      problems: [],
    });
    // A clock that ran when the sport was changed has nowhere to stop.
    const fields = new Map(profile.fields.map((f) => [f.key, f]));
    const changed = new Patch(doc.value, (key) => fields.get(key));
    changed.changes(clock('34.7', true), 0);
    fields.delete('clock.game');
    expect(changed.hold(1000)).toEqual([]);
  });

  it('stops running clocks at the last value said, once', () => {
    const patch = newPatch();
    patch.changes(clock('34.7', true), 1000);
    patch.changes(clock('34.6', true), 1100);
    expect(patch.hold(2500)).toEqual([
      { key: 'clock.game', value: stoppedClock(34_600, 'down', 2500), origin: 'controller' },
    ]);
    expect(patch.hold(2600)).toEqual([]);
  });

  it.each<[FieldValue, object | undefined, number | null]>([
    [21, undefined, 21_000],
    [34.7, undefined, 34_700],
    ['2:05', undefined, 125_000],
    [-1, undefined, null],
    [NaN, undefined, null],
    [Infinity, undefined, null],
    [false, undefined, null],
    [3, { formula: 'reading * 60' }, 180_000],
    [
      '12.34',
      { choose: { input: 'reading' }, cases: [{ is: ['12.34'], then: { fixed: '12:34' } }] },
      754_000,
    ],
  ])('takes %j, converted by %j, for a clock at %s ms, or says that it is none', (value, as, ms) => {
    const read = parsePatch({
      schema: 1,
      key: 'p',
      source: 's',
      links: [{ reading: 'time', field: 'clock.game', ...(as ? { as } : {}) }],
    });
    if (!read.ok) throw new Error(read.problems.join());
    const patch = new Patch(read.value, (key) => profile.fields.find((f) => f.key === key));
    const { changes, problems } = patch.changes([{ name: 'time', raw: '?', value: value as string }], 5);
    if (ms === null) expect(problems).toEqual([expect.stringContaining('is not a clock')]);
    else expect(changes).toMatchObject([{ value: { value: ms, running: false, until: ms } }]);
  });

  it('says when a clock field is fed something else, and blanks it on a blank', () => {
    const patch = newPatch();
    expect(patch.changes([{ name: 'clock', raw: 'x', value: 'x' }], 0).problems[0]).toContain(
      'is not a clock',
    );
    expect(patch.changes([{ name: 'clock', raw: '', value: null }], 0).changes[0]).toMatchObject({
      value: null,
    });
  });

  it('refuses a field fed twice', () => {
    const twice = {
      schema: 1,
      key: 'p',
      source: 's',
      links: [1, 2].map(() => ({ reading: 'a', field: 'home.score' })),
    };
    expect(parsePatch(twice)).toMatchObject({ ok: false, problems: [expect.stringContaining('fed twice')] });
  });
});

describe('health', () => {
  const limits = { late: 1500, lost: 4000 };
  it.each([
    [null, 0, 'lost'],
    [1000, 2500, 'live'],
    [1000, 2501, 'late'],
    [1000, 5001, 'lost'],
  ])('last word %s, now %d: %s', (last, now, health) => expect(healthOf(last, now, limits)).toBe(health));
  it('waits longer each time, up to three seconds', () => {
    expect([0, 1, 2, 3, 4, 99].map(retryWait)).toEqual([250, 500, 1000, 2000, 3000, 3000]);
  });
});

describe('Tables.put', () => {
  const table = (rows: readonly (readonly [string, Row])[]) => ({
    key: 't',
    name: 'T',
    columns: ['n'],
    rows,
  });
  const rows = fc
    .uniqueArray(fc.tuple(fc.constantFrom('a', 'b', 'c', 'd', 'e'), fc.integer({ min: 0, max: 2 })), {
      selector: ([key]) => key,
    })
    .map((list) => list.map(([key, n]): [string, Row] => [key, { n }]));

  it('names just the rows that differ, and the order where it is another', () => {
    fc.assert(
      fc.property(rows, rows, (first, second) => {
        const tables = new Tables();
        tables.put(table(first), 's', 1);
        const [was, is] = [new Map(first), new Map(second)];
        const kept = [...is].filter(([key, row]) => was.get(key)?.['n'] === row['n']);
        const other = [...new Set([...was.keys(), ...is.keys()])].filter(
          (k) => was.get(k)?.['n'] !== is.get(k)?.['n'],
        );
        const sameOrder = [...was.keys()].join() === [...is.keys()].join();
        const tokens = tables.put(table(second), 's', 2);
        expect(new Set(tokens)).toEqual(
          new Set([...other.map((k) => rowToken('t', k)), ...(sameOrder ? [] : [orderToken('t')])]),
        );
        // What says the same stays the very same row, and the rows stand in the new order.
        for (const [key] of kept) expect(tables.row('t', key)).toBe(was.get(key));
        expect([...tables.get('t')!.rows]).toEqual(second);
        expect(second.map((_, i) => tables.keyAt('t', i + 1))).toEqual([...is.keys()]);
      }),
    );
  });
});

import { describe, expect, it } from 'vitest';
import { freeNumber, placesIn, newItem, parseItem } from './item.ts';
import { fitIn } from './layout.ts';
import { defaultRundown, grouped, inOrder, parseModel, parseRundown, placed, without } from './rundown.ts';

const item = (key: string, number = 1) => newItem({ key, number, name: key.toUpperCase(), template: 't' });
const place = (output: string, zone: string) => ({ output, zone });

describe('items', () => {
  it('have what nothing is said of', () => {
    expect(parseItem({ schema: 1, key: 'a', number: 1, name: 'A', template: 't', zones: [] })).toEqual({
      ok: true,
      value: item('a'),
    });
    expect(placesIn({ zones: [place('o', 'z')] }, place('o', 'y'))).toBe(false);
  });

  it.each([
    [{ zones: [place('o', 'z'), place('o', 'z')] }, 'one zone twice'],
    [{ zones: [{ output: 'o' }] }, 'zones.0.zone'],
    [{ follows: 'a' }, 'cannot follow itself'],
    [{ length: 0 }, 'length'],
    [{ length: Infinity }, 'length'],
    [{ hotkey: 'F5' }, 'hotkey'],
    [{ number: 0 }, 'number'],
    [{ inputs: { a: {} } }, 'inputs'],
    [{ schema: 2 }, 'newer Foothill'],
  ])('%j is refused naming %s', (part, why) => {
    const read = parseItem({ ...item('a'), ...part });
    expect(read.ok || read.problems.join()).toContain(why);
  });

  it.each([
    [[1, 2, 7], 1, 8],
    [[], 100, 100],
    [[5], 100, 100],
    [[1, 3, 999_999], 1, 2],
  ])('after the numbers %j, from %d on, comes %d', (taken, from, next) =>
    expect(
      freeNumber(
        taken.map((number) => ({ number })),
        from,
      ),
    ).toBe(next),
  );
});

describe('a layout in a zone', () => {
  it.each([
    [1400, 1200, 1400, 1200, 'own', 1],
    [1707, 96, 1700, 96, 'own', 1],
    [1920, 1080, 960, 540, 'scaled', 0.5],
    [1728, 132, 6400, 1200, 'off', 6400 / 1728],
    [560, 156, 800, 1200, 'off', 800 / 560],
  ])('of %d × %d in %d × %d is %s, %d', (w, h, width, height, how, scale) =>
    expect(fitIn({ width: w, height: h }, { width, height })).toEqual({ how, scale }),
  );
});

describe('the rundown', () => {
  const groups = [
    { key: 'first', name: 'First', items: ['b', 'a', 'gone'] },
    { key: 'last', name: 'Last', items: ['c'] },
  ];
  const items = [item('a', 3), item('b', 2), item('c', 1), item('e', 5), item('d', 4)];

  it('shows items in their groups, and those in none after them by number', () => {
    expect(grouped(groups, items).map((g) => [g.name, g.items.map((i) => i.key)])).toEqual([
      ['First', ['b', 'a']],
      ['Last', ['c']],
      ['In no group', ['d', 'e']],
    ]);
    expect(inOrder(groups, items).map((i) => i.key)).toEqual(['b', 'a', 'c', 'd', 'e']);
    expect(grouped(groups, items.slice(0, 3))).toHaveLength(2);
  });

  it.each([
    [['c'], 'first', 'a', 'b c a gone | '],
    [['b', 'c'], 'first', 'b', 'b c a gone | '],
    [['a', 'b'], 'last', null, 'gone | c a b'],
    [['d'], 'last', 'none of it', 'b a gone | c d'],
    [['a'], 'first', 'a', 'b a gone | c'],
    [['a', 'd'], 'first', 'b', 'a d b gone | c'],
  ])('moves %j into %s before %s: %s', (keys, group, before, after) =>
    expect(
      placed(groups, keys, group, before)
        .map((g) => g.items.join(' '))
        .join(' | '),
    ).toBe(after),
  );

  it('lets items go, and is refused with something twice', () => {
    expect(without(groups, ['a', 'c']).map((g) => g.items)).toEqual([['b', 'gone'], []]);
    const twice = (more: object) => ({ ...defaultRundown(), groups: [...groups, more] });
    for (const [body, why] of [
      [twice({ key: 'first', name: 'X', items: [] }), 'the key "first"'],
      [twice({ key: 'x', name: 'X', items: ['a'] }), 'the item "a" stands there twice'],
      [{ ...defaultRundown(), key: 'other' }, 'there is one rundown'],
    ] as const)
      expect(parseRundown(body)).toMatchObject({ ok: false, problems: [expect.stringContaining(why)] });
    const model = { schema: 1, key: 'm', name: 'M', groups: [{ key: 'g', name: 'G', items: [item('a')] }] };
    expect(parseModel(model)).toMatchObject({ ok: true });
    expect(
      parseModel({ ...model, groups: [...model.groups, { key: 'h', name: 'H', items: [item('a')] }] }),
    ).toMatchObject({
      ok: false,
    });
  });
});

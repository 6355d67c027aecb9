import { describe, expect, it } from 'vitest';
import { differences, inWords, merged, same } from './merge.ts';

const marl = { id: '7', number: '7', last: 'Marl' };
const player = (number: string, last: string) => ({ number, last });

describe('merged', () => {
  const base = { name: 'Owls', colour: 'red', players: [player('1', 'Orrell'), player('2', 'Keel')] };
  it.each<[string, object, object, object, object?]>([
    [
      'two texts',
      { ...base, name: 'Larks' },
      { ...base, colour: 'blue' },
      { ...base, name: 'Larks', colour: 'blue' },
    ],
    ['the same in both', { ...base, name: 'Larks' }, { ...base, name: 'Larks' }, { ...base, name: 'Larks' }],
    ['what only one added', { ...base, more: 1 }, base, { ...base, more: 1 }],
    [
      'what only one removed',
      { colour: 'red', players: base.players },
      base,
      { colour: 'red', players: base.players },
    ],
    [
      'elements by their numbers: one changed, one added behind what it stood behind, one removed',
      { ...base, players: [player('1', 'Orrell'), player('7', 'New'), player('2', 'Keel')] },
      { ...base, players: [player('1', 'Ode')] },
      { ...base, players: [player('1', 'Ode'), player('7', 'New')] },
    ],
    [
      'elements by their ids, though both changed all else of one',
      { ...base, players: [{ ...marl, number: '17' }] },
      { ...base, players: [{ ...marl, last: 'Marlow' }] },
      { ...base, players: [{ ...marl, number: '17', last: 'Marlow' }] },
      { ...base, players: [marl] },
    ],
    [
      'readings that never had another name beside those that have',
      { readings: [{ id: 'a', name: 'x', place: '/a' }] },
      { readings: [{ name: 'a', place: '/b' }] },
      { readings: [{ id: 'a', name: 'x', place: '/b' }] },
      { readings: [{ name: 'a', place: '/a' }] },
    ],
    [
      'the order of whoever moved something',
      { ...base, players: [player('2', 'Keel'), player('1', 'Orrell')] },
      { ...base, players: [...base.players, player('3', 'Marl')] },
      { ...base, players: [player('2', 'Keel'), player('3', 'Marl'), player('1', 'Orrell')] },
    ],
  ])('keeps %s', (_, mine, theirs, both, from = base) => {
    expect(merged(from, mine, theirs)).toEqual({ doc: both, clashes: [] });
  });

  it.each<[unknown, unknown, unknown, string]>([
    [{ a: 1 }, { a: 2 }, { a: 3 }, 'a'],
    [{ a: [1, 2] }, { a: [1] }, { a: [2] }, 'a'],
    [
      base,
      { ...base, players: [player('1', 'Orrell')] },
      { ...base, players: [base.players[0], player('2', 'Kiel')] },
      'players 2',
    ],
    [{}, { a: 1 }, { a: 2 }, 'a'],
    // Two of one number cannot be told apart: the list is one thing.
    [{ l: [{ number: '1' }, { number: '1' }] }, { l: [] }, { l: [{ number: '1' }] }, 'l'],
    ['a', 'b', 'c', ''],
  ])('says where %j became %j and %j: %s', (from, mine, theirs, place) => {
    const { doc, clashes } = merged(from, mine, theirs);
    expect(clashes.map((c) => c.place)).toEqual([place]);
    expect(doc).toEqual(mine);
  });

  it('takes names from outside as data', () => {
    const odd = JSON.parse('{"__proto__": {"a": 1}, "constructor": 2}') as object;
    const { doc } = merged({}, odd, {});
    expect(Object.keys(doc as object)).toEqual(['__proto__', 'constructor']);
    expect(same(odd, {})).toBe(false);
  });
});

describe('differences', () => {
  it.each<[unknown, unknown, string[]]>([
    [{ a: 1 }, { a: 1 }, []],
    [{ a: 'x' }, { a: '' }, ['a: blank, was x']],
    [{}, { a: { name: 'N' } }, ['a: added, N']],
    [{ l: [{ key: 'k', v: 1 }] }, { l: [] }, ['l k: removed, was k']],
    [{ l: [1, 2] }, { l: [1] }, ['l: one entry, was 2 entries']],
    [{ l: [{ key: 'k', v: 1 }] }, { l: [{ key: 'k', v: 2 }] }, ['l k v: 2, was 1']],
    [{ l: [{ key: 'a' }, { key: 'b' }] }, { l: [{ key: 'b' }, { key: 'a' }] }, ['l: in another order']],
    [1, 2, ['document: 2, was 1']],
  ])('of %j and %j are %j', (before, after, said) => {
    expect(differences(before, after)).toEqual(said);
  });

  it('names two hundred at most, and things by what people call them', () => {
    const many = (v: number) => Object.fromEntries(Array.from({ length: 300 }, (_, i) => [`p${i}`, v]));
    expect(differences(many(1), many(2))).toHaveLength(200);
    expect(inWords(player('7', 'Orrell'))).toBe('Orrell');
    expect(inWords(undefined)).toBe('removed');
  });
});

import { expect, it } from 'vitest';
import { profile } from '../../../tests/support/prepared.ts';
import type { FieldValue } from '../board/values.ts';
import type { PatchDoc } from '../patch/patch.ts';
import type { IntakeMemory } from '../tape/memory.ts';
import { compiled } from '../value/value.ts';
import { feedsSides, placeOfField, sidesOf, swapLines, swapMemory, swapPatch, valueOfField } from './swap.ts';

const sides = sidesOf(profile.fields);
const possession = [...sides.names][0]!;

it('pairs what both sides have, and knows what names a side', () => {
  expect([placeOfField(sides, 'home.score'), placeOfField(sides, 'away.score')]).toEqual([
    'away.score',
    'home.score',
  ]);
  expect(placeOfField(sides, 'clock.game')).toBe('clock.game');
  expect(['home', 'away', 'none'].map((v) => valueOfField(sides, possession, v))).toEqual([
    'away',
    'home',
    'none',
  ]);
  expect(valueOfField(sides, 'home.name', 'home')).toBe('home');
});

it('a patch that is exchanged twice is as it was, and names the other side meanwhile', () => {
  const patch: PatchDoc = {
    schema: 1,
    key: 'p',
    source: 's',
    links: [
      { reading: 'a', field: 'home.score' },
      { reading: 'b', field: possession },
      { reading: 'c', field: 'clock.game' },
    ],
  } as never;
  const once = swapPatch(sides, patch);
  expect(once.links.map((l) => l.field)).toEqual(['away.score', possession, 'clock.game']);
  const said = (value: FieldValue) =>
    compiled(once.links[1]!.as!)({ read: () => null, input: () => value } as never);
  expect([said('home'), said('away'), said('none')]).toEqual(['away', 'home', 'none']);
  expect(swapPatch(sides, once)).toEqual(patch);
  expect([feedsSides(sides, patch), feedsSides(sides, null)]).toEqual([true, false]);
  expect(feedsSides(sides, { ...patch, links: [patch.links[2]!] })).toBe(false);
});

it('all that is known changes its side, twice is as it was', () => {
  const word = (key: string, value: FieldValue) => ({ key, value, origin: 's' });
  const memory = {
    board: { fields: [word('home.score', 3), word(possession, 'home')], tables: [] },
    arbiter: { live: {}, latest: [word('away.score', 1)], holders: { 'home.score': 's' }, lost: {} },
    sources: { s: { clocks: [{ field: 'home.score' }], words: ['away.score'] } },
  } as unknown as IntakeMemory;
  const once = swapMemory(sides, memory);
  expect(once.board.fields).toMatchObject([
    { key: 'away.score', value: 3 },
    { key: possession, value: 'away' },
  ]);
  expect(once.arbiter).toMatchObject({ latest: [{ key: 'home.score' }], holders: { 'away.score': 's' } });
  expect(once.sources['s']).toMatchObject({ clocks: [{ field: 'away.score' }], words: ['home.score'] });
  expect(swapMemory(sides, once)).toEqual(memory);
});

it('shows what differs, and nothing else', () => {
  const board: Record<string, FieldValue> = { 'home.score': 2, 'away.score': 5, [possession]: 'home' };
  const { pairs, names } = swapLines(profile.fields, (key) => board[key] ?? null);
  expect(pairs).toEqual([{ label: 'Score', home: 2, away: 5 }]);
  expect(names).toMatchObject([{ was: 'home', will: 'away' }]);
});

import { expect, it } from 'vitest';
import { fromPalette, paletteKeyOf, paletteTable, parsePalette } from './palette.ts';

const palette = (...colours: object[]) => ({ schema: 1, key: 'palette', colours });
const colour = (key: string, said = '#102030') => ({ key, name: key, colour: said });

it.each([
  [palette(), true],
  [palette(colour('ink'), colour('paper', '#FFFFFF80')), true],
  [palette(colour('ink'), colour('ink')), false],
  [palette(colour('ink', 'red')), false],
  [palette(colour('ink', '#123')), false],
  [palette(colour('Ink!')), false],
  [{ ...palette(), more: 1 }, false],
  [palette(...Array.from({ length: 101 }, (_, i) => colour(`c${i}`))), false],
  [null, false],
])('%j is read: %s', (input, ok) => expect(parsePalette(input).ok).toBe(ok));

it('a colour is a row of the board’s table, and is known again where a layer shows it', () => {
  expect(paletteTable(palette(colour('ink')) as never).rows).toEqual([
    ['ink', { name: 'ink', colour: '#102030' }],
  ]);
  expect(paletteKeyOf(fromPalette('ink'))).toBe('ink');
  const other = { lookup: { table: 'leaders', column: 'colour', key: { fixed: 'ink' } } };
  const ranked = { lookup: { table: 'palette', column: 'colour', rank: { fixed: 1 } } };
  for (const held of ['#102030', undefined, { field: 'home.colour' }, other, ranked])
    expect(paletteKeyOf(held)).toBe(null);
});

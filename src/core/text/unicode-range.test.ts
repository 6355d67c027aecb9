import { describe, expect, it } from 'vitest';
import { facesFor, rangeHas } from './unicode-range.ts';

describe('the part of a font that a text needs', () => {
  it.each([
    ['', 'x', true],
    ['U+0-7F', 'héllo', true],
    ['U+100-17F, U+1E00-1EFF', 'hello', false],
    ['U+100-17F, u+1e00-1eff', 'Łódź', true],
    ['U+4??', 'Жук', true],
    ['U+26', '&', true],
    ['U+26', '', false],
    ['U+1F600-1F64F', 'hi 😀', true],
  ])('%s and %j: %s', (range, text, has) => expect(rangeHas(range, text)).toBe(has));

  it.each([
    [600, ['400', '600', '700'], ['600']],
    [650, ['400', '600', '700'], ['600', '700']],
    [900, ['normal', 'bold'], ['bold']],
    [450, ['100 900', '450'], ['100 900', '450']],
    [1000, ['300 900', '700'], ['300 900']],
  ])('%i among %j is written in %j', (weight, all, found) => {
    const faces = all.map((w) => ({ weight: w }));
    expect(facesFor(weight, faces).map((f) => f.weight)).toEqual(found);
  });
});

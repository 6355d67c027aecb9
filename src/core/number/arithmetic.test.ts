import { describe, expect, it } from 'vitest';
import { boundsText, rounded, within, evaluated } from './arithmetic.ts';

describe('what is typed into a number box', () => {
  it.each<[string, number | null]>([
    ['12', 12],
    [' 12.5 ', 12.5],
    ['12,5', 12.5],
    ['.5', 0.5],
    ['-4', -4],
    ['\u22124', -4],
    ['1920/3', 640],
    ['1920 \u00f7 3 + 2 \u00d7 4', 648],
    ['2*(3+4)-1', 13],
    ['10-4-3', 3],
    ['-(2+3)*2', -10],
    ['100/10/2', 5],
    ['+=8', 108],
    ['-=8', 92],
    ['*=1.5', 150],
    ['/=3-1', 50],
    ['+=-8', 92],
    ['', null],
    ['=', null],
    ['abc', null],
    ['1/0', null],
    ['2*(3+4', null],
    ['2)', null],
    ['1 2', null],
    ['1..2', null],
    ['1e3', null],
    ['+= ', null],
    ['constructor', null],
    ['('.repeat(79), null],
    [`1${'+1'.repeat(50_000)}`, null],
  ])('%s is %s', (text, n) => expect(evaluated(text, 100)).toBe(n));

  it('a change needs something to change', () => expect(evaluated('+=8', null)).toBeNull());

  it.each<[number, Parameters<typeof within>[1], number]>([
    [12.4, {}, 12],
    [-0.2, {}, 0],
    [12.46, { decimals: 1 }, 12.5],
    [30, { min: 1, max: 20 }, 20],
    [0, { min: 1 }, 1],
  ])('%d within %o is %d', (n, bounds, as) => expect(Object.is(within(n, bounds), as)).toBe(true));

  it('keeps so many decimals', () => expect(rounded(0.1 + 0.2, 2)).toBe(0.3));

  it.each([
    [{ min: 1, max: 20 }, 'A whole number from 1 to 20.'],
    [{ min: 0.5, decimals: 1 }, 'A number from 0.5.'],
    [{ max: 9 }, 'A whole number up to 9.'],
    [{ decimals: 2 }, 'A number.'],
    [{}, 'A whole number.'],
  ])('%o says %s', (bounds, text) => expect(boundsText(bounds)).toBe(text));
});

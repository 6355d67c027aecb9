import { describe, expect, it } from 'vitest';
import { contrast, moreLegible, parseColour } from '../colour/contrast.ts';
import { fitScale, placeText, sharedScale } from './fit.ts';

describe('fitScale', () => {
  const box = { width: 200, height: 50 };
  it.each([
    [{ width: 100, height: 40 }, 1],
    [{ width: 400, height: 40 }, 0.5],
    [{ width: 100, height: 100 }, 0.5],
    [{ width: 400, height: 200 }, 0.25],
    [{ width: 0, height: 0 }, 1],
  ])('%o fits at %d', (text, scale) => expect(fitScale(text, box)).toBe(scale));
  it('grows up to a larger limit where one is given, and vanishes in an empty box', () => {
    expect(fitScale({ width: 100, height: 10 }, box, 3)).toBe(2);
    expect(fitScale({ width: 10, height: 10 }, { width: 0, height: 50 })).toBe(0);
  });
  it('is one for texts that share it: the smallest', () => {
    const short = { size: { width: 100, height: 40 }, box };
    const long = { size: { width: 300, height: 40 }, box };
    expect(sharedScale([short, long])).toBeCloseTo(2 / 3);
    expect(sharedScale([])).toBe(1);
  });
});

describe('placeText', () => {
  const box = { width: 200, height: 50 };
  const text = { width: 100, height: 40 };
  it.each([
    [{ x: 'left', y: 'top' } as const, { x: 0, y: 0 }],
    [{ x: 'centre', y: 'middle' } as const, { x: 75, y: 15 }],
    [{ x: 'right', y: 'bottom' } as const, { x: 150, y: 30 }],
  ])('%o keeps its point', (anchor, at) => expect(placeText(text, box, anchor, 0.5)).toEqual(at));
});

describe('contrast', () => {
  it('follows WCAG', () => {
    expect(contrast('#000', '#ffffff')).toBeCloseTo(21);
    expect(contrast('#777777', '#ffffff')).toBeCloseTo(4.48, 2);
    expect(parseColour('#12')).toBeNull();
  });
  it.each([
    ['#0f6470', '#fff'],
    ['#e2762b', '#111'],
    ['#ffd23f', '#111'],
    ['#000000', '#fff'],
    ['no colour', '#fff'],
  ])('on %s the ink is %s', (ground, ink) => expect(moreLegible(ground, ['#fff', '#111'])).toBe(ink));
});

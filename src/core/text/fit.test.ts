import { describe, expect, it } from 'vitest';
import { contrast, moreLegible, parseColour } from '../colour/contrast.ts';
import {
  FIT_MODES,
  fitScale,
  placeText,
  sharedScale,
  writeText,
  type FitRules,
  type MeasureRun,
} from './fit.ts';

/** Each sign is 10 px wide, in the second run 20; a line is 40 px high. */
const measure: MeasureRun = (text, run) => text.length * (run === 1 ? 20 : 10);
const rules = (width: number, height: number, more: Partial<FitRules> = {}): FitRules => ({
  mode: 'shrink',
  box: { width, height },
  line: 40,
  least: 0,
  narrowest: 1,
  ...more,
});
const signs = (n: number) => ['x'.repeat(n)];
const words = (lines: { text: string }[][]) => lines.map((l) => l.map((p) => p.text).join(''));

describe('fitScale', () => {
  it.each([
    ['fits as it is', signs(10), rules(200, 50), 1, 1],
    ['by its width', signs(40), rules(200, 50), 0.5, 0.5],
    ['by its height', signs(10), rules(200, 20), 0.5, 0.5],
    ['without content', [''], rules(200, 50), 1, 1],
    ['in an empty box', signs(1), rules(0, 50), 0, 0],
    ['never below the smallest', signs(80), rules(200, 50, { least: 0.5 }), 0.5, 0.5],
    ['with both its runs', ['x'.repeat(10), 'x'.repeat(10)], rules(150, 50), 0.5, 0.5],
    ['narrower first', signs(25), rules(200, 50, { mode: 'condense', narrowest: 0.7 }), 0.8, 1],
    ['narrower, then smaller', signs(80), rules(200, 50, { mode: 'condense', narrowest: 0.5 }), 0.25, 0.5],
    ['cut: as high as it may be', signs(80), rules(200, 20, { mode: 'cut' }), 0.5, 0.5],
  ] as const)('%s', (_, runs, how, x, y) => {
    const scale = fitScale(runs, measure, how);
    expect(scale.x).toBeCloseTo(x, 5);
    expect(scale.y).toBeCloseTo(y, 5);
  });
  it('takes more lines before it is made smaller, and is never smaller than it has to be', () => {
    const wrap = (height: number) =>
      fitScale(['aaaa bbbb cccc'], measure, rules(60, height, { mode: 'wrap' })).y;
    expect(wrap(120)).toBe(1);
    expect(wrap(80)).toBeCloseTo(2 / 3, 2);
    expect(wrap(20)).toBeCloseTo(60 / 140, 2);
  });
  it('is one for texts that share it: the smallest, across and down', () => {
    expect(
      sharedScale([
        { x: 0.5, y: 1 },
        { x: 0.8, y: 0.9 },
      ]),
    ).toEqual({ x: 0.5, y: 0.9 });
    expect(sharedScale([])).toEqual({ x: 1, y: 1 });
  });
});

describe('writeText', () => {
  const written = (runs: readonly string[], how: FitRules) => {
    const { lines, cut } = writeText(runs, measure, how, fitScale(runs, measure, how));
    return { lines: words(lines), cut };
  };
  it.each([
    ['one line of what has several', ['one\ntwo'], rules(200, 50), ['one two'], false],
    ['breaks at spaces', ['aaaa bbbb cccc'], rules(100, 120, { mode: 'wrap' }), ['aaaa bbbb', 'cccc'], false],
    ['breaks where it says so', ['a\n\nb'], rules(100, 120, { mode: 'wrap' }), ['a', '', 'b'], false],
    [
      'not at a space that holds',
      ['aaaa\u00a0bb cc'],
      rules(70, 120, { mode: 'wrap' }),
      ['aaaa\u00a0bb', 'cc'],
      false,
    ],
    [
      'not within a word of two runs',
      ['aa bb', 'cc'],
      rules(70, 120, { mode: 'wrap' }),
      ['aa', 'bbcc'],
      false,
    ],
    ['cuts', ['abcdefghij'], rules(50, 50, { mode: 'cut' }), ['abcd…'], true],
    ['cuts no space before the sign', ['abc defghij'], rules(50, 50, { mode: 'cut' }), ['abc…'], true],
    ['cuts no sign in two', ['ab👩‍👩‍👧cdefg'], rules(40, 50, { mode: 'cut' }), ['ab…'], true],
    ['cuts what is at its smallest', ['abcdefghij'], rules(25, 50, { least: 0.5 }), ['abcd…'], true],
    ['cuts the last line', ['aa bb cc dd'], rules(30, 80, { mode: 'wrap', least: 1 }), ['aa', 'bb…'], true],
    ['nothing but the sign', ['abc'], rules(5, 50, { mode: 'cut' }), ['…'], true],
  ] as const)('%s', (_, runs, how, lines, cut) => expect(written(runs, how)).toEqual({ lines, cut }));
  it('stays within its box, whatever the text and the box', () => {
    let seed = 7;
    const random = (n: number) => (seed = (seed * 1103515245 + 12345) % 2147483648) % n;
    for (let i = 0; i < 400; i++) {
      const runs = Array.from({ length: 1 + random(2) }, () =>
        Array.from({ length: random(60) }, () => 'ab  \n'[random(5)]).join(''),
      );
      const how = rules(20 + random(400), 10 + random(200), {
        mode: FIT_MODES[random(4)]!,
        narrowest: (3 + random(7)) / 10,
      });
      const scale = fitScale(runs, measure, how);
      const { size, cut } = writeText(runs, measure, how, scale);
      // Only what is told to be cut off is.
      if (how.mode !== 'cut') expect(cut).toBe(false);
      expect(size.width * scale.x).toBeLessThanOrEqual(how.box.width + 0.5);
      expect(size.height * scale.y).toBeLessThanOrEqual(how.box.height + 0.5);
      expect(scale.x).toBeLessThanOrEqual(1);
      expect(scale.y).toBeLessThanOrEqual(1);
    }
  });
});

describe('placeText', () => {
  const box = { width: 200, height: 50 };
  const text = { width: 100, height: 40 };
  it.each([
    [{ x: 'left', y: 'top' } as const, { x: 0, y: 0 }],
    [{ x: 'centre', y: 'middle' } as const, { x: 75, y: 15 }],
    [{ x: 'right', y: 'bottom' } as const, { x: 150, y: 30 }],
    // Its base stands 10 px above the text's lower edge: at 40 px down, whatever its scale.
    [{ x: 'left', y: 'base' } as const, { x: 0, y: 25 }],
  ])('%o keeps its point', (anchor, at) =>
    expect(placeText(text, box, anchor, { x: 0.5, y: 0.5 }, 10)).toEqual(at),
  );
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

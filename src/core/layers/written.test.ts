import { describe, expect, it } from 'vitest';
import { boxPath, fadeLine } from './outline.ts';
import { runsOf } from './written.ts';

describe('what a text says', () => {
  it.each([
    [['a', 'b', '', ''], false, ['a', 'b']],
    [['', '', ''], false, ['']],
    [['straße', 'é'], true, ['STRASSE', 'É']],
    // What a feed brings and no font draws is left out; lines and scripts stay.
    [['O\u0000rr\u001bell\u007f\ufffe', 'x\ny\tz'], false, ['Orrell', 'x\ny\tz']],
    [['🥍 שלום é'], false, ['🥍 שלום é']],
  ])('%j (capitals: %s) is %j', (said, upper, runs) => expect(runsOf(said, upper)).toEqual(runs));
});

describe('outlines in px', () => {
  it.each([
    [[100, 50], [0, 0, 0, 0], 0, 'M0 0h100v50h-100v-50Z'],
    [[100, 50], [10, 0, 0, 0], 0, 'M10 0h90v50h-100v-40a10 10 0 0 1 10 -10Z'],
    [[100, 50], [0, 0, 0, 0], 4, 'M4 4h92v42h-92v-42Z'],
    // Corners that would meet are smaller by one share: 60 and 60 on a side of 60.
    [[60, 60], [60, 60, 0, 0], 0, 'M30 0h0a30 30 0 0 1 30 30v30h-60v-30a30 30 0 0 1 30 -30Z'],
    [[10, 10], [3, 3, 3, 3], 5, 'M5 5h0v0h0v0Z'],
  ] as const)('a box of %j with corners of %j, %d within', ([w, h], radii, inset, path) =>
    expect(boxPath(w, h, radii, inset).replaceAll('-0', '0')).toBe(path),
  );

  it.each([
    [90, { from: { x: 0, y: 50 }, to: { x: 200, y: 50 } }],
    [180, { from: { x: 100, y: 0 }, to: { x: 100, y: 100 } }],
    [0, { from: { x: 100, y: 100 }, to: { x: 100, y: 0 } }],
    [45, { from: { x: 25, y: 125 }, to: { x: 175, y: -25 } }],
  ])('a fade at %d degrees runs as in CSS', (angle, line) => {
    const { from, to } = fadeLine(200, 100, angle);
    for (const [point, meant] of [
      [from, line.from],
      [to, line.to],
    ] as const) {
      expect(point.x).toBeCloseTo(meant.x, 6);
      expect(point.y).toBeCloseTo(meant.y, 6);
    }
  });
});

import { describe, expect, it } from 'vitest';
import type { Box } from '../text/fit.ts';
import type { Zone } from './show.ts';
import {
  addedZone,
  along,
  beyondOf,
  common,
  coversAll,
  divided,
  dividedZones,
  grown,
  inParts,
  coverageOf,
  readSizes,
  sameName,
  reordered,
  largestOf,
  sumOf,
} from './zones.ts';

const box = (x: number, y: number, width: number, height: number): Box => ({ x, y, width, height });
const zones = (...boxes: Box[]): Zone[] =>
  boxes.map((b, i) => ({ key: 'abcdefgh'[i]!, name: `Zone ${i}`, letter: '', ...b }));
const area = ({ width, height }: Box) => width * height;

describe('the zones of a board', () => {
  const whole = box(0, 0, 6400, 1200);
  const venue = along(whole, [800, 1400, 2000, 1400, 800], 'across');

  it('are made at once from a list of widths, and lie edge to edge', () => {
    expect(venue.map((b) => b.x)).toEqual([0, 800, 2200, 4200, 5600]);
    const board = { width: 6400, height: 1200, zones: zones(...venue, whole) };
    expect(coverageOf(board)).toEqual({ gaps: [], overlaps: [], outside: [] });
    expect(coversAll(board, whole)).toBe(true);
    expect(largestOf(coverageOf(board).gaps)).toBeNull();
  });

  it('have gaps, overlaps and parts outside, each in numbers', () => {
    const board = {
      width: 1000,
      height: 400,
      zones: zones(box(0, 0, 400, 400), box(350, 100, 250, 200), box(900, 300, 200, 100)),
    };
    expect(coverageOf(board)).toEqual({
      gaps: [box(400, 0, 600, 100), box(600, 100, 400, 200), box(400, 300, 500, 100)],
      overlaps: [{ zones: ['a', 'b'], box: box(350, 100, 50, 200) }],
      outside: ['c'],
    });
    expect(board.zones.map((z) => beyondOf(board, z).right)).toEqual([0, 0, 100]);
    expect(beyondOf(board, box(-50, 390, 20, 30))).toEqual({ left: 20, right: 0, top: 0, bottom: 20 });
    expect(largestOf(coverageOf(board).gaps)).toEqual(box(600, 100, 400, 200));
    expect(coverageOf({ ...board, zones: zones(box(0, 0, 1000, 400)) }).gaps).toEqual([]);
    expect(coverageOf({ ...board, zones: [] }).gaps).toEqual([box(0, 0, 1000, 400)]);
  });

  it('leave as gaps just what a count of px says', () => {
    let seed = 5;
    const random = (below: number) => (seed = (seed * 48_271) % 2_147_483_647) % below;
    for (let i = 0; i < 300; i++) {
      const [width, height] = [1 + random(12), 1 + random(12)];
      const some = zones(
        ...Array.from({ length: random(6) }, () =>
          box(random(14) - 3, random(14) - 3, 1 + random(8), 1 + random(8)),
        ),
      );
      const { gaps, overlaps } = coverageOf({ width, height, zones: some });
      const parts = some.filter((z) => !coversAll({ width, height }, z));
      const counted = parts.length ? parts : some;
      for (let x = 0; x < width; x++)
        for (let y = 0; y < height; y++) {
          const at = box(x, y, 1, 1);
          const free = counted.every((z) => !common(z, at));
          expect(gaps.filter((g) => common(g, at))).toHaveLength(free ? 1 : 0);
        }
      const pairs = parts.flatMap((a, n) => parts.slice(n + 1).filter((b) => common(a, b)));
      expect(overlaps).toHaveLength(pairs.length);
    }
  });

  it.each<[string, Box[], string, Box]>([
    [
      'to both neighbours and both edges',
      [box(0, 0, 200, 400), box(300, 50, 10, 10), box(800, 0, 200, 400)],
      'b',
      box(200, 0, 600, 400),
    ],
    ['into all of an empty canvas', [box(10, 10, 1, 1)], 'a', box(0, 0, 1000, 400)],
    ['past what is for takeovers', [box(0, 0, 1000, 400), box(10, 10, 1, 1)], 'b', box(0, 0, 1000, 400)],
    [
      'not where another stands',
      [box(0, 0, 500, 200), box(500, 0, 500, 200), box(0, 300, 100, 50)],
      'c',
      box(0, 200, 1000, 200),
    ],
    ['and keeps what it overlaps', [box(0, 0, 500, 400), box(400, 0, 200, 400)], 'b', box(400, 0, 600, 400)],
    ['and what is outside', [box(-50, 0, 100, 400)], 'a', box(-50, 0, 1050, 400)],
  ])('grow into what is left: %s', (_, boxes, key, is) =>
    expect(grown({ width: 1000, height: 400, zones: zones(...boxes) }, key)).toEqual(is),
  );

  it.each([
    [1000, 3, [334, 333, 333]],
    [6400, 5, [1280, 1280, 1280, 1280, 1280]],
    [7, 4, [2, 2, 2, 1]],
  ])('divide %d px in %d', (width, count, sizes) => {
    const across = inParts(box(5, 7, width, 40), count, 'across');
    expect(across.map((b) => b.width)).toEqual(sizes);
    expect(across.reduce((sum, b) => sum + area(b), 0)).toBe(width * 40);
    const down = inParts(box(7, 5, 40, width), count, 'down');
    expect(down.map((b) => [b.y, b.height])).toEqual(across.map((b) => [b.x, b.width]));
  });

  it.each<[string, number[] | RegExp]>([
    ['800, 1400, 2000, 1400, 800', [800, 1400, 2000, 1400, 800]],
    ['800;800 ; 6400/4', [800, 800, 1600]],
    ['  10 20\t30 ', [10, 20, 30]],
    ['800+1400', [2200]],
    ['800px, 1400 PX 20px', /is no size/],
    ['800px; 1400 PX', [800, 1400]],
    ['10px 20px', [10, 20]],
    ['px', /“px” is no size/],
    ['', /Type a size/],
    ['800, wide', /“wide” is no size/],
    ['800, 0', /“0” is no size/],
    ['10/3, 5', /“10\/3” is no size/],
    ['20000', /no size/],
    ['1,'.repeat(101), /more than 100/],
  ])('are read from a list of sizes: %j', (text, is) => {
    const read = readSizes(text);
    if (is instanceof RegExp) expect(read).toMatch(is);
    else expect(read).toEqual(is);
  });

  it('take the boxes of a division: the whole board, or one of them', () => {
    const over = { key: 'over', name: 'Takeover', letter: '', ...whole };
    const said = (list: Zone[]) => list.map((z) => `${z.key} ${z.x} ${z.width}`);
    const board = {
      width: 6400,
      height: 1200,
      zones: [...zones(box(0, 0, 10, 10), box(5, 0, 10, 10)), over],
    };
    expect(said(divided(board, null, venue, 'across'))).toEqual([
      'a 0 800',
      'b 800 1400',
      'zone-2 2200 2000',
      'zone-3 4200 1400',
      'zone-4 5600 800',
      'over 0 6400',
    ]);
    // Fewer boxes than zones: one that is over goes, unless it is used.
    expect(said(divided(board, null, [whole], 'across'))).toEqual(['a 0 6400', 'over 0 6400']);
    expect(said(divided(board, null, [whole], 'across', (key) => key === 'b'))).toEqual([
      'a 0 6400',
      'b 5 10',
      'over 0 6400',
    ]);
    expect(said(divided(board, 'a', inParts(box(0, 0, 10, 10), 2, 'across'), 'across'))).toEqual([
      'a 0 5',
      'zone-2 5 5',
      'b 5 10',
      'over 0 6400',
    ]);
    expect(said(divided({ ...board, zones: [] }, null, venue, 'across'))).toHaveLength(5);
    // The one zone of a new board is its first part.
    const first = divided(
      { ...board, zones: [{ ...over, key: 'zone-1', name: 'Zone 1' }] },
      null,
      venue,
      'across',
    );
    expect(first.map((z) => z.key)).toEqual(['zone-1', 'zone-2', 'zone-3', 'zone-4', 'zone-5']);
    expect(sumOf({ ...board, zones: [...first, over] }, 'across')).toBe(6400);
    expect(sumOf({ ...board, zones: first }, 'down')).toBeNull();
    // What is added stands in what is left, and over all of it where nothing is.
    expect(addedZone({ ...board, zones: first.slice(0, 4) })).toMatchObject({
      name: 'Zone 5',
      x: 5600,
      width: 800,
    });
    const full = { ...board, zones: first };
    expect(addedZone(full)).toMatchObject({ key: 'zone-6', name: 'Takeover', x: 0, width: 6400 });
    expect(addedZone({ ...full, zones: [...first, addedZone(full)] })).toMatchObject({ name: 'Zone 7' });
  });

  it('keep their places when they are divided again, by where they stand, and are called what was typed', () => {
    const swapped = { width: 100, height: 10, zones: zones(box(50, 0, 50, 10), box(0, 0, 50, 10)) };
    const named = inParts(box(0, 0, 100, 10), 3, 'across').map((b, i) => ({
      ...b,
      ...(i ? { name: `N${i}` } : {}),
    }));
    expect(divided(swapped, null, named, 'across').map((z) => `${z.key} ${z.name} ${z.x}`)).toEqual([
      'b Zone 1 0',
      'a N1 34',
      'zone-2 N2 67',
    ]);
    expect(dividedZones(swapped, null, 'down').map((z) => z.key)).toEqual(['b', 'a']);
    expect([sameName(swapped.zones), sameName([{ name: 'Left' }, { name: ' LEFT' }])]).toEqual([
      null,
      ' LEFT',
    ]);
  });

  it('have an order from back to front', () => {
    const three = zones(...inParts(whole, 3, 'across'));
    const keys = (key: string, to: number) =>
      reordered(three, key, to)
        .map((z) => z.key)
        .join('');
    expect([keys('a', 2), keys('c', 0), keys('b', 1), keys('x', 0)]).toEqual(['bca', 'cab', 'abc', 'abc']);
  });
});

import type { Page } from '@playwright/test';
import { expect, test } from './support/test.ts';
import sharp from 'sharp';
import type { Layer, LayerProps } from '../src/core/layers/kinds.ts';
import { contentsOf } from '../src/core/layers/kinds.ts';
import type { AirItem } from '../src/core/wire/wire.ts';
import { openStage } from './support/stage-page.ts';

/** How layers are drawn, by the pixels and the boxes that come of it: the stage alone, without a server. */
test.use({ viewport: { width: 800, height: 400 } });

const at = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });
const layer = (kind: Layer['kind'], id: string, more: object): Layer =>
  ({ id, kind, name: id, ...more }) as unknown as Layer;

const item = (layers: Layer[], states: Record<string, LayerProps> = {}): AirItem => ({
  mount: 'm',
  zone: 'z',
  item: 'i',
  template: 't',
  box: at(0, 0, 800, 400),
  level: 0,
  layout: { key: 'l', width: 800, height: 400, layers },
  states,
});

const draw = (page: Page, layers: Layer[], states: Record<string, LayerProps> = {}) =>
  openStage(page, item(layers, states));

/** The colours of pixels as they are seen, over white, as `rrggbb`. */
async function colours(page: Page, ...points: [number, number][]): Promise<string[]> {
  await page.evaluate(() => {
    document.body.style.margin = '0';
    return new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
  });
  const shot = sharp(await page.screenshot());
  const { data, info } = await shot.removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return points.map(([x, y]) =>
    Buffer.from(data.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3)).toString('hex'),
  );
}

test('shapes: fades, borders, corners of their own, diamonds, polygons and free paths', async ({ page }) => {
  await draw(page, [
    layer('shape', 'fade', { ...at(0, 0, 100, 100), fill: '#ff0000', fillTo: '#0000ff', fillAngle: 90 }),
    layer('shape', 'border', {
      ...at(110, 0, 100, 100),
      fill: '#00ff00',
      border: 10,
      borderColour: '#0000ff',
    }),
    layer('shape', 'corner', {
      ...at(220, 0, 100, 100),
      fill: '#ff0000',
      corners: 'each',
      radius: 50,
      radiusBottomRight: 0,
    }),
    layer('shape', 'diamond', { ...at(330, 0, 100, 100), shape: 'diamond', fill: '#ff0000' }),
    layer('shape', 'polygon', {
      ...at(440, 0, 100, 100),
      shape: 'polygon',
      points: '0,0 100,100 0,100',
      fill: '#ff0000',
      border: 10,
      borderColour: '#0000ff',
    }),
    layer('shape', 'path', {
      ...at(550, 0, 200, 100),
      shape: 'path',
      path: 'M0 0H50V100H0Z',
      fill: '#ff0000',
    }),
    layer('shape', 'no path', {
      ...at(0, 200, 100, 100),
      shape: 'path',
      path: '"/><script>',
      fill: '#ff0000',
    }),
    layer('shape', 'shadow', {
      ...at(200, 200, 100, 100),
      fill: '#ffffff',
      shadow: '#0000ff',
      shadowX: 50,
      shadowY: 0,
      shadowBlur: 0,
    }),
  ]);
  const [left, right, edge, inside, round, sharpEdge, tip, middle, below, above, stroke, filled, empty] =
    await colours(
      page,
      [5, 50],
      [95, 50],
      [113, 50],
      [160, 50],
      [222, 2],
      [318, 97],
      [333, 3],
      [380, 50],
      [455, 80],
      [530, 20],
      [490, 50],
      [600, 50],
      [700, 50],
    );
  expect(left).toMatch(/^f[0-9a-f]000[0-9a-f]/);
  expect(right).toMatch(/^0[0-9a-f]00f/);
  expect({ edge, inside, round, sharpEdge, tip, middle, below, above, stroke, filled, empty }).toEqual({
    edge: '0000ff',
    inside: '00ff00',
    round: 'ffffff',
    sharpEdge: 'ff0000',
    tip: 'ffffff',
    middle: 'ff0000',
    below: 'ff0000',
    above: 'ffffff',
    stroke: '0000ff',
    filled: 'ff0000',
    empty: 'ffffff',
  });
  expect(await colours(page, [50, 250], [320, 250])).toEqual(['ffffff', '0000ff']);
});

test('a mask: where another layer is, where it is not, by its brightness, turned; edges that fade', async ({
  page,
}) => {
  const mask = (id: string, more: object) => layer('shape', id, { fill: '#000000', shows: false, ...more });
  const red = (id: string, box: object, more: object) =>
    layer('shape', id, { ...box, fill: '#ff0000', ...more });
  await draw(page, [
    mask('round', { ...at(0, 0, 100, 100), shape: 'ellipse' }),
    red('in', at(0, 0, 100, 100), { mask: 'round' }),
    mask('hole', { ...at(150, 40, 20, 20) }),
    red('out', at(110, 0, 100, 100), { mask: 'hole', maskInvert: true }),
    mask('dim', { ...at(220, 0, 100, 100), fill: '#808080' }),
    red('grey', at(220, 0, 100, 100), { mask: 'dim', maskBy: 'brightness' }),
    mask('turned', { ...at(370, 0, 20, 100), rotation: 90 }),
    red('flat', at(330, 0, 100, 100), { mask: 'turned' }),
    red('soft', at(440, 0, 100, 100), { softLeft: 50, softBottom: 20 }),
    layer('group', 'group', {
      ...at(600, 100, 100, 100),
      mask: 'far',
      layers: [red('inner', at(0, 0, 100, 100), {})],
    }),
    mask('far', at(650, 150, 200, 200)),
    red('lost', at(0, 200, 50, 50), { mask: 'nobody' }),
  ]);
  const [red100, none] = ['ff0000', 'ffffff'];
  expect(await colours(page, [50, 50], [3, 3], [115, 50], [160, 50])).toEqual([red100, none, red100, none]);
  expect(await colours(page, [380, 50], [380, 5], [335, 50])).toEqual([red100, none, red100]);
  expect(await colours(page, [610, 110], [690, 190], [20, 220])).toEqual([none, red100, red100]);
  const [grey, faint, full, low] = await colours(page, [270, 50], [445, 50], [510, 50], [510, 97]);
  const greenOf = (c: string | undefined) => parseInt(c!.slice(2, 4), 16);
  // The luminance of sRGB 0x80 is 0.216 where it is counted linearly and 0.5 where it is not; a browser may do either.
  expect(greenOf(grey)).toBeGreaterThan(90);
  expect(greenOf(grey)).toBeLessThan(220);
  expect(greenOf(faint)).toBeGreaterThan(200);
  expect(full).toBe(red100);
  expect(greenOf(low)).toBeGreaterThan(180);
  // The hole moves, and what shows only where it is not goes with it.
  await page.evaluate(() =>
    window.stage.perform([{ op: 'layers', deltas: [{ mount: 'm', layer: 'hole', props: { x: 112 } }] }]),
  );
  expect(await colours(page, [160, 50], [120, 50])).toEqual([red100, none]);
});

test('bases and outs from five lamps, in all combinations', async ({ page }) => {
  const bases = {
    ...at(0, 0, 120, 80),
    by: 'each',
    of: 3,
    direction: 'placed',
    spots: '80,60 50,20 20,60',
    lampSize: 30,
    shape: 'diamond',
  };
  await draw(page, [
    layer('pips', 'bases', bases),
    layer('pips', 'outs', { ...at(0, 100, 60, 20), of: 2, shape: 'dot', direction: 'row', gap: 10 }),
  ]);
  const on = (id: string) =>
    page
      .locator(`[data-id="${id}"] i`)
      .evaluateAll((all) => all.map((l) => (l.getAttribute('data-on') === 'true' ? '1' : '0')).join(''));
  for (let n = 0; n < 24; n++) {
    const lamps = [n & 1, (n >> 1) & 1, (n >> 2) & 1];
    const outs = Math.floor(n / 8);
    await page.evaluate(
      ([props, count]) =>
        window.stage.perform([
          {
            op: 'layers',
            deltas: [
              { mount: 'm', layer: 'bases', props },
              { mount: 'm', layer: 'outs', props: { count } },
            ],
          },
        ] as never),
      [{ lamp1: lamps[0] === 1, lamp2: lamps[1] === 1, lamp3: lamps[2] === 1 }, outs] as const,
    );
    expect(await on('bases')).toBe(lamps.join(''));
    expect(await on('outs')).toBe('1'.repeat(outs).padEnd(2, '0'));
  }
  // Each stands where it is placed, and round ones are round.
  const boxes = await page
    .locator('i')
    .evaluateAll((all) => all.map((l) => l.getBoundingClientRect().toJSON() as DOMRect));
  const origin = (await page.locator('[data-id="bases"]').boundingBox())!;
  expect(boxes.slice(0, 3).map((b) => [b.x + 15 - origin.x, b.y + 15 - origin.y].map(Math.round))).toEqual([
    [96, 48],
    [60, 16],
    [24, 48],
  ]);
  expect([boxes[3]!.width, boxes[3]!.height]).toEqual([20, 20]);
});

test('a text stays in its box in every way of fitting; parts have their own styles; sets share a scale', async ({
  page,
}) => {
  const type = { font: 'sans-serif', size: 40, weight: 400 };
  const long = 'The Thornmere Herons of the Granite Shed';
  const text = (id: string, y: number, more: object) =>
    layer('text', id, { ...at(10, y, 300, 50), ...type, text: long, ...more });
  await draw(page, [
    text('shrink', 0, { marginX: 20 }),
    text('condense', 60, { fit: 'condense', narrowest: 0.5 }),
    text('wrap', 120, { fit: 'wrap', height: 60 }),
    text('cut', 190, { fit: 'cut', upper: true }),
    text('least', 250, { least: 30 }),
    text('base', 310, { anchorY: 'base' }),
    text('short', 310, { ...at(400, 310, 300, 50), text: 'Herons', anchorY: 'base' }),
    text('one', 0, { ...at(400, 0, 200, 50), text: 'Herons', fitWith: 'names' }),
    text('two', 60, { ...at(400, 60, 200, 50), text: 'Thornmere Herons', fitWith: 'names' }),
    text('parts', 120, {
      ...at(400, 120, 200, 50),
      text: 'Rudd ',
      text2: '#7',
      size2: 0.5,
      weight2: 700,
      colour2: '#ff0000',
      text3: '',
    }),
  ]);
  const seen = await page.evaluate(() =>
    Object.fromEntries(
      [...document.querySelectorAll<HTMLElement>('[data-id]')].map((el) => {
        const span = el.querySelector('span')!;
        const [outer, inner] = [el.getBoundingClientRect(), span.getBoundingClientRect()];
        return [
          el.dataset['id']!,
          {
            text: span.textContent,
            rows: span.querySelectorAll('div').length,
            scale: span.style.transform.replace(/.*scale\(([^)]*)\).*/, '$1'),
            left: inner.left - outer.left,
            over: Math.max(inner.right - outer.right, outer.left - inner.left, inner.bottom - outer.bottom),
          },
        ];
      }),
    ),
  );
  for (const [id, { over }] of Object.entries(seen)) expect(over, id).toBeLessThan(id === 'base' ? 4 : 1);
  const share = (id: string) => seen[id]!.scale.split(', ').map(Number);
  expect(seen['shrink']!.left).toBeCloseTo(20, 0);
  expect(seen['shrink']!.text).toBe(long);
  expect(share('condense')).toHaveLength(2);
  expect(share('condense')[0]! / share('condense')[1]!).toBeCloseTo(0.5, 1);
  expect(seen['wrap']!.rows).toBeGreaterThan(1);
  expect(share('wrap')[0]!).toBeGreaterThan(share('shrink')[0]!);
  expect(seen['cut']!.text).toMatch(/^THE THORN.*…$/);
  expect(seen['least']!.text).toMatch(/…$/);
  expect(share('least')[0]!).toBeCloseTo(0.75, 2);
  expect(seen['one']!.scale).toBe(seen['two']!.scale);
  expect(share('one')[0]!).toBeLessThan(1);
  const [first, second] = await page.evaluate(() => {
    const [a, b] = [
      document.querySelector('[data-id="parts"] div')!,
      document.querySelector('[data-id="parts"] div span')!,
    ];
    return [getComputedStyle(a).fontSize, getComputedStyle(b).fontSize, getComputedStyle(b).color];
  });
  expect([first, second]).toEqual(['40px', '20px']);
  // A long name stands on the same base line as a short one.
  const bases = await page.evaluate(() =>
    ['base', 'short'].map((id) => {
      const span = document.querySelector(`[data-id="${id}"] span`)!;
      const mark = document.createElement('i');
      Object.assign(mark.style, { display: 'inline-block', width: '0', height: '0' });
      span.append(mark);
      return mark.getBoundingClientRect().bottom;
    }),
  );
  expect(bases[0]).toBeCloseTo(bases[1]!, 0);
});

test('every property of every kind that draws can be left out', async ({ page }) => {
  // What the layer does not say is its first content, in the page as in the core.
  const layers = (['text', 'clock', 'shape', 'picture', 'pips', 'group', 'one-of', 'line'] as const).map(
    (kind) =>
      layer(kind, kind, {
        ...at(0, 0, 10, 10),
        ...(kind === 'text' || kind === 'clock' ? { font: 'x', size: 10 } : {}),
        ...(kind === 'group' || kind === 'one-of' ? { layers: [] } : {}),
        ...(kind === 'clock' ? { clock: { field: 'clock.game' } } : {}),
      }),
  );
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  await draw(page, layers);
  await expect(page.locator('[data-id]')).toHaveCount(8);
  expect(errors).toEqual([]);
  expect(contentsOf(layers[2]!)['fill']).toBe('#808080');
});

/** A picture's pixels, and how many of two pictures' differ by more than what smoothing an edge does. */
const pixels = async (page: Page) =>
  sharp(await page.screenshot())
    .removeAlpha()
    .raw()
    .toBuffer();
const differing = (a: Buffer, b: Buffer) =>
  a.reduce((sum, level, i) => sum + (Math.abs(level - b[i]!) > 40 ? 1 : 0), 0) / 3;

for (const from of ['left', 'right', 'top', 'bottom'] as const)
  test(`a wipe from the ${from} shows what a growing clip would, of all that is in it, and clips nothing afterwards`, async ({
    page,
  }) => {
    const wipe = { kind: 'wipe', ms: 400, from };
    const moments = { enter: wipe, exit: wipe };
    const face = { font: 'Barlow Condensed', weight: 700, size: 60, colour: '#0000ff' };
    const shown = [
      layer('group', 'turned', {
        ...at(60, 60, 300, 160),
        ...{ rotation: 12, moments },
        layers: [
          layer('shape', 'beyond', { ...at(-30, -20, 200, 120), fill: '#ff0000', fillTo: '#00ff00' }),
          layer('text', 'said', { ...at(20, 60, 260, 80), ...face, text: 'Made up' }),
        ],
      }),
      layer('shape', 'leaning', { ...at(420, 40, 300, 120), fill: '#0000ff', slant: 15, moments }),
      layer('text', 'line', { ...at(420, 200, 300, 100), ...face, text: 'Another', moments }),
      layer('shape', 'masked', { ...at(60, 260, 200, 120), fill: '#00ff00', softLeft: 40, moments }),
    ];
    const one = item(shown, {});
    await draw(page, shown);
    await page.evaluate(() => (document.body.style.margin = '0'));
    const whole = await pixels(page);
    for (const moment of ['enter', 'exit'] as const) {
      await page.evaluate((m) => window.stage.pose(m, 160), moment);
      const clipped = await pixels(page);
      expect(differing(clipped, whole)).toBeGreaterThan(4000);
      const drawn = await page.evaluate(
        ([given, m]) => {
          window.stage.pose(null);
          window.stage.clear('m', false);
          window.stage.take(given as never, m === 'enter');
          if (m === 'exit') window.stage.clear('m', true);
          for (const animation of document.getAnimations()) {
            animation.pause();
            animation.currentTime = 160;
          }
          return [...document.querySelectorAll<HTMLElement>('#stage > div > div')].map((el) => {
            const { overflow, clipPath } = getComputedStyle(el);
            return `${overflow} ${clipPath === 'none' ? 'open' : 'cut'}`;
          });
        },
        [one, moment] as const,
      );
      expect(drawn).toEqual(['clip open', 'clip open', 'clip open', 'visible cut']);
      const shifted = await pixels(page);
      // What is turned is a little softer while it moves.
      expect(differing(clipped, shifted)).toBeLessThan(1200);
      await page.evaluate((given) => {
        for (const animation of document.getAnimations()) animation.finish();
        window.stage.clear('m', false);
        window.stage.take(given as never, true);
        for (const animation of document.getAnimations()) animation.finish();
      }, one);
      expect(differing(await pixels(page), whole)).toBe(0);
    }
  });

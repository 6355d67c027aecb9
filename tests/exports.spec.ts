import { readFile } from 'node:fs/promises';
import type { Locator } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import sharp from 'sharp';
import { button } from './support/page.ts';
import { newTemplate } from './support/sheet.ts';
import { layersIn } from './support/snapshot.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

const at = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });
const NAME = { kind: 'text', font: 'Barlow Condensed', weight: 600 };
/** Something of each that a drawing can keep, in its hardest form. */
const ALL = [
  { ...at(0, 0, 800, 300), kind: 'shape', fill: '#102030', fillTo: '#c8283c', fillAngle: 60 },
  { ...at(20, 20, 120, 90), kind: 'shape', fill: '#3a7', border: 8, borderColour: '#fff', rotation: 12 },
  {
    ...at(170, 20, 120, 90),
    ...{ kind: 'shape', fill: '#eee8', corners: 'each', radius: 60, radiusTopRight: 200, slant: 14 },
  },
  {
    ...at(320, 20, 90, 90),
    kind: 'shape',
    shape: 'polygon',
    points: '0,0 100,40 20,100',
    fill: '#fc3',
    border: 4,
  },
  { ...at(430, 20, 120, 90), kind: 'shape', shape: 'ellipse', fill: '#06c', shadow: '#000c', shadowX: 10 },
  {
    ...at(20, 130, 160, 60),
    ...NAME,
    size: 48,
    text: 'Jöhn <&>\u0001',
    text2: ' 7',
    colour2: '#fc3',
    outline: 3,
  },
  {
    ...at(200, 130, 120, 60),
    ...NAME,
    size: 60,
    text: 'Condensed a lot',
    fit: 'condense',
    anchorY: 'middle',
  },
  { ...at(340, 130, 120, 60), ...NAME, size: 26, text: 'one two three four', fit: 'wrap', anchorX: 'right' },
  { ...at(480, 130, 140, 60), ...NAME, size: 40, text: 'כהן 12', font: 'Rubik', rotation: -8, opacity: 0.7 },
  { ...at(20, 210, 200, 30), kind: 'pips', of: 5, count: 3, shape: 'diamond', gap: 6 },
  {
    ...at(240, 200, 80, 80),
    ...{
      kind: 'pips',
      of: 3,
      by: 'each',
      lamp2: true,
      direction: 'placed',
      spots: '50,10 90,50 10,50',
      shape: 'dot',
    },
  },
  {
    ...at(340, 205, 160, 80),
    kind: 'picture',
    picture: 'marks/herons',
    fit: 'cover',
    anchorY: 'top',
    softLeft: 60,
  },
  { ...at(520, 205, 90, 80), kind: 'shape', id: 'hole', shape: 'diamond', fill: '#fff', shows: false },
  { ...at(510, 200, 110, 90), kind: 'shape', fill: '#fff', mask: 'hole', maskInvert: true },
  {
    ...at(640, 20, 140, 260),
    ...{ kind: 'group', clip: true, rotation: 5 },
    layers: [
      { ...at(-40, -30, 100, 100), kind: 'shape', fill: '#fc3' },
      {
        ...at(60, 120, 200, 60),
        kind: 'line',
        fromX: 0,
        fromY: 10,
        toX: 200,
        toY: 60,
        thickness: 9,
        dash: '20 8',
      },
      {
        ...at(0, 180, 140, 80),
        kind: 'one-of',
        which: 'b',
        layers: [
          { ...at(0, 0, 140, 80), kind: 'shape', fill: '#f00', id: 'a', name: 'a', member: 'a' },
          { ...at(0, 0, 140, 40), kind: 'shape', fill: '#0c8', id: 'b', name: 'b', member: 'b' },
        ],
      },
    ],
  },
];
const named = (list: object[], stem: string): object[] =>
  list.map((l, i) => ({
    id: `${stem}${i}`,
    name: `${stem} ${i}`,
    ...l,
    ...('layers' in l ? { layers: named(l.layers as object[], `${stem}${i}-`) } : {}),
  }));

/** What a button of the export dialog gives. */
async function exported(dialog: Locator, name: RegExp): Promise<Buffer> {
  const [file] = await Promise.all([
    dialog.page().waitForEvent('download'),
    dialog.getByRole('button', { name }).click(),
  ]);
  return readFile(await file.path());
}

test('a layout as an SVG drawing looks as its picture does, carries its fonts and comes back in', async ({
  page,
}) => {
  const body = {
    ...{ schema: 3, key: 'all-kinds', name: 'All kinds', inputs: [] },
    layouts: [{ key: 'main', width: 800, height: 300, layers: named(ALL, 'l') }],
  };
  expect(await world.act({ kind: 'put-document', what: 'template', body, revision: 0 })).toMatchObject({
    ok: true,
  });
  await page.goto(`${world.url}/templates/all-kinds`);
  await expect(page.locator('[data-picture="workshop"] img')).toBeVisible();
  await button(page, 'Export…').click();
  const dialog = page.getByRole('dialog', { name: 'Export' });
  const png = await exported(dialog, /^Picture of main/);
  const drawing = await exported(dialog, /^Drawing of main, SVG/);
  await expect(dialog.getByRole('status')).toHaveText('Done: it is among your downloads.');
  // It needs nothing of anywhere, and no more of the fonts than is written in.
  const text = drawing.toString();
  expect([...text.matchAll(/(?:href|src)="?:?(?!data:)(https?:|\/)/g)]).toEqual([]);
  const families = [...text.matchAll(/@font-face\{font-family:"([^"]+)";font-weight:([^;]+);/g)];
  const faces = new Set(families.map(([, family, weight]) => `${family} ${weight}`));
  expect([...faces].sort()).toEqual([
    'Barlow Condensed 400',
    'Barlow Condensed 600',
    'Rubik Variable 300 900',
  ]);

  const plain = await page.context().newPage();
  await plain.setViewportSize({ width: 800, height: 300 });
  await plain.setContent(
    `<body style="margin:0"><img src="data:image/svg+xml;base64,${drawing.toString('base64')}">`,
  );
  await plain.locator('img').evaluate((image: HTMLImageElement) => image.decode());
  const seen = (picture: Buffer) =>
    sharp(picture).flatten({ background: '#777' }).resize(400, 150).raw().toBuffer();
  const shot = await plain.screenshot({ omitBackground: true });
  const [a, b] = await Promise.all([seen(png), seen(shot)]);
  let far = 0;
  for (let i = 0; i < a.length; i++) if (Math.abs(a[i]! - b[i]!) > 40) far++;
  // The edges of letters may differ by a part of a pixel.
  expect(far / a.length).toBeLessThan(0.003);

  // A drawing program may have it, and give it back.
  await newTemplate(page, world, 'Back', [800, 300]);
  await page
    .getByLabel('Files to bring in')
    .setInputFiles({ name: 'back.svg', mimeType: 'image/svg+xml', buffer: drawing });
  await page
    .getByRole('dialog', { name: 'Bring in back.svg' })
    .getByRole('button', { name: /^Bring in/ })
    .click();
  await expect(page.getByRole('row', { name: /^l 14/ })).toBeVisible();
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  const back = new Map((await layersIn(world, 'back')).map((l) => [l.name, l]));
  expect(back.get('l 1')).toMatchObject({
    kind: 'shape',
    fill: '#33aa77',
    border: 8,
    borderColour: '#ffffff',
  });
  expect(back.get('l 4')).toMatchObject({ kind: 'shape', shape: 'ellipse', ...at(430, 20, 120, 90) });
});

test('a bar and a corner of see-through pieces are exported to the pixel', async ({ page }) => {
  const piece = (width: number, height: number, drawn: string) =>
    sharp(
      Buffer.from(
        `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">${drawn}</svg>`,
      ),
    )
      .png()
      .toBuffer();
  const fade =
    '<linearGradient id="f"><stop stop-color="#0a5"/><stop offset="1" stop-color="#0a5" stop-opacity="0"/></linearGradient>';
  const pieces: Record<string, { png: Buffer; places: [number, number][]; width: number; height: number }> = {
    'piece plate.png': {
      ...{
        width: 300,
        height: 60,
        png: await piece(300, 60, `${fade}<rect width="300" height="60" rx="20" fill="url(#f)"/>`),
      },
      places: [
        [40, 20],
        [360, 20],
      ],
    },
    'piece badge.png': {
      ...{
        width: 48,
        height: 48,
        png: await piece(48, 48, '<circle cx="24" cy="24" r="22" fill="#fc3" fill-opacity=".6"/>'),
      },
      places: [
        [30, 26],
        [630, 26],
      ],
    },
  };
  for (const [name, width, height, down] of [
    ['Bar of pieces', 700, 100, 0],
    ['Corner of pieces', 700, 240, 120],
  ] as const) {
    await newTemplate(page, world, name, [width, height]);
    const all: { input: Buffer; left: number; top: number }[] = [];
    for (const [file, { png, places, ...size }] of Object.entries(pieces))
      for (const [x, y] of places) {
        const rows = page.locator(`[data-layer-row^="${file}"]`);
        const before = await rows.count();
        await page
          .getByLabel('Files to bring in')
          .setInputFiles({ name: file, mimeType: 'image/png', buffer: png });
        await expect(rows).toHaveCount(before + 1);
        const properties = page.getByRole('complementary', { name: 'Properties' });
        const numbers = {
          'From the left': x,
          'From the top': `${y}+${down}`,
          Width: size.width,
          Height: size.height,
        };
        for (const [label, value] of Object.entries(numbers)) {
          await properties.getByRole('textbox', { name: label, exact: true }).fill(String(value));
          await page.keyboard.press('Enter');
        }
        all.push({ input: png, left: x, top: y + down });
      }
    await button(page, 'Export…').click();
    const dialog = page.getByRole('dialog', { name: 'Export' });
    const mine = await exported(dialog, /^Picture of main/);
    await button(dialog, 'Close').click();
    const blank = { width, height, channels: 4 as const, background: { r: 0, g: 0, b: 0, alpha: 0 } };
    const theirs = await sharp({ create: blank }).composite(all).png().toBuffer();
    const [a, b] = await Promise.all([mine, theirs].map((p) => sharp(p).ensureAlpha().raw().toBuffer()));
    expect(a!.length).toBe(b!.length);
    // Straight alpha: where nearly nothing is seen, its colour is a matter of rounding.
    let far = 0;
    for (let i = 0; i < a!.length; i += 4) {
      const [seen, meant] = [a!.subarray(i, i + 4), b!.subarray(i, i + 4)];
      if (Math.abs(seen[3]! - meant[3]!) > 2) far++;
      else if (meant[3]! > 40 && [0, 1, 2].some((c) => Math.abs(seen[c]! - meant[c]!) > 5)) far++;
    }
    expect(far).toBe(0);
  }
});

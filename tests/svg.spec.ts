import { readFile } from 'node:fs/promises';
import { expect, test, type Locator, type Page } from '@playwright/test';
import sharp from 'sharp';
import { layersOf, type Layer } from '../src/core/layers/kinds.ts';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { button } from './support/page.ts';
import { newTemplate } from './support/sheet.ts';
import { snapshot } from './support/snapshot.ts';
import { World } from './support/world.ts';

let world: World;
test.beforeAll(async () => {
  world = await World.start();
});
test.afterAll(async () => {
  await world.stop();
});
test.use({ viewport: { width: 1280, height: 800 } });

const SHAPES = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"
  xmlns:odd="urn:odd" viewBox="10 20 800 200" width="90mm">
<defs><linearGradient id="g"><stop stop-color="#102030"/><stop offset="1" stop-color="rgb(200,40,60)"/></linearGradient>
<circle id="dot" r="9" fill="gold"/></defs>
<style>.pale { fill: #f6f1e7; fill-opacity: .5 }</style>
<g odd:label="Plate" transform="translate(10 20)">
<rect width="800" height="200" rx="14" fill="url(#g)"/>
<g transform="rotate(-8 60 60)"><rect id="leaning" x="20" y="30" width="80" height="60" style="fill:#33aa77;stroke:#fff;stroke-width:4"/></g>
<g transform="translate(150 20) scale(1.5 1)"><path d="M0 0 l30 80 h-60 z" class="pale"/><ellipse cx="70" cy="40" rx="20" ry="30" fill="#52c8ff"/></g>
<use xlink:href="#dot" x="330" y="40"/><polygon points="360,20 420,40 380,90" fill="#ffce3a" opacity=".7"/>
<line x1="220" y1="150" x2="700" y2="170" stroke="#fff" stroke-width="3"/>
</g></svg>`;

const WORDS = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 100">
<text id="Home score" x="380" y="60" font-size="40" text-anchor="end" fill="#fff" font-family="Oswald">7</text>
<text x="20" y="30" font-size="20" fill="#fff" font-family="Nowhere Grotesk">one <tspan font-weight="700" fill="#ffce3a">two</tspan></text>
<text font-size="16" fill="#fff" filter="url(#blur)"><tspan x="20" y="60">first</tspan><tspan x="20" dy="20">second</tspan></text>
<image id="away" href="elsewhere.png" width="10" height="10"/>
<image id="dot" x="200" y="10" width="40" height="40" href="data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=="/>
<script>document.title = 'ran'</script><rect width="20" height="20" onclick="document.title='ran'" fill="#123456"/></svg>`;

async function fresh(page: Page, name: string, ...size: [number, number]) {
  await newTemplate(page, world, name, size);
  await expect(button(page, 'Import…')).toBeVisible();
}
const bring = (page: Page, name: string, text: string) =>
  page
    .getByLabel('Files to bring in')
    .setInputFiles({ name, mimeType: 'image/svg+xml', buffer: Buffer.from(text) });
const layers = async (key: string): Promise<Layer[]> => {
  const { documents } = await snapshot<DeskSnapshot>(world, 'desk');
  return [...layersOf(documents.template.find((t) => t.key === key)!.layouts[0]!.layers)];
};

test('shapes of a drawing are layers that look as the browser draws it', async ({ page }) => {
  await fresh(page, 'Drawing', 800, 200);
  await bring(page, 'plate.svg', SHAPES);
  const dialog = page.getByRole('dialog', { name: 'Bring in plate.svg' });
  await expect(dialog.getByRole('region', { name: 'What cannot be kept' })).toHaveCount(0);
  await button(dialog, 'Bring in 9 layers').click();
  await expect(page.locator('[data-layer-row="Plate"]')).toBeVisible();
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  await page.getByLabel('Behind').selectOption('over black');
  await page.keyboard.press('Escape');

  const sheet = page.locator('[data-behind]');
  const { width, height } = (await sheet.boundingBox())!;
  const mine = await sheet.screenshot();
  const plain = await page.context().newPage();
  await plain.setViewportSize({ width: Math.round(width), height: Math.round(height) });
  await plain.setContent(
    `<body style="margin:0;background:#000">${SHAPES.replace('width="90mm"', `width="${width}" height="${height}"`)}</body>`,
  );
  const theirs = await plain.screenshot();
  const [a, b] = await Promise.all(
    [mine, theirs].map((png) => sharp(png).resize(400, 100, { fit: 'fill' }).removeAlpha().raw().toBuffer()),
  );
  let far = 0;
  for (let i = 0; i < a!.length; i++) if (Math.abs(a![i]! - b![i]!) > 40) far++;
  // Edges may differ by a part of a pixel.
  expect(far / a!.length).toBeLessThan(0.006);
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-layer-row="Plate"]')).toHaveCount(0);
});

test('texts keep their styles and propose bindings, a picture goes into the library, what cannot be kept is said', async ({
  page,
}) => {
  await fresh(page, 'Words', 400, 100);
  const asked: string[] = [];
  page.on('request', (request) => asked.push(request.url()));
  await bring(page, 'odd words.svg', WORDS);
  const dialog = page.getByRole('dialog', { name: 'Bring in odd words.svg' });
  const lost = dialog.getByRole('region', { name: 'What cannot be kept' });
  for (const said of [
    'Scripts are left out',
    'The picture away is not within the file',
    'Nowhere Grotesk',
    'effect',
  ])
    await expect(lost).toContainText(said);
  await expect(dialog.getByRole('region', { name: 'Bound by its name' })).toContainText(
    'Home score: Home score',
  );
  await dialog.getByRole('button', { name: /^Bring in \d+ layers$/ }).click();
  await expect(page.locator('[data-layer-row="Home score"]')).toBeVisible();
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  const all = await layers('words');
  expect(all.find((l) => l.name === 'Home score')).toMatchObject({
    text: { field: 'home.score' },
    sample: '7',
    font: 'Oswald',
    anchorX: 'right',
  });
  expect(all.find((l) => l.name === 'one two')).toMatchObject({
    text: 'one ',
    text2: 'two',
    weight2: 700,
    colour2: '#ffce3a',
  });
  expect(all.filter((l) => l.kind === 'text').map((l) => l.text)).toEqual(
    expect.arrayContaining(['first', 'second']),
  );
  const dot = all.find((l) => l.name === 'dot') as { picture: string };
  expect(dot.picture).toMatch(/^drawings\/odd words\/.*\.png$/);
  const { media } = await snapshot<DeskSnapshot>(world, 'desk');
  expect(media.map((m) => m.path)).toContain(dot.picture);
  expect(await page.title()).not.toBe('ran');
  expect(asked.filter((url) => url.includes('elsewhere'))).toEqual([]);
});

test('what is no drawing is refused with a sentence; a picture of the computer stands where it is brought in', async ({
  page,
}) => {
  await fresh(page, 'Files', 400, 100);
  const said = page.getByRole('status', { name: 'Import' });
  for (const broken of [
    '<svg xmlns="http://www.w3.org/2000/svg"><g>',
    'no drawing at all',
    '<html><body/></html>',
  ]) {
    await bring(page, 'broken.svg', broken);
    await expect(said).toHaveText('broken.svg: This is no SVG drawing that can be read.');
  }
  await bring(page, 'empty.svg', '<svg xmlns="http://www.w3.org/2000/svg"/>');
  await expect(button(page.getByRole('dialog'), 'Bring in 0 layers')).toBeDisabled();
  await button(page.getByRole('dialog'), 'Cancel').click();
  const png = await sharp({ create: { width: 40, height: 40, channels: 4, background: '#ff0000' } })
    .png()
    .toBuffer();
  await page
    .getByLabel('Files to bring in')
    .setInputFiles({ name: 'Röt.png', mimeType: 'image/png', buffer: png });
  await expect(page.locator('[data-layer-row="Röt.png"]')).toBeVisible();
  await expect(page.locator('[data-picture="workshop"] img')).toBeVisible();
  await expect
    .poll(async () => (await layers('files')).map((l) => l.kind === 'picture' && l.picture))
    .toEqual(['new/Röt.png']);
  expect((await layers('files'))[0]).toMatchObject({ width: 40, height: 40 });

  // Those of the library are dragged on the sheet, and into a picture that is there; a press does the same.
  await page.getByRole('tab', { name: 'Pictures' }).click();
  await page.getByLabel('Find a picture').fill('marks');
  const tile = (name: string) => page.locator(`[data-picture-tile="marks/${name}.svg"]`);
  await tile('foxes').dragTo(page.locator('[data-behind]'), { targetPosition: { x: 60, y: 60 } });
  await expect(page.locator('[data-picture="workshop"] img')).toHaveCount(2);
  await tile('herons').dragTo(page.locator('[data-picture="workshop"] [data-layer="Röt.png"]'));
  const pictures = async () => (await layers('files')).map((l) => l.kind === 'picture' && l.picture);
  await expect.poll(pictures).toEqual(['marks/herons.svg', 'marks/foxes.svg']);
  await tile('foxes').click();
  await expect.poll(pictures).toEqual(['marks/foxes.svg', 'marks/foxes.svg']);
  await page.keyboard.press('Control+z');
  await expect.poll(pictures).toEqual(['marks/herons.svg', 'marks/foxes.svg']);
  await page.getByLabel('Find a picture').fill('nothing of the kind');
  await expect(page.getByText('No picture is called so.')).toBeVisible();
});

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
    ...{ schema: 2, key: 'all-kinds', name: 'All kinds', inputs: [] },
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
  await fresh(page, 'Back', 800, 300);
  await bring(page, 'back.svg', text);
  await page
    .getByRole('dialog', { name: 'Bring in back.svg' })
    .getByRole('button', { name: /^Bring in/ })
    .click();
  await expect(page.getByRole('row', { name: /^l 14/ })).toBeVisible();
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  const back = new Map((await layers('back')).map((l) => [l.name, l]));
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
    await fresh(page, name, width, height);
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

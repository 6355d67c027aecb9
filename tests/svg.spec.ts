import type { Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import sharp from 'sharp';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { button } from './support/page.ts';
import { newTemplate } from './support/sheet.ts';
import { layersIn, snapshot } from './support/snapshot.ts';

const world = worldForFile();
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
const layers = (key: string) => layersIn(world, key);

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

import type { Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import sharp from 'sharp';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { blockFont, WIDE } from './support/font.ts';
import { button } from './support/page.ts';
import { drag, newTemplate } from './support/sheet.ts';
import { snapshot } from './support/snapshot.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

const SIZE: [number, number] = [1180, 156];
const row = (page: Page, name: string) => page.locator(`[data-layer-row="${name}"]`);
const layer = (page: Page, name: string) => page.locator(`[data-picture="workshop"] [data-layer="${name}"]`);

/** Draws one and gives it a name. */
async function draw(page: Page, key: string, from: [number, number], to: [number, number], name: string) {
  await page.getByRole('application', { name: 'Canvas' }).focus();
  await page.keyboard.press(key);
  await drag(page, from, to, SIZE);
  const was = { r: 'Shape', t: 'Text', p: 'Picture' }[key]!;
  await row(page, was).locator('span').filter({ hasText: was }).dblclick();
  await page.getByLabel(`Name of ${was}`).fill(name);
  await page.getByLabel(`Name of ${was}`).press('Enter');
  await expect(row(page, name)).toBeVisible();
}
const choose = async (page: Page, ...names: string[]) => {
  await page.getByRole('tab', { name: 'Properties' }).click();
  for (const [i, name] of names.entries()) await row(page, name).click(i ? { modifiers: ['Control'] } : {});
};
const properties = (page: Page) => page.getByRole('complementary', { name: 'Properties' });
/** Names what was just grouped. */
async function rename(page: Page, was: string, name: string) {
  await row(page, was).locator('span').filter({ hasText: was }).dblclick();
  await page.getByLabel(`Name of ${was}`).fill(name);
  await page.getByLabel(`Name of ${was}`).press('Enter');
}
async function handOver(page: Page, section: string | null, label: string) {
  const summary = section && properties(page).locator('details').filter({ hasText: section });
  if (summary && (await summary.getAttribute('open')) === null) await summary.locator('summary').click();
  await button(properties(page), `Hand ${label} to the operator`).click();
  await expect(page.getByRole('region', { name: 'The operator’s form' })).toBeVisible();
}
/** What of a picture lets nothing through, sign by sign. */
const alphaOf = async (png: Buffer) => sharp(png).ensureAlpha().extractChannel(3).raw().toBuffer();

test('a lower third is drawn from nothing, handed over, tried, taken from its form, and its key page is a true matte', async ({
  page,
}) => {
  await newTemplate(page, world, 'Third of my own', 'Broadcast, Lower third');

  await draw(page, 'r', [140, 20], [1000, 90], 'plate');
  await draw(page, 't', [160, 30], [760, 84], 'who');
  await draw(page, 't', [160, 100], [760, 140], 'what');
  await draw(page, 'p', [10, 20], [130, 140], 'logo');
  await draw(page, 'r', [780, 100], [990, 146], 'tag ground');
  await draw(page, 't', [790, 104], [980, 142], 'tag');
  await choose(page, 'tag ground', 'tag');
  await page.keyboard.press('Control+g');
  await rename(page, 'Group', 'call-out');
  // Two groups of which one shows: an edge by side, and a badge.
  await draw(page, 'r', [140, 92], [760, 96], 'edge of home');
  await draw(page, 'r', [140, 92], [760, 98], 'edge of away');
  await choose(page, 'edge of home', 'edge of away');
  await button(properties(page), 'Only one of them shows').click();
  await rename(page, 'One of', 'edge');
  await draw(page, 'r', [1020, 30], [1160, 80], 'captain');
  await draw(page, 'r', [1030, 40], [1150, 70], 'rookie');
  await choose(page, 'captain', 'rookie');
  await button(properties(page), 'Only one of them shows').click();
  await rename(page, 'One of', 'badge');
  await properties(page).getByLabel('May show nothing, called').fill('no badge');

  // Six are handed over.
  await handOver(page, null, 'Which shows');
  await choose(page, 'edge');
  await handOver(page, null, 'Which shows');
  await choose(page, 'who');
  await handOver(page, null, 'Text');
  await choose(page, 'what');
  await handOver(page, null, 'Text');
  await choose(page, 'logo');
  await handOver(page, null, 'Picture');
  await choose(page, 'call-out');
  await handOver(page, 'When it shows', 'Shows');
  await expect(page.getByRole('tab', { name: 'Inputs (6)' })).toBeVisible();

  // It is tried: what is filled in shows, with pictures of what can be chosen.
  const tried = page.getByRole('region', { name: 'The operator’s form' });
  await tried
    .getByRole('textbox', { name: 'who' })
    .fill('Ödlaug Extraordinarily-Longname of Nether Cindergap');
  const fitted = await layer(page, 'who').evaluate((el) => {
    const box = el.getBoundingClientRect();
    const range = document.createRange();
    range.selectNodeContents(el);
    return range.getBoundingClientRect().width <= box.width + 1;
  });
  expect(fitted).toBe(true);
  await tried.locator('[data-member="rookie"]').click();
  await expect(layer(page, 'rookie')).toBeVisible();
  await expect(layer(page, 'captain')).toBeHidden();
  await tried.locator('[data-member="no badge"]').click();
  await expect(layer(page, 'rookie')).toBeHidden();
  await tried.getByRole('switch', { name: 'call-out: shows' }).press('Space');
  await expect(layer(page, 'tag')).toBeHidden();
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');

  // The operator has it.
  await page.goto(`${world.url}/templates`);
  await page.locator('[data-template="third-of-my-own"]').click();
  const item = page.getByRole('form', { name: 'New item' });
  await item.getByLabel('New item').fill('Keeper, mine');
  await button(item, 'Make an item').click();
  await page.goto(`${world.url}/live`);
  await page.locator('[data-item-tile]').filter({ hasText: 'Keeper, mine' }).click();
  await page.getByRole('textbox', { name: 'who' }).fill('Ada Fell');
  await page.locator('[data-member="captain"]').click();
  await page.getByRole('textbox', { name: 'who' }).press('Control+Enter');
  const air = await page.context().newPage();
  await air.setViewportSize({ width: 1920, height: 1080 });
  await air.goto(`${world.url}/air/broadcast`);
  await expect(air.locator('[data-layer="who"]')).toHaveText('Ada Fell');
  await expect(air.locator('[data-layer="captain"]')).toBeVisible();
  await expect(air.locator('[data-layer="edge of home"]')).toBeHidden();

  await world.act({ kind: 'clear', output: 'broadcast', zone: 'top' });
  await expect(air.locator('[data-item="bar"]')).toHaveCount(0);
  const key = await page.context().newPage();
  await key.setViewportSize({ width: 1920, height: 1080 });
  await key.goto(`${world.url}/air/broadcast?key`);
  await expect(key.locator('[data-layer="who"]')).toHaveText('Ada Fell');
  await expect(key.locator('[data-item="bar"]')).toHaveCount(0);
  const fill = await alphaOf(await air.screenshot({ omitBackground: true }));
  const matte = await sharp(await key.screenshot())
    .greyscale()
    .raw()
    .toBuffer();
  expect(matte.length).toBe(fill.length);
  let far = 0;
  for (let i = 0; i < fill.length; i++) if (Math.abs(fill[i]! - matte[i]!) > 3) far++;
  expect(far).toBe(0);
  expect(fill.some((a) => a === 255) && fill.some((a) => a === 0)).toBe(true);
  const { documents } = await snapshot<DeskSnapshot>(world, 'desk');
  expect(Object.keys(documents.item.find((i) => i.name === 'Keeper, mine')!.inputs).length).toBeGreaterThan(
    3,
  );
});

test('a font of the computer is brought in, written in, and on the air pages before they show it', async ({
  page,
  browser,
}) => {
  const file = (name: string, bytes: Uint8Array) => ({
    name,
    mimeType: 'font/otf',
    buffer: Buffer.from(bytes),
  });
  // One page is open all the while.
  const before = await page.context().newPage();
  await before.goto(`${world.url}/air/broadcast`);
  await newTemplate(page, world, 'Blocks', [1200, 200]);
  await page.keyboard.press('t');
  await drag(page, [10, 40], [1190, 160], [1200, 200]);
  const properties = page.getByRole('complementary', { name: 'Properties' });
  await properties.getByLabel('Text', { exact: true }).fill('GOAL');
  await properties.getByRole('textbox', { name: 'Size', exact: true }).fill('50');
  await page.keyboard.press('Enter');
  const font = properties.getByLabel('Font', { exact: true });
  const choose = async (chosen: ReturnType<typeof file>) => {
    const chooser = page.waitForEvent('filechooser');
    await font.selectOption('Import a font…');
    await (await chooser).setFiles(chosen);
  };
  const bytes = blockFont('Harbor Blocks');
  await choose(file('harbor.otf', bytes.subarray(0, 900)));
  await expect(properties.getByText('harbor.otf is damaged: its letters cannot be read.')).toBeVisible();
  await choose(file('harbor.otf', bytes));
  await expect(font).toHaveValue('Harbor Blocks');
  // Every letter is as wide as every other, so it is that font which is seen.
  const wide = (at: Page) =>
    at
      .locator('[data-layer="Text"]')
      .first()
      .evaluate((el) => {
        const range = document.createRange();
        range.selectNodeContents(el);
        const zoom = el.getBoundingClientRect().width / (el as HTMLElement).offsetWidth;
        return Math.round(range.getBoundingClientRect().width / zoom);
      });
  await expect.poll(() => wide(page)).toBe(4 * 50 * WIDE);
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');

  // The page that was open has it before it is asked for; nothing is fetched when it goes on air.
  const there = (at: Page) =>
    at.evaluate(() => [...document.fonts].filter((f) => f.family.includes('Harbor')).map((f) => f.status));
  await expect.poll(() => there(before)).toEqual(['loaded']);
  const place = { output: 'broadcast', zone: 'lower' };
  const put = { kind: 'put-item', item: 'blocks-1', name: 'Blocks', template: 'blocks', ...place };
  expect((await world.act(put)).ok).toBe(true);
  expect((await world.act({ kind: 'take', item: 'blocks-1' })).ok).toBe(true);
  await expect(before.locator('[data-layer="Text"]').first()).toHaveText('GOAL');
  expect(await wide(before)).toBe(4 * 50 * WIDE);

  // A page that is opened meanwhile, on a slow line, shows nothing before the font is there.
  const context = await browser.newContext();
  const after = await context.newPage();
  let carried = false;
  await after.route('**/media/by-hash/**', async (route) => {
    await new Promise((done) => setTimeout(done, 800));
    if (route.request().resourceType() === 'font') carried = true;
    await route.continue();
  });
  const first = after.waitForFunction(() => document.querySelector('[data-layer="Text"]'));
  await after.goto(`${world.url}/air/broadcast`);
  await first;
  expect(carried).toBe(true);
  expect(await there(after)).toEqual(['loaded']);
  await expect.poll(() => wide(after)).toBe(4 * 50 * WIDE);
  await context.close();

  // The library says what it is and who uses it; as a picture it cannot be chosen.
  await page.goto(`${world.url}/media`);
  await page.locator('[data-media="fonts/harbor.otf"]').click();
  const details = page.getByRole('complementary', { name: 'Font' });
  await expect(details).toContainText('Harbor Blocks, weight 400');
  await expect(details).toContainText('template Blocks');
});

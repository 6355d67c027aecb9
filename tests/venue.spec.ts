import type { Page } from '@playwright/test';
import sharp from 'sharp';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { button, lastAction } from './support/page.ts';
import { snapshot } from './support/snapshot.ts';
import { expect, test, worldForFile } from './support/test.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

const BOARD = { width: 6400, height: 1200 };
const documents = async () => (await snapshot<DeskSnapshot>(world, 'desk')).documents;

/** The pixels of a part of a page, with how much of it is covered, 0 to 1. */
async function pixels(page: Page, clip: { x: number; y: number; width: number; height: number }) {
  const shot = await page.screenshot({ clip, omitBackground: true });
  const data = await sharp(shot).ensureAlpha().raw().toBuffer();
  let covered = 0;
  for (let i = 3; i < data.length; i += 4) if (data[i] === 255) covered++;
  return { data, covered: covered / (data.length / 4) };
}

/** How far two pictures are from each other where they are farthest, in levels of 255. */
const farthest = (a: Buffer, b: Buffer) =>
  a.reduce((most, level, i) => Math.max(most, Math.abs(level - b[i]!)), 0);

/** Nothing on the page is on its way in or out. */
const still = (page: Page) =>
  expect
    .poll(() =>
      page.evaluate(
        () =>
          document
            .getAnimations()
            .filter((a) => a.playState === 'running' && a.effect?.getTiming().iterations !== Infinity).length,
      ),
    )
    .toBe(0);

test('the whole board is built from nothing through the screens, and is the demo’s to the pixel, zone by zone, a takeover too', async ({
  page,
  browser,
}) => {
  await page.goto(`${world.url}/outputs`);
  const form = page.getByRole('form', { name: 'New output' });
  await form.getByPlaceholder('Name').fill('Söuth wall');
  await form.getByLabel('Size').selectOption('Long board, 6400 × 1200');
  await button(form, 'Make it').click();
  await expect(page.getByRole('heading', { name: 'Söuth wall' })).toBeVisible();
  const sizes = page.getByRole('form', { name: 'Divide' }).getByPlaceholder('800, 1400');
  await sizes.fill('800, 1400, 2000, 1400, 800');
  await sizes.press('Enter');
  await button(page, 'Add a zone').click();
  await page.getByRole('textbox', { name: 'Name of Zone 2' }).fill('Scöre');
  await page.keyboard.press('Enter');
  await expect
    .poll(async () => (await documents()).output.at(-1)?.zones.map((z) => z.name))
    .toEqual(['Zone 1', 'Scöre', 'Zone 3', 'Zone 4', 'Zone 5', 'Takeover']);
  const made = (await documents()).output.at(-1)!;
  const demo = (await documents()).output.find((o) => o.key === 'main-board')!;

  // What goes to a zone of the demo's board goes to the one in its place.
  await page.goto(`${world.url}/rundown`);
  const panel = page.getByRole('complementary', { name: 'Item' });
  for (const name of ['Scoreboard bar', 'Statistics on the board', 'Sponsor on both sides', 'Home goal']) {
    await page.locator(`[data-item-row="${name}"]`).click();
    const zones = async () => (await documents()).item.find((i) => i.name === name)!.zones;
    for (const { output, zone } of await zones()) {
      const at = demo.zones.findIndex((z) => z.key === zone);
      if (output !== demo.key || at < 0) continue;
      const mine = { output: made.key, zone: made.zones[at]!.key };
      await panel.getByLabel('Add a zone').selectOption({ value: `${mine.output}/${mine.zone}` });
      await expect.poll(zones).toContainEqual(mine);
    }
  }

  await page.goto(`${world.url}/live`);
  await expect(page.locator(`[data-lane-row="${made.key}/${made.zones[5]!.key}"]`)).toBeVisible();
  for (const [number, name] of [
    ['10', 'Scoreboard bar'],
    ['52', 'Statistics on the board'],
    ['53', 'Sponsor on both sides'],
  ] as const) {
    await page.keyboard.type(number);
    await page.keyboard.press('Enter');
    await expect(lastAction(page)).toHaveText(`Next: ${name}`);
    await page.keyboard.press('Enter');
    await expect(lastAction(page)).toContainText(`Took ${name}`);
  }

  const [theirs, ours] = await Promise.all(
    [demo, made].map(async ({ key }) => {
      const air = await browser.newPage({ viewport: BOARD });
      await air.goto(`${world.url}/air/${key}`);
      await expect(air.locator('[data-item="board-sponsor"]')).toHaveCount(2);
      await expect(air.locator('[data-item="bar"]')).toHaveCount(1);
      return air;
    }),
  );
  const same = async (covers: Record<string, number>) => {
    for (const air of [theirs!, ours!]) await still(air);
    for (const { key, x, y, width, height } of demo.zones) {
      if (!(key in covers)) continue;
      // A browser smooths an edge by a level or two more or less, by what it painted before; what is left of a motion goes by.
      await expect(async () => {
        const [a, b] = await Promise.all([theirs!, ours!].map((air) => pixels(air, { x, y, width, height })));
        expect(farthest(a!.data, b!.data), key).toBeLessThan(5);
        expect(b!.covered, key).toBeCloseTo(covers[key]!, 1);
      }).toPass({ timeout: 30_000 });
    }
  };
  const beneath = { 'sponsor-left': 1, score: 1, camera: 0, statistics: 1, 'sponsor-right': 1 };
  await same(beneath);
  // It stays until it is taken off: a slow machine takes its time to look at it.
  for (const { key, zones } of [demo, made])
    await world.act({
      kind: 'lane-automatic',
      output: key,
      zone: zones.at(-1)!.key,
      what: 'length',
      on: false,
    });
  await page.keyboard.press('Shift+H');
  for (const air of [theirs!, ours!]) await expect(air.locator('[data-layer="word"]')).toHaveText('GOAL');
  await same({ takeover: 1 });
  await page.keyboard.press('Shift+H');
  for (const air of [theirs!, ours!]) await expect(air.locator('[data-item="goal-home"]')).toHaveCount(0);
  await same(beneath);
});

import type { Page } from '@playwright/test';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { button } from './support/page.ts';
import { onAirIn, snapshot } from './support/snapshot.ts';
import { expect, test, worldForFile } from './support/test.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

const lanes = async () => (await snapshot<DeskSnapshot>(world, 'desk')).lanes;
const on = async (key: string) => (await onAirIn(world))[key];
const under = (page: Page) => page.locator('[data-lane-row][data-under="true"]');
const row = (page: Page, key: string) => page.locator(`[data-lane-row="${key}"]`);

test('one hand runs all lanes: a letter puts one under the keys, and the same keys take, clear, go on and back', async ({
  page,
}) => {
  await page.goto(`${world.url}/live`);
  await expect(under(page)).toHaveAttribute('data-lane-row', 'broadcast/lower');
  await page.keyboard.press('t');
  await expect(page.getByRole('region', { name: 'Takeover' })).toContainText('Main board');
  await page.keyboard.press('ArrowRight');
  await expect(under(page)).toHaveAttribute('data-lane-row', 'ribbon/score');
  await page.keyboard.press('w');
  await expect(page.locator('[data-picture="air"] ~ [data-zone="lower"]')).toBeVisible();

  // Down the list by one key, out of the queue first; what is queued is off it when it is taken.
  const panel = page.getByRole('region', { name: 'Lower third' });
  await panel.locator('[data-item-tile="welcome"]').click();
  await page.keyboard.press('Enter');
  await expect.poll(() => on('broadcast/lower')).toBe('welcome');
  await panel.locator('[data-item-tile="captain"]').click();
  await page.keyboard.press('+');
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('+');
  const queued = panel.getByRole('list', { name: 'Queued' });
  await expect(queued).toHaveText('1 Away captain2 Home goalkeeper');
  await button(queued, 'Home goalkeeper earlier').click();
  await expect(queued).toHaveText('1 Home goalkeeper2 Away captain');
  await page.keyboard.press('n');
  await expect.poll(() => on('broadcast/lower')).toBe('goalkeeper');
  await expect(queued).toHaveText('1 Away captain');
  await page.keyboard.press('n');
  await expect.poll(() => on('broadcast/lower')).toBe('captain');
  await page.keyboard.press('b');
  await expect.poll(() => on('broadcast/lower')).toBe('goalkeeper');
  await page.keyboard.press('Delete');
  await expect.poll(() => on('broadcast/lower')).toBeNull();
  await page.keyboard.press('b');
  await expect.poll(() => on('broadcast/lower')).toBe('goalkeeper');
  // A lane that is not under the keys is worked by its buttons.
  await button(row(page, 'broadcast/top'), 'Clear Top').click();
  await expect.poll(() => on('broadcast/top')).toBeNull();
  await button(row(page, 'broadcast/top'), 'Take Scoreboard bar in Top').click();
  await expect.poll(() => on('broadcast/top')).toBe('bar');
  await expect(under(page)).toHaveAttribute('data-lane-row', 'broadcast/lower');
});

test('clear all needs two keys, and says at both desks what was done; one undo brings all of it back', async ({
  page,
  browser,
}) => {
  const other = await browser.newPage();
  for (const p of [page, other]) {
    await p.goto(`${world.url}/live`);
    await expect(under(p)).toBeVisible();
  }
  const before = (await lanes()).map((l) => l.onAir?.item ?? null);
  const asked = page.getByRole('status', { name: 'Clear all?' });
  await page.keyboard.press('Control+Delete');
  await expect(asked).toContainText('Broadcast, Top: Scoreboard bar');
  await page.keyboard.press('Escape');
  await expect(asked).toHaveCount(0);
  expect((await lanes()).map((l) => l.onAir?.item ?? null)).toEqual(before);
  await page.keyboard.press('Control+Delete');
  await expect(asked).toBeVisible();
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await lanes()).filter((l) => l.onAir).length).toBe(0);
  await expect(other.getByRole('status', { name: 'Last action' })).toHaveText('Cleared all');
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('status', { name: 'Undo of what is on air' })).toContainText('Cleared all');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await lanes()).map((l) => l.onAir?.item ?? null)).toEqual(before);
});

test('letters are set by the user, groups fold, and pictures of several outputs stand as large as was chosen', async ({
  page,
}) => {
  await page.goto(`${world.url}/live`);
  await button(page, 'Letters…').click();
  const letters = page.getByRole('dialog', { name: 'Letters of the lanes' });
  await letters.getByLabel('Letter of Ribbon, Headlines').selectOption('W');
  await expect(letters.getByLabel('Letter of Broadcast, Lower third')).toHaveValue('');
  await button(letters, 'Give free letters to the rest').click();
  await expect(letters.getByLabel('Letter of Broadcast, Lower third')).toHaveValue(/^[A-Z]$/);
  await button(letters, 'Close').click();
  await page.keyboard.press('w');
  await expect(under(page)).toHaveAttribute('data-lane-row', 'ribbon/headlines');

  // A whole output is left without letters; a lane has a key of two strokes, whose second is nothing else's.
  await button(page, 'Letters…').click();
  await button(letters.getByRole('group', { name: 'Ribbon' }), 'No letters').click();
  await expect(letters.getByLabel('Letter of Ribbon, Headlines')).toHaveValue('');
  await letters.getByLabel('Letter of Ribbon, Score').selectOption('.B');
  await expect(letters.getByLabel('Letter of Ribbon, Score')).toHaveValue('.B');
  await button(letters, 'Close').click();
  const two = page.getByRole('status', { name: 'Lane by two keys' });
  await page.keyboard.press('.');
  await expect(two).toContainText('B Ribbon, Score');
  await page.keyboard.press('q');
  await expect(two).toContainText('No lane has . Q');
  await page.keyboard.press('b');
  await expect(under(page)).toHaveAttribute('data-lane-row', 'ribbon/score');
  await expect(two).toHaveCount(0);
  expect(await on('ribbon/score')).toBe('bar');

  await button(page, 'Main board').click();
  await expect(row(page, 'main-board/score')).toHaveCount(0);
  // One that is under the keys is seen all the same.
  await page.keyboard.press('s');
  await expect(row(page, 'main-board/score')).toBeVisible();
  await expect(row(page, 'main-board/takeover')).toHaveCount(0);

  await button(page, 'Picture of Ribbon').click();
  await expect(page.locator('[data-picture="air"]')).toHaveCount(2);
  const edge = page.getByRole('separator', { name: 'Size of the picture of Broadcast' });
  await edge.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowLeft');
  await expect(edge).toHaveAttribute('aria-valuenow', '60');
  // The arrows were the edge's.
  await expect(under(page)).toHaveAttribute('data-lane-row', 'main-board/score');
  await page.reload();
  await expect(page.getByRole('separator')).toHaveCount(2);
  await expect(edge).toHaveAttribute('aria-valuenow', '60');
  await expect(row(page, 'main-board/takeover')).toHaveCount(0);
});

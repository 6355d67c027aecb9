import type { Page } from '@playwright/test';
import { expect, test, worldForTest } from './support/test.ts';
import { button, lastAction } from './support/page.ts';
import { onAirIn } from './support/snapshot.ts';

const world = worldForTest();
test.use({ viewport: { width: 1280, height: 800 } });

const onAir = () => onAirIn(world);
const armed = (page: Page) => page.getByRole('status', { name: 'Undo of what is on air' });

test('a look is recalled by its key, says before what it changes, and is kept of what is on air', async ({
  page,
  browser,
}) => {
  const air = await browser.newPage();
  await air.goto(`${world.url}/air/broadcast`);
  await page.goto(`${world.url}/live`);
  const looks = page.getByRole('group', { name: 'Looks' });
  const break_ = looks.getByRole('button', { name: /^Break/ });
  await expect(looks.getByRole('button', { name: /^Play/ })).toContainText('stands');
  await expect(break_).toContainText('2 changes');
  await expect(break_).toHaveAttribute('data-tip', /Broadcast, Top: Scoreboard bar → nothing/);
  const before = await onAir();
  await page.keyboard.press('F4');
  await expect(air.locator('[data-item="welcome"]')).toHaveCount(1);
  await expect(air.locator('[data-item="bar"]')).toHaveCount(0);
  expect(await onAir()).toEqual({ ...before, 'broadcast/top': null, 'broadcast/lower': 'welcome' });
  await expect(break_).toContainText('stands');

  await button(looks, 'Edit…').click();
  const dialog = page.getByRole('dialog', { name: 'Looks' });
  await dialog.getByLabel('Name of the new look').fill('Tïme-out');
  await button(dialog, 'Keep what is on air as a look').click();
  await dialog.getByLabel('Key of Tïme-out').selectOption('Shift+T');
  await button(dialog, 'Close').click();
  await page.keyboard.press('F2');
  await expect.poll(onAir).toEqual(before);
  await page.keyboard.press('Shift+T');
  await expect.poll(async () => (await onAir())['broadcast/lower']).toBe('welcome');
  expect((await onAir())['broadcast/top']).toBeNull();
});

test('what is on air is taken back at a second press, after it was shown what comes back; another’s take stays', async ({
  page,
  browser,
}) => {
  const other = await browser.newPage();
  for (const p of [page, other]) {
    await p.goto(`${world.url}/live`);
    await expect(p.locator('[data-lane="lower"]')).toBeVisible();
  }
  const lower = async () => (await onAir())['broadcast/lower'];
  await page.locator('[data-item-tile="welcome"]').click();
  await page.keyboard.press('Enter');
  await expect.poll(lower).toBe('welcome');
  await page.locator('[data-item-tile="captain"]').click();
  await page.keyboard.press('Enter');
  await expect.poll(lower).toBe('captain');
  await page.keyboard.press('Control+z');
  await expect(armed(page)).toContainText('Undo: Took Away captain');
  await expect(armed(page)).toContainText('On air again: Broadcast, Lower third: Welcome');
  expect(await lower()).toBe('captain');
  await page.keyboard.press('Escape');
  await expect(armed(page)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(lower).toBe('welcome');
  // Done again it changes the air just as much: shown first, and done at the second press.
  await page.keyboard.press('Control+y');
  const again = page.getByRole('status', { name: 'Redo of what is on air' });
  await expect(again).toContainText('On air then: Broadcast, Lower third: Away captain');
  expect(await lower()).toBe('welcome');
  await page.keyboard.press('Control+y');
  await expect.poll(lower).toBe('captain');
  await expect(again).toHaveCount(0);

  // While it is asked somebody else takes something there: that stays.
  await expect(page.getByRole('button', { name: /^Undo/ })).toHaveAttribute(
    'data-tip',
    'Undo: Took Away captain',
  );
  await page.keyboard.press('Control+z');
  await expect(armed(page)).toContainText('Welcome');
  // It has been on long enough for the other desk to have seen it.
  await expect(other.locator('[data-lane="lower"] header')).toContainText(/[1-9]\d* s/);
  await other.locator('[data-item-tile="goalkeeper"]').click();
  await other.keyboard.press('Enter');
  await expect(armed(page)).toContainText('was changed again since: nothing comes back');
  await page.keyboard.press('Control+z');
  await expect(lastAction(page)).toContainText('what is on air was changed again since');
  expect(await lower()).toBe('goalkeeper');

  // An older one out of the list.
  await page.keyboard.press('q');
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await onAir())['broadcast/top']).toBeNull();
  await page.keyboard.press('w');
  await page.locator('[data-item-tile="welcome"]').click();
  await page.getByLabel('Line', { exact: true }).fill('Mind the step');
  await expect(page.getByLabel('Line', { exact: true })).toHaveValue('Mind the step');
  await page.getByLabel('Line', { exact: true }).press('Escape');
  await button(page, 'What was done here').click();
  const done = page.getByRole('dialog', { name: 'What was done here' });
  await expect(done.getByRole('listitem').first()).toContainText('Edited Welcome');
  await done.getByRole('button', { name: 'Undo: Cleared Scoreboard bar' }).click();
  await expect.poll(async () => (await onAir())['broadcast/top']).toBe('bar');
  await expect(done.getByRole('button', { name: 'Undo: Cleared Scoreboard bar' })).toHaveCount(0);
});

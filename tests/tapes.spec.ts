import type { Page } from '@playwright/test';
import { expect, test, worldForTest } from './support/test.ts';
import { lastAction } from './support/page.ts';

const world = worldForTest();

const button = (page: Page, name: string | RegExp) =>
  page.getByRole('button', { name, exact: typeof name === 'string' });
const score = async (key = 'home.score') => (await world.field(key)).value;

test('a game is recorded, played again to the same board under a plain sign, cut, carried away and brought back', async ({
  page,
  browser,
}) => {
  const air = await browser.newPage();
  await air.goto(`${world.url}/air/broadcast`);
  await page.goto(`${world.url}/tapes`);
  await page.getByLabel('Name of the recording').fill('Warm-up');
  await button(page, 'Record').click();
  await expect(page.getByRole('link', { name: 'Recording' })).toBeVisible();
  for (const _ of [1, 2]) await world.score({ kind: 'goal', side: 'home' });
  await expect.poll(() => score()).toBe(2);
  await world.score({ kind: 'clock', ms: 61_000 });
  await expect.poll(() => score('clock.game')).toBe(61_000);
  await page.waitForTimeout(1500);
  await button(page, 'Stop recording').click();
  const moments = page.getByRole('list', { name: 'Moments' });
  await expect(moments).toContainText('2 – 0');

  // The game goes on; the tape says what was.
  await world.score({ kind: 'goal', side: 'away' });
  await expect.poll(() => score('away.score')).toBe(1);
  await button(page, /^Rehearse with this tape/).click();
  await expect(page.getByText('shuts 4 live sources')).toBeVisible();
  await button(page, 'Rehearse now').click();
  const sign = page.getByRole('status', { name: 'Rehearsal' });
  await expect(sign).toContainText('REHEARSAL');
  await expect(sign).toContainText('Warm-up');
  await expect(air.locator('[data-rehearsal]')).toHaveText('REHEARSAL · Warm-up');
  await button(page, 'Pause').first().click();
  await moments.getByRole('button').last().click();
  await button(page, '20×').click();
  await page.getByRole('region', { name: 'Play' }).getByRole('button', { name: 'Play' }).click();
  // The board said 2 before; that the tape plays is seen by what it says otherwise.
  await expect.poll(() => score('away.score')).toBe(0);
  await expect.poll(() => score()).toBe(2);
  // The clock was set after the goals: it is played a little later too.
  await expect.poll(() => score('clock.game')).toBe(61_000);
  await expect(air.locator('[data-layer="home score"]')).toHaveText('2');
  await expect(air.locator('[data-layer="away score"]')).toHaveText('0');
  const readout = await fetch(`${world.url}/state/fields.json`);
  expect(readout.headers.get('foothill-rehearsal')).toBe('Warm-up');
  await page.goto(`${world.url}/live`);
  await expect(page.getByRole('status', { name: 'Rehearsal' })).toBeVisible();
  await button(page, 'End rehearsal').click();
  await expect(page.getByRole('status', { name: 'Rehearsal' })).toBeHidden();
  await expect(air.locator('[data-rehearsal]')).toHaveCount(0);
  await expect(air.locator('[data-layer="away score"]')).toHaveText('1');
  await expect.poll(() => world.field('away.score')).toMatchObject({ value: 1, quality: 'ok' });

  // A part is a tape of its own; a file of it is a tape again.
  await page.goto(`${world.url}/tapes`);
  await page.locator('[data-tape="Warm-up"]').click();
  await page.getByLabel('Part from').fill('0:01');
  await button(page, 'Save as a new tape').click();
  await expect(lastAction(page)).toHaveText('Cut the tape Warm-up');
  const cut = page.locator('[data-tape^="Warm-up, 0:01 to"]');
  await expect(cut).toHaveCount(1);
  await cut.click();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Export' }).click(),
  ]);
  await button(page, 'Delete…').click();
  await button(page, 'Delete').click();
  await expect(cut).toHaveCount(0);
  await page.getByLabel('Tape to import').setInputFiles(await download.path());
  await expect(cut).toHaveCount(1);
  await page
    .getByLabel('Tape to import')
    .setInputFiles({ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('hello') });
  await expect(page.getByText('notes.txt: It is no tape that can be read: line 1')).toBeVisible();
});

import type { Page } from '@playwright/test';
import { expect, test, worldForTest } from './support/test.ts';
import { stillFor } from './support/page.ts';

const world = worldForTest();

const goal = (side: 'home' | 'away') => ({ kind: 'goal', side }) as const;
const layer = (page: Page, name: string) =>
  page.locator(`[data-picture="air"] [data-layer="${name}"], #stage [data-layer="${name}"]`);

async function openAir(page: Page, options = ''): Promise<void> {
  await page.setViewportSize({ width: 1920, height: 1080 });
  await page.goto(`${world.url}/air/broadcast${options}`);
  await expect(layer(page, 'home name')).toHaveText('Thornmere Herons');
}
async function openLive(page: Page): Promise<void> {
  await page.goto(`${world.url}/live`);
  await expect(layer(page, 'home name')).toHaveText('Thornmere Herons');
}

test('a goal on the controller shows on the air page, both names at one size', async ({ page }) => {
  await openAir(page);
  await world.score(goal('home'), goal('home'), goal('away'), { kind: 'next-period' });
  await expect(layer(page, 'home score')).toHaveText('2');
  await expect(layer(page, 'away score')).toHaveText('1');
  await expect(layer(page, 'period')).toHaveText('2ND');
  const scale = (name: string) =>
    layer(page, name)
      .locator('span')
      .evaluate((e) => /scale\(([\d.]+)\)/.exec(e.style.transform)![1]);
  expect(await scale('home name')).toBe(await scale('away name'));
  const [frame] = await page.evaluate(() => [
    [document.documentElement.scrollWidth, document.documentElement.scrollHeight],
  ]);
  expect(frame).toEqual([1920, 1080]);
});

test('penalty clocks, the shot clock under ten seconds and possession come and go', async ({ page }) => {
  await openAir(page);
  for (const name of ['home penalty 1', 'shot', 'home possession'])
    await expect(layer(page, name)).toBeHidden();
  await world.score(
    { kind: 'penalty', side: 'home', player: 9, minutes: 2 },
    { kind: 'shot-clock', ms: 9000 },
    { kind: 'possession', side: 'home' },
    { kind: 'shot-clock', ms: 8000 },
  );
  await expect(layer(page, 'home penalty 1 clock')).toHaveText('2:00');
  await expect(layer(page, 'home penalty 1 player')).toHaveText('#9');
  await expect(layer(page, 'shot clock')).toHaveText('8');
  await expect(layer(page, 'home possession')).toBeVisible();
  await world.score(
    { kind: 'end-penalty', side: 'home', index: 0 },
    { kind: 'shot-clock', ms: 30_000 },
    { kind: 'timeout', side: 'away' },
  );
  await expect(layer(page, 'home penalty 1')).toBeHidden();
  await expect(layer(page, 'shot')).toBeHidden();
  await expect(layer(page, 'away time-outs').locator('[data-on=true]')).toHaveCount(1);
});

test('garbage on the line never shows; the truth is back with the first good frame', async ({ page }) => {
  await openAir(page);
  await page.evaluate(() => {
    const seen = ((window as unknown as { seen: Set<string> }).seen = new Set());
    const watch = () =>
      document.querySelectorAll('[data-layer$=" score"]').forEach((e) => seen.add(e.textContent));
    new MutationObserver(watch).observe(document.body, {
      subtree: true,
      childList: true,
      characterData: true,
    });
  });
  await world.command({ kind: 'fault', fault: 'garble', on: true });
  await world.command({ kind: 'fault', fault: 'drop', on: true });
  await world.score({ kind: 'start' });
  // Until enough of it came, however busy the machine is.
  const counts = async () => {
    const health = (await (await fetch(`${world.url}/healthz`)).json()) as {
      sources: { counts: Record<string, number> }[];
    };
    return health.sources[0]!.counts;
  };
  await expect
    .poll(async () => Math.min((await counts())['skipped']! / 50, (await counts())['badChecks']! / 2), {
      timeout: 60_000,
    })
    .toBeGreaterThan(1);
  await world.score(goal('home'));
  await world.command({ kind: 'fault', fault: 'garble', on: false });
  await world.command({ kind: 'fault', fault: 'drop', on: false });
  await expect(layer(page, 'home score')).toHaveText('1');
  const seen = await page.evaluate(() => [...(window as unknown as { seen: Set<string> }).seen]);
  expect(seen.filter((s) => !['0', '1', ''].includes(s))).toEqual([]);
});

test('a controller that falls silent is late, then lost; its clock stops at its last word, and runs on its return', async ({
  page,
}) => {
  await openLive(page);
  await world.score({ kind: 'clock', ms: 45_000 }, { kind: 'start' });
  await expect(layer(page, 'game clock')).toHaveText(/^4[34]\.\d$/);
  await world.command({ kind: 'fault', fault: 'freeze', on: true });
  const status = page.getByRole('group', { name: 'Health' });
  await expect(status).toContainText('Controller late');
  await expect(status).toContainText('Controller lost, clocks stopped · last data');
  const stopped = await world.field('clock.game');
  expect(stopped).toMatchObject({ running: false, quality: 'lost' });
  await expect(layer(page, 'game clock')).toHaveText(stopped.text);
  await expect(page.locator('[data-field="home.score"]')).toContainText('Controller lost');
  await world.command({ kind: 'fault', fault: 'freeze', on: false });
  await expect(status).toHaveText('4 sources live');
  await expect.poll(async () => (await world.field('clock.game')).running).toBe(true);
  await world.command({ kind: 'fault', fault: 'disconnect', on: true });
  await expect(status).toContainText('Controller lost');
  await world.command({ kind: 'fault', fault: 'disconnect', on: false });
  await expect(status).toHaveText('4 sources live');
});

test('a pin holds over the controller until released, in two browsers alike, and the trace shows the bytes', async ({
  page,
  browser,
}) => {
  await openLive(page);
  const second = await browser.newPage();
  await openLive(second);
  await world.score(goal('home'));
  await page.keyboard.press('/');
  await page.keyboard.type('home score');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  const trace = page.getByRole('region', { name: 'Trace of Home score' });
  await expect(trace.locator('mark').first()).toHaveText(' 1');
  await expect(trace).toContainText('home score → home.score');
  await expect(trace).toContainText('Scoreboard bar: home score (text)');
  await page.keyboard.press('p');
  await page.keyboard.type('7');
  await page.keyboard.press('Enter');
  for (const p of [page, second]) {
    await expect(layer(p, 'home score')).toHaveText('7');
    await expect(p.locator('[data-field="home.score"]')).toContainText('pinned · says 1');
  }
  await world.score(goal('home'));
  await expect(second.locator('[data-field="home.score"]')).toContainText('pinned · says 2');
  await expect(layer(page, 'home score')).toHaveText('7');
  await page.getByLabel('Hold Home score at').fill('700');
  await page.getByRole('button', { name: 'Pin P' }).click();
  await expect(page.getByRole('status', { name: 'Last action' })).toContainText('it goes from 0 to 99');
  await page.getByLabel('Hold Home score at').press('Escape');
  await page.keyboard.press('r');
  for (const p of [page, second]) await expect(layer(p, 'home score')).toHaveText('2');
  await page.keyboard.press('Control+z');
  await expect(layer(second, 'home score')).toHaveText('7');
  await page.keyboard.press('Control+z');
  await expect(layer(second, 'home score')).toHaveText('2');
});

test('take and clear by keyboard; inputs are previewed, saved and taken; a refusal says why', async ({
  page,
  browser,
}) => {
  await openLive(page);
  const second = await browser.newPage();
  await openLive(second);
  await page.keyboard.press('q');
  await page.keyboard.press('Delete');
  await expect(page.locator('[data-picture="air"] [data-item="bar"]')).toHaveCount(0);
  await page.keyboard.press('Enter');
  await expect(layer(page, 'home name')).toHaveText('Thornmere Herons');
  await page.keyboard.type('22');
  await expect(page.getByRole('status', { name: 'Call by number' })).toContainText('Away captain');
  await page.keyboard.press('Enter');
  // Another desk sees it, and keeps its own choice.
  const there = second.locator('[data-item-tile="captain"]');
  await expect(there).toContainText('next at another desk');
  await expect(there).toHaveAttribute('aria-pressed', 'false');
  await page.getByLabel('Line', { exact: true }).fill('Captain, five goals');
  await expect(page.locator('[data-picture="preview"] [data-layer="line"]')).toHaveText(
    'Captain, five goals',
  );
  await expect(page.locator('[data-picture="air"] [data-layer="line"]')).toHaveCount(0);
  await page.getByLabel('Line', { exact: true }).press('Control+Enter');
  for (const p of [page, second]) {
    await expect(layer(p, 'line')).toHaveText('Captain, five goals');
    await expect(p.locator('[data-lane="lower"] header')).toContainText('ON AIR');
  }
  await expect(page.getByLabel('Line', { exact: true })).toHaveValue('Captain, five goals');
  await page.getByLabel('Line', { exact: true }).fill('Captain');
  await expect(page.locator('[data-lane="lower"] header')).toContainText('edited since');
  await expect(layer(second, 'line')).toHaveText('Captain, five goals');
  await page.getByLabel('Line', { exact: true }).press('Escape');
  await page.keyboard.type('24');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-lane="lower"] header')).toContainText('Name is empty.');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status', { name: 'Last action' })).toHaveText(
    'Blank name needs Name before it can go on air.',
  );
  await expect(page.locator('[data-lane="lower"] header')).toContainText('Name is empty.');
  await expect(layer(page, 'line')).toHaveText('Captain, five goals');
  // A switch that was turned does not take the keys away.
  const logo = page.getByRole('switch', { name: 'Logo' });
  await logo.locator('xpath=ancestor::label').click();
  await expect(logo).not.toBeChecked();
  await page.keyboard.press('Delete');
  for (const p of [page, second])
    await expect(p.locator('[data-picture="air"] [data-layer="line"]')).toHaveCount(0);
});

test('with the server gone the air page keeps its picture, clock stopped; with it back all is right without a reload', async ({
  page,
}) => {
  await openAir(page);
  await world.score(goal('away'), { kind: 'clock', ms: 500_000 }, { kind: 'start' });
  // It runs: which second is seen first is not said.
  await expect(layer(page, 'game clock')).toHaveText(/^[78]:[0-5]\d$/);
  await page.evaluate(() => ((window as unknown as { same: boolean }).same = true));
  await world.killEngine();
  // How soon the page hears of it depends on the machine; from then on the clock stands.
  await stillFor(2500, layer(page, 'game clock'));
  await expect(layer(page, 'away score')).toHaveText('1');
  await world.score(goal('away'));
  await world.startEngine();
  await expect(layer(page, 'away score')).toHaveText('2');
  expect(await page.evaluate(() => (window as unknown as { same?: boolean }).same)).toBe(true);
});

test('read-outs are open to all, writes to none but this site', async () => {
  await world.score(goal('home'));
  await expect.poll(async () => (await fetch(`${world.url}/state/fields/home.score.txt`)).text()).toBe('1');
  for (const path of ['fields.json', 'fields.xml', 'fields.csv', 'fields/home.score.txt']) {
    const response = await fetch(`${world.url}/state/${path}`, {
      headers: { origin: 'http://elsewhere.example' },
    });
    expect(response.status).toBe(200);
    expect(response.headers.get('access-control-allow-origin')).toBe('*');
    expect(response.headers.get('etag')).toMatch(/^"/);
  }
  expect((await fetch(`${world.url}/state/fields/none.txt`)).status).toBe(404);
  const refused = await world.act(
    { kind: 'clear', output: 'broadcast', zone: 'top' },
    { headers: { origin: 'http://elsewhere.example' } },
  );
  expect(refused).toMatchObject({ status: 403, ok: false, reason: expect.stringContaining('another site') });
  expect(await world.act({ kind: 'pin', field: 'home.score' })).toMatchObject({ status: 400 });
  expect((await fetch(`${world.url}/air/nowhere`)).status).toBe(404);
});

test('the console is worked by mouse and keys, also right after a box was ticked', async ({ page }) => {
  await page.goto(world.simUrl);
  const shown = (name: string) => page.locator(`[data-show="${name}"]`);
  // The box follows the simulator, ten times a second: it is clicked, and then it is so.
  await page.getByLabel('plays by itself').click();
  await expect(page.getByLabel('plays by itself')).toBeChecked();
  await expect(shown('clock')).not.toHaveText('15:00');
  await page.getByLabel('plays by itself').click();
  await expect(page.getByLabel('plays by itself')).not.toBeChecked();
  await page.getByRole('button', { name: 'New game' }).click();
  await expect(shown('clock')).toHaveText('15:00');
  await page.getByLabel('plays by itself').focus();
  await page.keyboard.press('a');
  await page.keyboard.press('l');
  await page.keyboard.press('l');
  await expect(shown('home.score')).toHaveText('1');
  await expect(shown('away.score')).toHaveText('2');
  await page.keyboard.press('u');
  await expect(shown('away.score')).toHaveText('1');
  await page.keyboard.press('d');
  await page.getByLabel('Player number').fill('14');
  await page.getByRole('button', { name: '2 minutes' }).click();
  await expect(page.locator('[data-penalties=home]')).toContainText('#14 2:00');
  await page.getByLabel('Game').fill('5:32');
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await expect(shown('clock')).toHaveText('5:32');
  await page.getByRole('button', { name: 'Disconnect' }).focus();
  await page.keyboard.press('n');
  await expect(shown('period')).toHaveText('2');
  await page.getByRole('button', { name: 'Start the clock' }).click();
  await expect(shown('clock')).toHaveText(/^14:5\d$/);
  await expect.poll(async () => (await world.field('home.penalty1.clock')).text).toMatch(/^1:5\d$/);
});

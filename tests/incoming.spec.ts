import { readFileSync, renameSync, writeFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test, worldForTest } from './support/test.ts';
import { button, lastAction } from './support/page.ts';

const world = worldForTest();

const goal = (side: 'home' | 'away') => ({ kind: 'goal' as const, side });
const service = (path: string, body: object) =>
  fetch(`${world.servicesUrl}${path}`, { method: 'POST', body: JSON.stringify(body) });

async function connect(page: Page, name: string, kind: string, where: () => Promise<void>): Promise<void> {
  await page.goto(`${world.url}/sources`);
  await button(page, 'Add a source').click();
  await page.getByLabel('Name').first().fill(name);
  await page.getByLabel('Reached by').selectOption(kind);
  await where();
  await button(page, 'Connect').click();
  await expect(page.getByRole('status', { name: 'State' })).toContainText('live');
}

test('a web address is connected by seeing: values become readings, what repeats a table; what goes wrong is said and nothing is lost', async ({
  page,
}) => {
  await connect(page, 'Press box', 'Web address', async () => {
    await page.getByRole('textbox', { name: 'Address' }).fill(`${world.servicesUrl}/stats.xml`);
    await page.getByLabel('Ask every').fill('0.5');
  });
  const tree = page.getByRole('treegrid', { name: 'Document' });
  await expect(tree).toContainText('Thornmere Herons');
  await tree.locator(`[data-place="/statistics/team[@side='home']/totals/@shots"]`).click();
  const form = page.getByRole('form', { name: 'New reading' });
  await expect(form.getByLabel('Name')).toHaveValue('home shots');
  await expect(form).toContainText('→ 0');
  await form.getByLabel('Name').press('Enter');
  const row = page.locator('[data-reading="home shots"]');
  // The controller feeds the home shots already; these stand by.
  await button(page, 'Home shots?').click();
  await expect(row.getByLabel('Priority of home shots', { exact: true })).toHaveValue('2');
  await button(page, 'of all player, wherever they stand').first().click();
  const table = page.getByRole('group', { name: 'Table Press box: player' });
  await expect(table).toContainText('28 rows at /statistics/team/player');
  // Two players of one family name: a name is no key, and Foothill says what is.
  for (const key of ['number', 'team side'])
    await expect(table.getByLabel(`${key} is of the key`)).toBeChecked();
  await table.getByLabel('name is of the key', { exact: true }).first().check();
  await table.getByLabel('number is of the key').uncheck();
  await table.getByLabel('team side is of the key').uncheck();
  await expect(table).toContainText('Two rows have the name "Hallowick"');
  await table.getByRole('button', { name: 'team side and number tell all apart: use them' }).click();
  await expect(table).not.toContainText('Two rows');
  await button(page, 'Save').click();
  await expect(lastAction(page)).toHaveText('Saved the source Press box');

  await world.score({ kind: 'shot', side: 'home' });
  await expect(row).toContainText('1');
  const rows = async () => (await fetch(`${world.url}/state/tables/press-box-player.csv`)).text();
  await expect.poll(rows).toContain('.000');
  expect(await rows()).toContain('07,Fennimarsh,Bram');

  const trouble = page.getByRole('status', { name: 'Trouble' });
  for (const [fault, says] of [
    ['half', 'The XML breaks off'],
    ['page', 'A web page came instead of data'],
    ['error', 'answered 500'],
    ['circle', 'redirects in a circle'],
  ]) {
    await service('/fault', { fault });
    await page.keyboard.press('f');
    await expect(trouble).toContainText(says!);
    await expect(trouble).toContainText('The last good document stands.');
  }
  expect(await rows()).toContain('07,Fennimarsh,Bram');
  await service('/fault', { fault: 'none' });
  await button(page, 'Fetch now F').click();
  await world.score({ kind: 'shot', side: 'home' });
  await expect(row).toContainText('2');
});

test('a statistics file that is rewritten shows on air; half of one changes nothing', async ({
  page,
  browser,
}) => {
  const air = await browser.newPage();
  await air.goto(`${world.url}/air/broadcast`);
  await page.goto(`${world.url}/sources`);
  await page.getByLabel('Field fed by home score').selectOption('');
  await button(page, 'Save').click();
  await expect(lastAction(page)).toHaveText('Saved the source Controller');
  await connect(page, 'Stat file', 'File', async () => {
    await page.getByLabel('Path').fill(world.statisticsFile);
  });
  await page.locator('[data-place="/statistics/status/@home"]').click();
  await page.getByRole('form', { name: 'New reading' }).getByLabel('Name').fill('home score');
  await page.keyboard.press('Enter');
  await button(page, 'Home score?').click();
  await button(page, 'Save').click();
  await expect.poll(async () => (await world.field('home.score')).origin).toBe('stat-file');
  await world.score(goal('home'), goal('home'));
  await expect(air.locator('[data-layer="home score"]')).toHaveText('2');

  await world.command({ kind: 'fault', fault: 'freeze', on: true });
  const whole = readFileSync(world.statisticsFile, 'utf8');
  writeFileSync(world.statisticsFile, whole.slice(0, 300));
  await expect(page.getByRole('status', { name: 'Trouble' })).toContainText('breaks off');
  expect(await world.field('home.score')).toMatchObject({ value: 2 });
  writeFileSync(`${world.statisticsFile}.new`, whole.replace('home="2"', 'home="7"'));
  renameSync(`${world.statisticsFile}.new`, world.statisticsFile);
  await expect(air.locator('[data-layer="home score"]')).toHaveText('7');
});

test('lines of JSON, a feed and a workbook are connected through the screens', async ({ page }) => {
  await connect(page, 'Json line', 'TCP, we call', async () => {
    await page.getByLabel('Port').fill(String(world.simPort + 5));
  });
  await button(page, 'Read them as JSON lines').click();
  await page.locator(`[data-place="/document/teams/away/score"]`).click();
  await page.getByRole('form', { name: 'New reading' }).getByLabel('Name').fill('away score');
  await page.keyboard.press('Enter');
  await button(page, 'Away score?').click();
  await button(page, 'Save').click();
  await world.score(goal('away'));
  await expect(page.locator('[data-reading="away score"]')).toContainText('1');

  for (const [name, path, cell] of [
    ['Atom feed', 'news.atom', 'Foxes open a new practice hall'],
    ['Sheet book', 'sheet.xlsx', 'Slatebank Savings'],
  ] as const) {
    await connect(page, name, 'Web address', () =>
      page.getByRole('textbox', { name: 'Address' }).fill(`${world.servicesUrl}/${path}`),
    );
    await expect(page.getByRole('treegrid')).toContainText(cell);
    await page.getByRole('button', { name: 'Make a table of them' }).first().click();
    await expect(page.locator('[role=group][aria-label^="Table"]')).toContainText(cell);
    await button(page, 'Save').click();
    await expect(lastAction(page)).toHaveText(`Saved the source ${name}`);
  }
  const csv = async () => (await fetch(`${world.url}/state/tables/sheet-book-row.csv`)).text();
  await expect.poll(csv).toContain('002,Slatebank Savings,A steady hand since always,10');
});

test('the controller dies in the middle of play: one key runs its clock by hand, the pad scores, and it takes its fields back', async ({
  page,
}) => {
  await page.goto(`${world.url}/live`);
  const clock = page.locator('[data-layer="game clock"]').first();
  await world.score({ kind: 'clock', ms: 300_000 }, { kind: 'start' });
  await expect(clock).toHaveText(/^4:5\d$/);
  await world.command({ kind: 'fault', fault: 'freeze', on: true });
  await expect(page.getByRole('status', { name: 'Clock by hand' })).toContainText('Run clock by hand');
  const stopped = await world.field('clock.game');
  expect(stopped.running).toBe(false);
  const pressed = Date.now();
  await page.keyboard.press('k');
  await expect.poll(async () => (await world.field('clock.game')).running).toBe(true);
  const going = await world.field('clock.game');
  expect(going).toMatchObject({ origin: 'pad', quality: 'ok' });
  // From the last certain value on.
  const since = Number(stopped.value) - Number(going.value);
  expect(since).toBeGreaterThanOrEqual(0);
  expect(since).toBeLessThanOrEqual(Date.now() - pressed);
  await expect.poll(async () => (await world.field('clock.shot')).origin).toBe('pad');

  await page.goto(`${world.url}/sources`);
  await page.locator('[data-source="pad"]').click();
  await page.getByRole('button', { name: 'Home score up' }).click();
  await expect(lastAction(page)).toHaveText('Home score up by hand');
  expect(await world.field('home.score')).toMatchObject({ value: 1, origin: 'pad' });
  await page.getByRole('button', { name: 'Home score down' }).click();
  await page.getByRole('button', { name: 'Home score down' }).click();
  await expect(lastAction(page)).toHaveText('Home score goes from 0 to 99.');
  await page.getByRole('button', { name: 'Home score up' }).click();
  await expect(lastAction(page)).toHaveText('Home score up by hand');
  await world.killEngine();
  await world.startEngine();
  await expect.poll(async () => (await world.field('home.score')).quality).toBe('ok');
  expect(await world.field('home.score')).toMatchObject({ value: 1, origin: 'pad' });

  // It comes back: at a stoppage it has its fields again, and the pad is refused.
  await world.score({ kind: 'stop' });
  await world.command({ kind: 'fault', fault: 'freeze', on: false });
  await expect
    .poll(async () => (await world.field('home.score')).origin, { timeout: 60_000 })
    .toBe('controller');
  const refused = await world.act({ kind: 'hand', source: 'pad', field: 'home.score', do: 'add', text: '1' });
  expect(refused.reason).toBe(
    'Controller speaks and feeds Home score. Pin it to hold it over what Controller says.',
  );
});

test('the patch shows what is missing and what clashes, is changed by dragging and by keys, and undone', async ({
  page,
}) => {
  await page.goto(`${world.url}/patch`);
  const says = page.getByRole('status', { name: 'Patch' });
  const row = (key: string) => page.locator(`[data-field="${key}"]`);
  const fed = 'Controller · home score';
  await expect(row('home.score')).toContainText(fed);
  await page.getByRole('button', { name: 'Home score no longer from Controller' }).click();
  await expect(says).toContainText('one field that templates need is not fed');
  await expect(row('home.score')).toContainText('Nothing feeds it.');
  expect(await world.field('home.score')).toMatchObject({ quality: 'lost' });
  await page.getByRole('button', { name: /^home score/ }).dragTo(row('home.score'));
  await expect(row('home.score')).toContainText(fed);
  await expect.poll(async () => (await world.field('home.score')).quality).toBe('ok');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(row('home.score')).toContainText('Nothing feeds it.');
  // Without a mouse.
  await page.getByRole('button', { name: /^home score/ }).focus();
  await page.keyboard.press('Enter');
  await expect(says).toContainText('home score: choose the field that it feeds');
  await page.getByRole('button', { name: 'Feed Home score by home score' }).focus();
  await page.keyboard.press('Enter');
  await expect(row('home.score')).toContainText(fed);

  // A second source at the same place is a clash until one is given another.
  await page.getByLabel('Find a reading').fill('shooting');
  await page.getByRole('button', { name: /^home shooting/ }).click();
  await page.getByRole('button', { name: 'Feed Home shots by home shooting' }).click();
  await expect(row('home.shots')).toContainText('Statistics · home shooting');
  await page.getByRole('button', { name: 'Priority of Controller for Home shots' }).click();
  await expect(row('home.shots').getByText('3', { exact: true })).toBeVisible();
  await page.getByLabel('Find a field').fill('shots');
  await expect(page.locator('[data-field]')).toHaveCount(2);
});

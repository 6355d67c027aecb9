import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { button } from './support/page.ts';
import { onAirIn, snapshot } from './support/snapshot.ts';
import { expect, test, worldForTest } from './support/test.ts';

const world = worldForTest();
test.use({ viewport: { width: 1280, height: 800 } });

const on = async (key: string) => (await onAirIn(world))[key];
const goal = { kind: 'goal', side: 'home' } as const;

test('a takeover lies over the board by one key and is off by the same; beneath it the zones go on', async ({
  page,
  browser,
}) => {
  const board = await browser.newPage({ viewport: { width: 1600, height: 400 } });
  await board.goto(`${world.url}/air/main-board?scale=fit`);
  await page.goto(`${world.url}/live`);
  await expect(board.locator('[data-layer="home score"]').first()).toHaveText('0');
  await expect(page.locator('[data-lane-row="main-board/takeover"]')).toBeVisible();
  await page.keyboard.press('Shift+H');
  await expect(board.locator('[data-layer="word"]')).toHaveText('GOAL');
  await expect.poll(() => on('broadcast/lower')).toBe('goal-home');
  await world.score(goal);
  await expect(board.locator('[data-item="bar"] [data-layer="home score"]')).toHaveText('1');
  await page.keyboard.press('Shift+H');
  await expect(board.locator('[data-item="goal-home"]')).toHaveCount(0);
  await expect(board.locator('[data-item="bar"] [data-layer="home score"]')).toHaveText('1');
  // Or by itself, after its length.
  await page.keyboard.press('Shift+V');
  await expect(board.locator('[data-item="goal-away"]')).toHaveCount(1);
  await expect(board.locator('[data-item="goal-away"]')).toHaveCount(0);
  await expect(page.getByRole('status', { name: 'Last action' })).toHaveText('Away goal went off after 8 s');
});

test('a trigger is made in words and takes by itself; it is switched off at its lane; quiet cuts on boards in the venue', async ({
  page,
}) => {
  await page.goto(`${world.url}/live`);
  await button(page, 'Rules…').click();
  const rules = page.getByRole('dialog', { name: 'Rules' });
  await button(rules, 'New trigger').click();
  const form = rules.getByRole('form', { name: 'Trigger New trigger' });
  await form.getByRole('textbox', { name: 'Name' }).fill('Öpening goal');
  await form.getByRole('textbox', { name: 'When' }).click();
  await page.keyboard.type('=');
  await expect(form.getByLabel('Formula of When')).toBeFocused();
  await page.keyboard.type('home.score > 0');
  await form.getByRole('combobox', { name: 'Take' }).selectOption('goal-home');
  await button(form, 'Save').click();
  await expect(rules.locator('[data-trigger="trigger"]')).toContainText(
    'When home.score > 0 becomes true: Home goal',
  );
  await button(rules, 'Close').click();
  await world.score(goal);
  await expect.poll(() => on('main-board/takeover')).toBe('goal-home');
  await expect(page.getByText('· Foothill ·')).toBeVisible();
  await expect(page.getByRole('status', { name: 'Last action' })).toHaveText('Öpening goal: took Home goal');

  await page.keyboard.press('t');
  const self = page.getByRole('group', { name: 'By itself' });
  await self.getByRole('switch', { name: 'goes off' }).press('Space');
  await self.getByRole('switch', { name: 'Öpening goal' }).press('Space');
  await expect(page.getByRole('status', { name: 'Last action' })).toContainText('Öpening goal');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Delete');
  await expect.poll(() => on('main-board/takeover')).toBeNull();
  await world.score({ kind: 'undo' }, goal);
  await world.score(goal);
  await expect(page.locator('[data-field="home.score"]')).toContainText('2');
  expect(await on('main-board/takeover')).toBeNull();

  await page.keyboard.press('m');
  await expect(page.getByText('Quiet now: boards in the venue change without motion')).toBeVisible();
  await page.keyboard.press('Shift+V');
  await expect(page.getByRole('status', { name: 'Last action' })).toHaveText(
    'Took Away goal, without motion on Main board (quiet)',
  );
});

test('a controller lost in play is answered by one key; a page that is gone is named with its output', async ({
  page,
  browser,
}) => {
  const air = await browser.newPage();
  await air.goto(`${world.url}/air/broadcast`);
  await page.goto(`${world.url}/live`);
  await world.score({ kind: 'clock', ms: 300_000 }, { kind: 'start' });
  const clock = page.locator('[data-picture="air"] [data-layer="game clock"]');
  await expect(clock).toHaveText(/^4:5\d$/);
  await world.command({ kind: 'fault', fault: 'freeze', on: true });
  const lost = page.getByRole('alert', { name: 'Controller lost' });
  await expect(lost).toContainText(/Controller is lost\. Game clock stands at 4:5\d, its last certain value/);
  await page.keyboard.press('Escape');
  await expect(lost).toHaveCount(0);
  await page.keyboard.press('k');
  await expect.poll(async () => (await world.field('clock.game')).running).toBe(true);

  const { pages } = await snapshot<DeskSnapshot>(world, 'desk');
  // Until it was there long enough to be missed.
  await expect.poll(() => Date.now() - pages[0]!.since).toBeGreaterThan(6000);
  await air.close();
  const gone = page.getByRole('alert', { name: 'Page of an output' });
  await expect(gone).toContainText(/Broadcast: the page at this machine has been gone for \d+ s/);
  const again = await browser.newPage();
  await again.goto(`${world.url}/air/broadcast`);
  await expect(gone).toHaveCount(0);
});

test('held edits are marked, go out in one picture by Enter, and are thrown away by Escape', async ({
  page,
}) => {
  await page.goto(`${world.url}/live`);
  const air = (name: string) => page.locator(`[data-picture="air"] [data-layer="${name}"]`);
  await page.locator('[data-item-tile="captain"]').click();
  await page.keyboard.press('Enter');
  await expect(air('name')).toHaveText('Bram Hallowick');
  await page.keyboard.press('x');
  await page.locator('[data-field="home.score"]').click();
  await page.keyboard.press('=');
  await page.keyboard.press('=');
  await button(page, 'Home score down').click();
  await expect(page.locator('[data-field="home.score"]')).toContainText('held at 1, not sent');
  const name = page.getByRole('region', { name: 'Lower third' }).getByRole('textbox', { name: 'Name' });
  await name.fill('Ödd Nåme');
  await name.press('Escape');
  const held = page.getByRole('status', { name: 'Held edits' });
  await expect(held).toContainText('Home score: 1; Away captain');
  expect((await world.field('home.score')).text).toBe('0');
  await page.keyboard.press('Enter');
  await expect(air('name')).toHaveText('Ödd Nåme');
  await expect(air('home score')).toHaveText('1');
  await expect(held).toHaveCount(0);
  await page.keyboard.press('=');
  await expect(held).toContainText('Home score: 2');
  await page.keyboard.press('Escape');
  await expect(held).toHaveCount(0);
  expect((await world.field('home.score')).text).toBe('1');
});

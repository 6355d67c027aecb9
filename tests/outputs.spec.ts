import type { Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { button } from './support/page.ts';
import { snapshot } from './support/snapshot.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

const saved = async (key: string) =>
  (await snapshot<DeskSnapshot>(world, 'desk')).documents.output.find((o) => o.key === key);
const zones = async (key: string) => (await saved(key))?.zones.map((z) => `${z.name} ${z.x} ${z.width}`);
const status = (page: Page) => page.getByRole('status', { name: 'Saving' });
const lie = (page: Page) => page.getByRole('status', { name: 'How the zones lie' });
const number = (page: Page, name: string) => page.getByRole('textbox', { name, exact: true });

test('a board is made, divided by a list of widths, drawn, typed, undone, and fetched at its addresses', async ({
  page,
}) => {
  await page.goto(`${world.url}/outputs`);
  const form = page.getByRole('form', { name: 'New output' });
  await form.getByPlaceholder('Name').fill('Rïnk board (1)');
  await form.getByLabel('Size').selectOption('Long board, 6400 × 1200');
  await button(form, 'Make it').click();
  await expect(page.getByRole('heading', { name: 'Rïnk board (1)' })).toBeVisible();
  const key = (await snapshot<DeskSnapshot>(world, 'desk')).documents.output.at(-1)!.key;

  // The whole board at once; a list that is none says so and changes nothing.
  const divide = page.getByRole('form', { name: 'Divide' });
  const sizes = divide.getByPlaceholder('800, 1400');
  await sizes.fill('800, wide');
  await expect(divide).toContainText('“wide” is no size in whole px.');
  await expect(button(divide, 'Divide')).toBeDisabled();
  await sizes.fill('800, 1400, 2000, 1400, 700');
  await expect(divide).toContainText('Together 6300 of 6400 px, 100 px stay free');
  await sizes.fill('800, 1400, 2000, 1400, 1600/2');
  await sizes.press('Enter');
  const five = ['Zone 1 0 800', 'Zone 2 800 1400', 'Zone 3 2200 2000', 'Zone 4 4200 1400', 'Zone 5 5600 800'];
  await expect.poll(() => zones(key)).toEqual(five);
  await expect(lie(page)).toContainText('Widths together 6400 of 6400 px');
  await expect(lie(page)).toContainText('No gaps');
  await button(page, 'Add a zone').click();
  await expect.poll(async () => (await zones(key))?.at(-1)).toBe('Takeover 0 6400');
  await expect(lie(page)).toContainText('No overlaps, nothing outside');

  // What lies over all lets the others be chosen.
  await page.locator('[data-id="zone-4"]').click();
  await expect(page.locator('tr[data-zone="zone-4"]')).toHaveAttribute('data-chosen', 'true');

  // Numbers with arithmetic; what lies wrong is told, and leads to its zone.
  await number(page, 'Width of Zone 3').fill('800+1400');
  await page.keyboard.press('Enter');
  await expect(lie(page)).toContainText('Zone 4 over Zone 3: 200 × 1200');
  await expect(page.locator('[data-mark="overlap"]')).toHaveCount(1);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(lie(page)).toContainText('No overlaps');
  await number(page, 'Left of Zone 5').fill('+=100');
  await page.keyboard.press('Enter');
  await expect(lie(page)).toContainText('Zone 5 reaches outside: 100 px at the right');
  await expect(lie(page)).toContainText('1 gap, 2 % free, the largest 100 × 1200 at 5600, 0');
  const sheet = (await page
    .getByRole('group', { name: 'The zones on the picture' })
    .locator('> div')
    .boundingBox())!;
  const gap = (await page.locator('[data-mark="gap"]').boundingBox())!;
  expect((gap.x - sheet.x) / sheet.width).toBeCloseTo(5600 / 6400, 2);
  expect(gap.width / sheet.width).toBeCloseTo(100 / 6400, 3);
  await page.getByRole('button', { name: /^Undo/ }).click();

  // By hand: it is moved away, drawn in by its neighbour's edge, and fills what is left.
  await page
    .locator('[data-zone="zone-1"]')
    .getByRole('textbox', { name: 'Name of Zone 1' })
    .fill('Sponsor left');
  await page.locator('[data-zone="zone-6"]').getByRole('button', { name: 'Delete Takeover' }).click();
  await number(page, 'Width of Sponsor left').fill('600');
  await page.keyboard.press('Enter');
  const zone = page.locator('[data-id="zone-1"]');
  const box = (await zone.boundingBox())!;
  const at = { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  for (const by of [4, 8, 12, 16, 18, 20]) await page.mouse.move(at.x + by, at.y);
  await page.mouse.up();
  await expect.poll(async () => (await zones(key))?.[0]).toBe('Sponsor left 200 600');
  await page.keyboard.press('Shift+ArrowLeft');
  await expect.poll(async () => (await zones(key))?.[0]).toBe('Sponsor left 190 600');
  await button(page, 'Fill the space around it').click();
  await expect.poll(async () => (await zones(key))?.[0]).toBe('Sponsor left 0 800');

  // It is there after a reload, and its page is as large as it is, over the colour that was chosen.
  await page.getByLabel('Background').selectOption('A colour');
  await page.locator('input[type="color"]').fill('#123456');
  await expect
    .poll(async () => (await saved(key))?.background)
    .toEqual({ kind: 'colour', colour: '#123456' });
  await expect(status(page)).toHaveText('Saved');
  await page.reload();
  await expect(page.getByRole('textbox', { name: 'Name of Sponsor left' })).toBeVisible();
  // A page that is fetched from another machine has no clipboard: it is copied all the same.
  await page.evaluate(() => Object.defineProperty(navigator, 'clipboard', { value: undefined }));
  await button(page, 'Copy').first().click();
  await expect(button(page, 'Copied')).toBeVisible();
  await page.getByRole('textbox', { name: 'Name', exact: true }).first().focus();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('heading', { name: `${world.url}/air/${key}` })).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('heading', { name: 'Rïnk board (1)' })).toBeVisible();
  await button(page, 'QR code of Key').click();
  await expect(page.getByRole('img', { name: `QR code: ${world.url}/air/${key}?key` })).toBeVisible();
  const [air] = await Promise.all([
    page.waitForEvent('popup'),
    page.getByRole('link', { name: 'Transparent page' }).click(),
  ]);
  await expect(air.locator('#stage')).toHaveCSS('width', '6400px');
  await expect(air.locator('#stage')).toHaveCSS('background-color', 'rgb(18, 52, 86)');

  // It is told that the page is open, from where and how late it is; and that it is gone.
  const open = page.getByRole('list', { name: 'Pages that are open' }).getByRole('listitem');
  await expect(open).toHaveCount(1);
  await expect(open).toHaveText(/^Transparent page this machine ?\d+ ms late$/);
  await air.goto(`${world.url}/air/${key}?key`);
  await expect(open).toHaveText(/^Key this machine/);
  await air.close();
  await expect(page.getByText('No page of this output is open.')).toBeVisible();

  // It stands last, is put first, and that is taken back; another is made of it with all its zones.
  const list = page.getByRole('complementary', { name: 'Outputs' });
  const order = () =>
    list.locator('[data-output]').evaluateAll((all) => all.map((o) => o.textContent!.slice(0, 4)));
  await expect.poll(order).toEqual(['Broa', 'Main', 'Ribb', 'Rïnk']);
  const [from, to] = [
    await list.locator('[data-output]').last().boundingBox(),
    await list.locator('[data-output]').first().boundingBox(),
  ];
  await page.mouse.move(from!.x + 40, from!.y + 20);
  await page.mouse.down();
  await page.mouse.move(from!.x + 40, from!.y + 10, { steps: 3 });
  await page.mouse.move(to!.x + 40, to!.y + 3, { steps: 8 });
  await page.mouse.up();
  await expect.poll(order).toEqual(['Rïnk', 'Broa', 'Main', 'Ribb']);
  await button(list.getByRole('group', { name: 'Done last' }), 'Undo').click();
  await expect.poll(order).toEqual(['Broa', 'Main', 'Ribb', 'Rïnk']);
  await button(page, 'Duplicate').click();
  await expect(page.getByRole('heading', { name: 'Rïnk board (1) copy' })).toBeVisible();
  await sizes.fill('3000, 3400');
  await divide.getByText('Names, left to right').click();
  await divide.getByLabel('Name of part 2').fill('Visitors');
  await expect(divide).toContainText('Zone 3, Zone 4, Zone 5: deleted');
  await button(divide, 'Divide').click();
  await expect.poll(() => zones(`${key}-copy`)).toEqual(['Sponsor left 0 3000', 'Visitors 3000 3400']);
  await list.getByRole('option', { name: /^Rïnk board \(1\)(?! copy)/ }).click();

  // It is deleted, and brought back with all its zones.
  const stood = await saved(key);
  await button(page, 'Delete the output…').click();
  await button(page, 'Delete').click();
  await expect(list.locator('[data-output]')).toHaveCount(4);
  await expect(list.getByRole('group', { name: 'Done last' })).toContainText('Rïnk board (1)');
  await button(list, 'Bring it back').click();
  await expect(list.locator('[data-output]')).toHaveCount(5);
  await expect(list.getByRole('group', { name: 'Done last' })).toHaveCount(0);
  expect(await saved(key)).toEqual(stood);
});

test('what is on air moves with its zone once that is saved, for two desks alike; a zone in use is not deleted', async ({
  browser,
}) => {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const [ode, ada, air] = [await context.newPage(), await context.newPage(), await context.newPage()];
  await air.goto(`${world.url}/air/broadcast`);
  const bar = air.locator('[data-item="bar"]');
  await expect(bar).toHaveCSS('top', '54px');
  for (const page of [ode, ada]) {
    await page.goto(`${world.url}/outputs`);
    await page.getByRole('option', { name: /^Broadcast/ }).click();
    await expect(number(page, 'Top of Top')).toHaveValue('54');
  }
  await number(ode, 'Top of Top').fill('200');
  await ode.keyboard.press('Enter');
  await expect(status(ode)).toContainText('On air in Top');
  await expect(bar).toHaveCSS('top', '54px');
  await ode.keyboard.press('Control+s');
  await expect(status(ode)).toHaveText('Saved');
  await expect(bar).toHaveCSS('top', '200px');
  await expect(number(ada, 'Top of Top')).toHaveValue('200');
  await ode.getByRole('button', { name: 'Delete Top', exact: true }).click();
  await ode.keyboard.press('Control+s');
  await expect(status(ode)).toContainText('cannot be deleted: Scoreboard bar is on air in it');
  for (const _ of [1, 2]) await ode.getByRole('button', { name: /^Undo/ }).click();
  await ode.keyboard.press('Control+s');
  await expect(bar).toHaveCSS('top', '54px');
  await context.close();
});

test('a test card is on every page of its output alike, is told on the live view, and is taken off there; a start shows none', async ({
  page,
  context,
}) => {
  const cards = page.locator('[data-card="Main board"]');
  await page.goto(`${world.url}/outputs`);
  await page.getByRole('option', { name: /^Main board/ }).click();
  const panel = page.getByRole('region', { name: 'Test card' });
  // Something is on air there: it is asked first.
  await button(panel, 'Show it…').click();
  await expect(panel).toContainText('It covers all that is on air on Main board.');
  await button(panel, 'Leave it').click();
  await button(panel, 'Show it…').click();
  await button(panel, 'Show it').click();
  await expect(cards).toBeVisible();
  const [one, two] = [await context.newPage(), await context.newPage()];
  await one.goto(`${world.url}/air/main-board`);
  await two.goto(`${world.url}/air/main-board?key`);
  for (const air of [one, two]) {
    await expect(air.locator('[data-card]')).toContainText('Statistics1400 × 1200 at 4200, 0');
    await expect(air.locator('[data-card]')).toContainText(
      /Main board, 6400 × 1200 · .* · \d+ ms to the server/,
    );
  }
  const bar = one.locator('[data-card-bar]');
  const before = await bar.getAttribute('x');
  await expect.poll(() => bar.getAttribute('x')).not.toBe(before);
  expect(await world.act({ kind: 'test-card', output: 'main-board', on: true })).toMatchObject({
    reason: 'The test card is on Main board already.',
  });

  await page.goto(`${world.url}/live`);
  const told = page.getByRole('alert').filter({ hasText: 'Test card on Main board' });
  await button(told, 'Take it off').click();
  await expect(told).toHaveCount(0);
  for (const air of [one, two]) await expect(air.locator('[data-card]')).toHaveCount(0);
  // Undo brings it back; it does not outlive the server.
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(told).toBeVisible();
  await expect(one.locator('[data-card]')).toBeVisible();
  await world.killEngine();
  await world.startEngine();
  await expect(told).toHaveCount(0);
  await expect(one.locator('[data-card]')).toHaveCount(0);
});

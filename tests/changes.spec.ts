import type { Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import { button } from './support/page.ts';
import { newTemplate } from './support/sheet.ts';
import { layersIn } from './support/snapshot.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

const layer = (page: Page, name: string) => page.locator(`[data-picture="workshop"] [data-layer="${name}"]`);
const offer = (page: Page, name: string) => page.locator(`[data-offer="${name}"]`);
const shows = (page: Page) => page.getByLabel('Shows', { exact: true });
const row = (page: Page, name: string) => page.locator(`[data-layer-row="${name}"]`);
const inDocument = (key: string) => layersIn(world, key);

test('a field is dragged onto a layer, a property and the empty sheet, and is live by the controller', async ({
  page,
}) => {
  await newTemplate(page, world, 'Dragged', [800, 200]);
  const sheet = page.locator('[data-behind]');
  const box = (await sheet.boundingBox())!;
  await page.keyboard.press('t');
  await page.mouse.move(box.x + 30, box.y + 30);
  await page.mouse.down();
  await page.mouse.move(box.x + 130, box.y + 80);
  await page.mouse.up();
  await expect(layer(page, 'Text')).toHaveText('Text');

  await page.getByRole('tab', { name: 'Board' }).click();
  await page.getByLabel('Find a field, input or column').fill('home score');
  await offer(page, 'Home score').dragTo(sheet, { targetPosition: { x: 60, y: 50 } });
  await world.command({ kind: 'game', action: { kind: 'goal', side: 'home' } });
  await expect(layer(page, 'Text')).toHaveText('1');
  // Where there is nothing, it is drawn.
  await offer(page, 'Home score').dragTo(sheet, { targetPosition: { x: 400, y: 120 } });
  await expect(layer(page, 'Home score')).toHaveText('1');
  // Onto a property that takes it; one that does not stays as it is.
  await page.getByLabel('Find a field, input or column').fill('away colour');
  await offer(page, 'Away colour').dragTo(page.locator('[data-prop="size"]'));
  await offer(page, 'Away colour').dragTo(page.locator('[data-prop="colour"]'));
  await expect(page.getByRole('button', { name: 'Stop binding Colour' })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Bind Size' })).toBeVisible();
  // Into a line, among what stands there.
  await page.getByLabel('Find a field, input or column').fill('away score');
  await page.locator('[data-prop="text"] .cm-content').click();
  await page.keyboard.press('End');
  await page.keyboard.type(' to ');
  await offer(page, 'Away score').dragTo(page.locator('[data-prop="text"] .cm-line'));
  await expect(page.locator('[data-prop="text"] .chip')).toHaveCount(2);
  await world.command({ kind: 'game', action: { kind: 'goal', side: 'away' } });
  await expect(layer(page, 'Home score')).toContainText('to');
  await expect(layer(page, 'Home score')).toContainText('1');

  // What stood there before is what it says as designed; a press puts it into what is chosen.
  await page.getByRole('tab', { name: 'Layers' }).click();
  await row(page, 'Text').click();
  await expect(row(page, 'Text').getByRole('img', { name: 'bound, live' })).toBeVisible();
  await shows(page).selectOption('as designed');
  await expect(layer(page, 'Text')).toHaveText('Text');
  await shows(page).selectOption('samples');
  await expect(layer(page, 'Text')).toHaveText('88');
  await page.getByRole('tab', { name: 'Board' }).click();
  await page.getByLabel('Find a field, input or column').fill('home name');
  await offer(page, 'Home name').click();
  await shows(page).selectOption('every team');
  const one = page.getByRole('group', { name: 'One by one' });
  await expect(one).toContainText('1 of');
  const first = await layer(page, 'Text').textContent();
  await one.getByRole('button', { name: 'The next one' }).click();
  await expect(layer(page, 'Text')).not.toHaveText(first!);
  await one.getByRole('button', { name: 'The next one' }).press('ArrowLeft');
  await expect(layer(page, 'Text')).toHaveText(first!);
  await page.keyboard.press('Escape');
  await page.getByRole('application', { name: 'Canvas' }).focus();
  await page.keyboard.press('ArrowLeft');
  await expect(layer(page, 'Text')).not.toHaveText(first!);
  await expect
    .poll(async () => (await inDocument('dragged')).map((l) => l.kind === 'text' && [l.text, l.sample]))
    .toEqual([
      [{ field: 'home.name' }, 'Text'],
      [{ pieces: [{ field: 'home.score' }, { fixed: ' to ' }, { field: 'away.score' }] }, 'Home score'],
    ]);
});

test('what changes is named with its shortest and longest content, and what is missing is told', async ({
  page,
}) => {
  await page.goto(`${world.url}/templates/lower-third`);
  await expect(layer(page, 'name')).toBeVisible();
  await page.keyboard.press('w');
  const changes = page.getByRole('group', { name: 'What changes' });
  const label = changes.locator('[data-changes="name"]');
  await expect(label).toContainText('Name');
  await expect(label).toContainText(/\w+ … \w+/);
  await expect(changes.locator('[data-state="missing"]')).toHaveCount(0);
  // No label covers another.
  const boxes = await changes.locator('[data-changes]').evaluateAll((all) =>
    all.map((el) => {
      const { left, top, right, bottom } = el.getBoundingClientRect();
      return { left, top, right, bottom };
    }),
  );
  for (const [i, a] of boxes.entries())
    for (const b of boxes.slice(i + 1))
      expect(a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom).toBe(false);
  await label.click();
  await expect(page.getByRole('toolbar', { name: 'Arrange', exact: true })).toContainText('name');
  await page.keyboard.press('w');
  await expect(changes).toBeHidden();
});

test('the form says what does not show and switches it on, shows members as pictures, and is tried with take and out', async ({
  page,
}) => {
  await page.goto(`${world.url}/templates/lower-third`);
  await page.getByRole('tab', { name: /^Inputs/ }).click();
  const form = page.getByRole('region', { name: 'The operator’s form' });
  const preview = form.getByRole('group', { name: 'Preview' });
  const words = preview.locator('[data-layer="call-out text"]');
  await form.getByRole('textbox', { name: 'Call-out: text' }).fill('Hat trick');
  const callOut = form.getByRole('switch', { name: 'Call-out' });
  if (await callOut.isChecked()) await callOut.press('Space');
  await expect(form).toContainText('Does not show: call-out is hidden.');
  await expect(layer(page, 'call-out text')).toBeHidden();
  await button(form, 'Switch Call-out on').click();
  await expect(form).not.toContainText('Does not show');
  await expect(layer(page, 'call-out text')).toContainText(/hat trick/i);

  const members = form.getByRole('radiogroup', { name: 'Corner badge' });
  await expect(members.locator('[data-member="Captain"] [data-layer]').first()).toBeVisible();
  await members.locator('[data-member="Captain"]').click();
  await expect(layer(page, 'captain').first()).toBeVisible();

  await expect(words).toContainText(/hat trick/i);
  await button(preview, 'Out').click();
  await expect(preview.locator('[data-item]')).toHaveCount(0);
  await form.getByRole('textbox', { name: 'Call-out: text' }).fill('Four');
  await expect(preview.locator('[data-item]')).toHaveCount(0);
  await button(preview, 'Take').click();
  await expect(words).toContainText(/four/i);

  // A player is chosen from the roster, under a heading; what it holds is the row's key.
  await page.locator('[data-input="name"]').getByRole('button', { name: 'Name', exact: true }).click();
  await page.locator('[data-input="name"]').getByLabel('Heading above it').fill('Who');
  await expect(form.getByRole('heading', { name: 'Who' })).toBeVisible();
  const badge = page.locator('[data-input]').filter({ hasText: 'Corner badge' });
  await badge.getByRole('button', { name: 'Corner badge', exact: true }).click();
  await badge.getByLabel('How it is filled in').selectOption('home.players/name');
  await form.getByLabel('Corner badge').selectOption({ index: 3 });
  await expect(form.getByLabel('Corner badge')).not.toHaveValue('');
  await badge.getByLabel('How it is filled in').selectOption('from a list');
  await button(badge, 'Add a choice').click();
  await expect(badge.getByLabel('What choice 5 is called')).toHaveValue('Another');
  await badge.getByRole('button', { name: 'Remove Another' }).click();
  await badge.getByLabel('Shown as').selectOption('colours');
  await expect(badge.getByLabel('Colour of Captain')).toBeVisible();
});

test('a guide is drawn from a ruler, draws a layer in, is moved by keys and dragged away; templates lie in folders', async ({
  page,
}) => {
  await newTemplate(page, world, 'Guided', [700, 300]);
  const sheet = (await page.locator('[data-behind]').boundingBox())!;
  const zoom = sheet.width / 700;
  const to = (x: number, y: number) => page.mouse.move(sheet.x + x * zoom, sheet.y + y * zoom, { steps: 6 });
  const ruler = (await page.locator('[data-ruler="x"]').boundingBox())!;
  await page.mouse.move(ruler.x + 40, ruler.y + 6);
  await page.mouse.down();
  await to(200, 100);
  await page.mouse.up();
  const guide = page.getByRole('slider', { name: /^Guide down at/ });
  await expect(guide).toHaveCount(1);
  const at = Number(await guide.getAttribute('data-guide'));
  expect(Math.abs(at - 200)).toBeLessThan(3);
  await page.keyboard.press('r');
  await to(300, 60);
  await page.mouse.down();
  await to(420, 160);
  await page.mouse.up();
  await expect(page.locator('[data-layer-row="Shape"]')).toBeVisible();
  // A copy that was moved goes as much further at the next one; what is seen is moved with the space bar down.
  await page.keyboard.press('Control+d');
  await page.getByRole('application', { name: 'Canvas' }).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Control+d');
  await expect
    .poll(async () => {
      const [a, b, c] = (await inDocument('guided')) as { x: number; y: number }[];
      return a && b && c && [b.x - a.x, b.y - a.y, c.x - b.x, c.y - b.y];
    })
    .toEqual([16, 26, 16, 26]);
  await page.keyboard.press('Delete');
  await page.keyboard.press('Control+z');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Control+z');
  await expect(page.locator('[data-layer-row^="Shape"]')).toHaveCount(1);
  await page.getByLabel('Zoom').selectOption('4');
  const area = page.locator('[data-canvas]');
  const seen = () => area.evaluate((el) => [el.scrollLeft, el.scrollTop]);
  await area.hover();
  const before = await seen();
  await page.keyboard.down(' ');
  const middle = (await area.boundingBox())!;
  await page.mouse.move(middle.x + 300, middle.y + 300);
  await page.mouse.down();
  await page.mouse.move(middle.x + 200, middle.y + 220, { steps: 3 });
  await page.mouse.up();
  await page.keyboard.up(' ');
  expect(await seen()).toEqual([before[0]! + 100, before[1]! + 80]);
  await page.getByLabel('Zoom').selectOption('fit');
  // Its left edge comes near the guide, and is on it.
  await to(360, 110);
  await page.mouse.down();
  await to(360 - 100 + 4, 110);
  await page.mouse.up();
  await expect.poll(async () => (await inDocument('guided'))[0]).toMatchObject({ x: at });
  await guide.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(guide).toHaveAttribute('data-guide', String(at + 10));
  const line = (await guide.boundingBox())!;
  await page.mouse.move(line.x + line.width / 2, sheet.y + 200);
  await page.mouse.down();
  await page.mouse.move(sheet.x - 30, sheet.y + 200, { steps: 4 });
  await page.mouse.up();
  await expect(guide).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(guide).toHaveCount(1);
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');

  await page.goto(`${world.url}/templates`);
  await page.locator('[data-template="guided"]').click();
  const details = page.getByRole('complementary', { name: 'Template', exact: true });
  await details.getByLabel('Folder').fill('Try-outs, ödd');
  await details.getByLabel('Folder').press('Enter');
  const folder = page.getByRole('complementary', { name: 'Templates' }).getByLabel('Folder');
  await folder.selectOption('Try-outs, ödd (1)');
  await expect(page.locator('[data-template]')).toHaveCount(1);
  await page.getByLabel('Find a template').fill('lower');
  await expect(page.locator('[data-template="lower-third"]')).toBeVisible();
});

test('what a sitting ended with is a version, what is given a name is found again and restored', async ({
  page,
}) => {
  await newTemplate(page, world, 'Sittings');
  const saved = page.getByRole('status', { name: 'Saving' });
  const sheet = (await page.locator('[data-behind]').boundingBox())!;
  for (const n of [1, 2, 3]) {
    await page.keyboard.press('r');
    await page.mouse.click(sheet.x + 40 * n, sheet.y + 40);
    await expect(page.locator('[data-layer-row^="Shape"]')).toHaveCount(n);
    await expect(saved).toHaveText('Saved');
    await expect.poll(async () => (await inDocument('sittings')).length).toBe(n);
  }
  await button(page, 'Versions…').click();
  const dialog = page.getByRole('dialog', { name: 'Versions of Sittings' });
  await dialog.getByLabel('Name of what stands now').fill('for Saturday, ödd');
  await button(dialog, 'Name it').click();
  await expect(dialog.locator('[data-revision]').filter({ hasText: '“for Saturday, ödd”' })).toHaveCount(1);
  await button(dialog, 'Close').click();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await inDocument('sittings')).length).toBe(0);
  await button(page, 'Versions…').click();
  // One for what is there now, one that has a name; the others are within them until they are asked for.
  const few = await dialog.locator('[data-revision]').count();
  await dialog.getByText('each save, not only').click();
  await expect.poll(() => dialog.locator('[data-revision]').count()).toBeGreaterThan(few);
  await dialog.locator('[data-revision]').filter({ hasText: '“for Saturday, ödd”' }).click();
  await button(dialog, 'Restore this version').click();
  await expect(page.locator('[data-layer-row^="Shape"]')).toHaveCount(3);
});

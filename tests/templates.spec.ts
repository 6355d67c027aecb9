import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import sharp from 'sharp';
import type { Template } from '../src/core/documents/template.ts';
import { layersOf } from '../src/core/layers/kinds.ts';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { button } from './support/page.ts';
import { drag, newTemplate } from './support/sheet.ts';
import { snapshot } from './support/snapshot.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

const saved = async (key: string): Promise<Template | undefined> =>
  (await snapshot<DeskSnapshot>(world, 'desk')).documents.template.find((t) => t.key === key);
/** The layers of a template as they are saved, in the order in which they are drawn. */
const layers = async (key: string) => [...layersOf((await saved(key))?.layouts[0]?.layers ?? [])];
const status = (page: Page) => page.getByRole('status', { name: 'Saving' });
const layer = (page: Page, name: string) => page.locator(`[data-picture="workshop"] [data-layer="${name}"]`);

test('a template is made in a size of its own, drawn with the mouse, changed by keys and numbers, and saved by itself', async ({
  page,
}) => {
  await newTemplate(page, world, 'Ödd plate (1)', [800, 200]);
  const key = new URL(page.url()).pathname.split('/').at(-1)!;
  const size: [number, number] = [800, 200];

  // A shape and a text are drawn.
  await page.keyboard.press('r');
  await drag(page, [100, 40], [500, 160], size);
  await expect(layer(page, 'Shape')).toBeVisible();
  await page.keyboard.press('t');
  await drag(page, [120, 60], [420, 120], size);
  await expect(layer(page, 'Text')).toHaveText('Text');
  await expect.poll(async () => (await layers(key)).map((l) => l.kind)).toEqual(['shape', 'text']);
  const [shape] = await layers(key);
  expect(Math.abs(Number(shape!.x) - 100)).toBeLessThan(3);
  expect(Math.abs(Number(shape!.width) - 400)).toBeLessThan(4);

  // Numbers are typed, also as arithmetic; the text is bound to the board and shows what it says.
  const properties = page.getByRole('complementary', { name: 'Properties' });
  await page.getByRole('row', { name: /^Shape/ }).click();
  await properties.getByRole('textbox', { name: 'Width' }).fill('1920/4');
  await page.keyboard.press('Enter');
  await expect(layer(page, 'Shape')).toHaveCSS('width', '480px');
  await page.getByRole('row', { name: /^Text/ }).click();
  await properties.getByLabel('Text', { exact: true }).fill('GOAL!');
  await expect(layer(page, 'Text')).toHaveText('GOAL!');

  // Arrow keys move what is chosen; undo takes back a step at a time, redo does it again.
  await page.locator('[data-canvas]').focus();
  const left = async () =>
    Number.parseFloat(await layer(page, 'Text').evaluate((el: HTMLElement) => el.style.left));
  const before = await left();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(left).toBe(before + 11);
  await page.keyboard.press('Control+z');
  await expect.poll(left).toBe(before);
  await page.keyboard.press('Control+y');
  await expect.poll(left).toBe(before + 11);

  // Both are grouped, and the group is moved with the mouse; a name is a label.
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Control+g');
  await expect.poll(async () => (await layers(key)).map((l) => l.kind)).toEqual(['group', 'shape', 'text']);
  await drag(page, [520, 140], [560, 150], size);
  await expect(status(page)).toHaveText('Saved');
  await expect.poll(async () => Number((await layers(key))[0]!.x)).toBeGreaterThan(120);
  await page.getByRole('row', { name: /^Group/ }).dblclick();
  await page.keyboard.type('plate');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await layers(key))[0]!.name).toBe('plate');

  // What was done is there after the page is opened anew; it is deleted in the library and brought back.
  await expect(status(page)).toHaveText('Saved');
  await page.reload();
  await expect(layer(page, 'Text')).toHaveText('GOAL!');
  await page.getByRole('link', { name: 'Templates', exact: true }).first().click();
  await page.locator(`[data-template="${key}"]`).click();
  const details = page.getByRole('complementary', { name: 'Template', exact: true });
  await button(details, 'Delete…').click();
  await button(details, 'Delete').click();
  await expect(page.locator(`[data-template="${key}"]`)).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.locator(`[data-template="${key}"]`)).toBeVisible();
});

test('what is on air is changed only when it is saved to air; what items are made of is not deleted', async ({
  page,
}) => {
  await world.act({ kind: 'take', item: 'captain' });
  await page.goto(`${world.url}/templates/lower-third`);
  const air = await page.context().newPage();
  await air.goto(`${world.url}/air/broadcast`);
  const ground = air.locator('[data-layer="plate ground"] > *').first();
  await expect(ground).toBeVisible();
  // Found, not scrolled to: a press in the very frame of a scroll is taken back by it.
  await page.getByLabel('Find a layer').fill('plate ground');
  await page.getByRole('row', { name: /^plate ground/ }).click();
  const properties = page.getByRole('complementary', { name: 'Properties' });
  await properties.getByLabel('Fill', { exact: true }).fill('#123456');
  await expect(status(page)).toContainText('On air in Broadcast, Lower third');
  await expect(layer(page, 'plate ground').locator('*').first()).toHaveCSS(
    'background-color',
    'rgb(18, 52, 86)',
  );
  await expect(ground).toHaveCSS('background-color', 'rgb(22, 19, 15)');
  await properties.getByLabel('Fill', { exact: true }).blur();
  await page.keyboard.press('Control+s');
  await expect(status(page)).toHaveText('Saved');
  await expect(ground).toHaveCSS('background-color', 'rgb(18, 52, 86)');

  await page.goto(`${world.url}/templates`);
  await page.locator('[data-template="lower-third"]').click();
  const details = page.getByRole('complementary', { name: 'Template', exact: true });
  await expect(details).toContainText('On air now');
  // Each item that is made of it stands there with where it goes, as it is now.
  const uses = () => details.locator('dt:has-text("Used by") ~ dd').allTextContents();
  expect(await uses()).toContain('Away captain Broadcast, Lower third');
  await world.act({
    ...{ kind: 'put-item', item: 'captain', name: 'Cap of two places', template: 'lower-third' },
    zones: [
      { output: 'broadcast', zone: 'lower' },
      { output: 'main-board', zone: 'camera' },
    ],
  });
  await expect.poll(uses).toContain('Cap of two places Broadcast, Lower third; Main board, Camera');
  await expect(button(details, 'Delete…')).toBeDisabled();
  expect(await world.act({ kind: 'remove-document', what: 'template', key: 'lower-third' })).toMatchObject({
    ok: false,
    reason: expect.stringContaining('needs this template'),
  });
});

test('two browsers work on one template: different layers both stand, the same thing is chosen', async ({
  browser,
}) => {
  const open = async () => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.goto(`${world.url}/templates/player-card`);
    await expect(page.locator('[data-layer-row]').first()).toBeVisible();
    return page;
  };
  const [ode, ada] = [await open(), await open()];
  const names = (await layers('player-card'))
    .filter((l) => typeof l.x === 'number' && !('layers' in l))
    .map((l) => l.name);
  const [one, two] = names as [string, string];
  const rename = async (page: Page, from: string, to: string) => {
    await page.locator(`[data-layer-row="${from}"]`).dblclick();
    await page.keyboard.type(to);
    await page.keyboard.press('Enter');
  };
  const told: string[] = [];
  ada.on('websocket', (socket) => socket.on('framereceived', ({ payload }) => told.push(String(payload))));
  await ada.reload();
  await expect(ada.locator('[data-layer-row]').first()).toBeVisible();
  await rename(ode, one, 'by Ode');
  await expect(ada.locator('[data-layer-row="by Ode"]')).toBeVisible();
  // What is sent and told is the change, not the template.
  const changes = told.flatMap((text) => {
    const { ops = [] } = JSON.parse(text) as { ops?: object[] };
    return ops
      .map((op) => JSON.stringify(op))
      .filter((op) => op.includes('by Ode') && op.includes('"changed"'));
  });
  expect(changes).toHaveLength(1);
  expect(changes[0]!.length).toBeLessThan(1000);
  await rename(ada, two, 'by Ada');
  await expect(ode.locator('[data-layer-row="by Ada"]')).toBeVisible();
  await ode.keyboard.press('Control+z');
  await expect(ada.locator(`[data-layer-row="${one}"]`)).toBeVisible();
  await expect(ada.locator('[data-layer-row="by Ada"]')).toBeVisible();

  // What is deleted while another has it chosen is gone for both, and said there.
  await ada.locator('[data-layer-row="by Ada"]').click();
  await ode.locator('[data-layer-row="by Ada"]').click();
  await ode.keyboard.press('Delete');
  await expect(ada.locator('[data-layer-row="by Ada"]')).toHaveCount(0);
  await expect(ada.getByText('by Ada was deleted at another desk.')).toBeVisible();
  // A key for what is gone does nothing, and what was said stands.
  await ada.keyboard.press('ArrowRight');
  await expect(ada.getByRole('status', { name: 'Saving' })).toHaveText(
    'Savedby Ada was deleted at another desk.',
  );
});

test('what is handed over is filled in, made an item, and taken on the live view', async ({ page }) => {
  await newTemplate(page, world, 'Call-out', 'Broadcast, Lower third');
  const size: [number, number] = [1180, 156];
  await page.keyboard.press('r');
  await drag(page, [100, 20], [700, 140], size);
  await page.keyboard.press('t');
  await drag(page, [120, 40], [600, 110], size);
  await page.getByRole('row', { name: /^Text/ }).click();
  const properties = page.getByRole('complementary', { name: 'Properties' });
  await button(properties, 'Hand Text to the operator').click();
  await properties.getByRole('tab', { name: 'Properties' }).click();
  await page.getByRole('row', { name: /^Shape/ }).click();
  await properties.locator('summary').filter({ hasText: 'When it shows' }).click();
  await button(properties, 'Hand Shows to the operator').click();

  // The form is tried on the canvas at once.
  const tried = page.getByRole('region', { name: 'The operator’s form' });
  await tried.getByRole('textbox').fill('Ödd, but true');
  await expect(layer(page, 'Text')).toHaveText('Ödd, but true');
  await tried.getByText('Shape: shows').click();
  await tried.getByRole('switch', { name: 'Shape: shows' }).press('Space');
  await expect(layer(page, 'Shape')).toBeHidden();
  await page.locator('[data-input="text"]').getByRole('button', { name: 'Text', exact: true }).click();
  await page.locator('[data-input="text"]').getByLabel('Label').fill('What to call out');
  await expect(tried).toContainText('What to call out');
  await expect(status(page)).toHaveText('Saved');

  await page.getByRole('link', { name: 'Templates', exact: true }).last().click();
  await page.locator('[data-template="call-out"]').click();
  const item = page.getByRole('form', { name: 'New item' });
  await item.getByLabel('New item').fill('Tonight’s call-out');
  await button(item, 'Make an item').click();
  await expect(page.getByRole('complementary', { name: 'Template', exact: true })).toContainText(
    'Tonight’s call-out',
  );

  await page.goto(`${world.url}/live`);
  await page.locator('[data-item-tile]').filter({ hasText: 'Tonight’s call-out' }).click();
  await page.getByLabel('What to call out').fill('Hat trick');
  await page.getByLabel('What to call out').press('Control+Enter');
  const air = await page.context().newPage();
  await air.goto(`${world.url}/air/broadcast`);
  await expect(air.locator('[data-layer="Text"]')).toHaveText('Hat trick');
  const { item: items } = (await snapshot<DeskSnapshot>(world, 'desk')).documents;
  const made = items.find((i) => i.name === 'Tonight’s call-out')!;
  expect(await world.act({ kind: 'remove-item', item: made.key })).toMatchObject({ ok: false });
  await world.act({ kind: 'clear', output: 'broadcast', zone: 'lower' });
  expect(await world.act({ kind: 'remove-item', item: made.key })).toMatchObject({ ok: true });
});

test('a layout is made from another by scaling and from nothing, and deleted; a picture of it is the stage to the pixel', async ({
  page,
}) => {
  // What is on air is saved only by its button.
  await world.act({ kind: 'clear', output: 'main-board', zone: 'score' });
  await page.goto(`${world.url}/templates/score-panel`);
  await button(page, 'Layouts…').click();
  const dialog = page.getByRole('dialog', { name: 'Layouts' });
  const form = dialog.getByRole('form', { name: 'New layout' });
  await form.getByLabel('Name').fill('Ribbon (north)');
  await form.getByRole('textbox', { name: 'Width' }).fill('640');
  await form.getByRole('textbox', { name: 'Height' }).fill('640/2');
  await form.getByRole('textbox', { name: 'Height' }).press('Tab');
  await button(form, 'Add').click();
  await expect(dialog.locator('[data-layout="ribbon-north"]')).toContainText('640 × 320');
  await form.getByLabel('Made from').selectOption('nothing');
  await form.getByLabel('Name').fill('empty');
  await button(form, 'Add').click();
  await expect(dialog.locator('[data-layout="empty"]')).toBeVisible();
  await dialog.getByRole('button', { name: 'ribbon-north', exact: true }).click();
  await button(dialog, 'Close').click();
  await expect(status(page)).toHaveText('Saved');
  await expect
    .poll(async () => (await saved('score-panel'))!.layouts.map((l) => [l.key, l.width, l.layers.length]))
    .toEqual([
      ['arena', 1280, 1],
      ['board', 1400, 1],
      ['ribbon-north', 640, 1],
      ['empty', 640, 0],
    ]);

  // What is drawn at half the size is exported in its exact size, and its pixels are those of the canvas.
  await expect(page.getByLabel('Zoom')).toHaveValue('fit');
  await page.getByLabel('Zoom').selectOption('1');
  await page.getByLabel('Behind').selectOption('light');
  await button(page, 'Export…').click();
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: /^Picture of ribbon-north, 640 × 320/ }).click(),
  ]);
  expect(file.suggestedFilename()).toBe('score-panel-ribbon-north.png');
  const picture = sharp(await readFile(await file.path()));
  expect(await picture.metadata()).toMatchObject({ width: 640, height: 320, hasAlpha: true });
  await button(page.getByRole('dialog'), 'Close').click();
  const pixels = await picture.flatten({ background: '#ffffff' }).raw().toBuffer();
  const canvas = await sharp(await page.locator('[data-picture="workshop"]').screenshot())
    .removeAlpha()
    .resize(640, 320, { fit: 'fill' })
    .raw()
    .toBuffer();
  // Clocks run on between the two: what differs by more than an edge is small.
  let off = 0;
  for (let i = 0; i < pixels.length; i++) if (Math.abs(pixels[i]! - canvas[i]!) > 60) off++;
  expect(off / pixels.length).toBeLessThan(0.02);

  // The empty layout goes; the other one can be had back.
  await page.getByLabel('Layout', { exact: true }).selectOption('empty');
  await button(page, 'Layouts…').click();
  await button(dialog, 'Delete…').click();
  await button(dialog, 'Delete').click();
  await expect(dialog.locator('[data-layout]')).toHaveCount(3);
  await button(dialog, 'Close').click();
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Layout', { exact: true }).locator('option')).toHaveCount(4);
});

test('a value is written as a line: text, chips by / and by +, cases, a formula by =; cut, undone, and live on the canvas', async ({
  page,
}) => {
  await page.goto(`${world.url}/templates/match-up`);
  await page.getByRole('row', { name: /^versus/ }).click();
  const properties = page.getByRole('complementary', { name: 'Properties' });
  await properties.getByRole('button', { name: 'Bind Text' }).click();
  const line = properties.getByRole('textbox', { name: 'Text', exact: true });
  await expect(line).toHaveText('v');
  // Text is typed as text, and / lists what can be put in.
  await line.click();
  await page.keyboard.press('Home');
  await page.keyboard.type('At /home abbr');
  await page.keyboard.press('Enter');
  await page.keyboard.type(': ');
  await expect(layer(page, 'versus')).toHaveText('At THM: v');
  await expect(line.getByRole('button', { name: /^Home abbreviation/ })).toBeVisible();
  // The button does the same; what is pressed says what is done to it.
  await page.keyboard.press('End');
  await properties.getByRole('button', { name: 'Insert into Text' }).click();
  await page.keyboard.type('away score');
  await page.keyboard.press('Enter');
  await line.getByRole('button', { name: /^Away score/ }).click();
  const options = properties.getByRole('group', { name: /^Options of Away score/ });
  await options.getByLabel('Format').selectOption('ordinal');
  await expect(line.getByRole('button', { name: 'Away score as 1st: options' })).toBeVisible();
  await world.act({ kind: 'pin', field: 'away.score', text: '3' });
  await expect(layer(page, 'versus')).toHaveText('At THM: v3rd');
  // A chip is cut and pasted like text, and undone.
  await line.click();
  await page.keyboard.press('End');
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Control+x');
  await expect(layer(page, 'versus')).toHaveText('At THM: v');
  await page.keyboard.press('Home');
  await page.keyboard.press('Control+v');
  await expect(layer(page, 'versus')).toHaveText('3rdAt THM: v');
  await page.keyboard.press('Control+z');
  await expect(layer(page, 'versus')).toHaveText('At THM: v');

  // `=` as the first sign makes it a formula, and no letter of it is lost.
  await page.keyboard.press('Control+a');
  await page.keyboard.type('=away.score * 2');
  await expect(properties.getByLabel('Formula of Text')).toBeFocused();
  await expect(properties.getByLabel('Formula of Text')).toHaveText('away.score * 2');
  await expect(layer(page, 'versus')).toHaveText('6');
  await properties.getByRole('button', { name: 'Write Text as text' }).click();
  await expect(line).toHaveText('');
  // Cases are rows below each other.
  await line.click();
  await page.keyboard.type('/cases');
  await page.keyboard.press('Enter');
  await properties.getByRole('textbox', { name: 'what is looked at for Text' }).click();
  await page.keyboard.type('/away score');
  await page.keyboard.press('Enter');
  await properties.getByLabel('When 1 of Text').fill('from 3');
  await properties.getByLabel('When 1 of Text').blur();
  await properties.getByRole('textbox', { name: 'case 1 of Text' }).click();
  await page.keyboard.type('AHEAD');
  await expect(layer(page, 'versus')).toHaveText('AHEAD');
  await world.act({ kind: 'pin', field: 'away.score', text: '2' });
  await expect(layer(page, 'versus')).toHaveText('');
  await world.act({ kind: 'release', field: 'away.score' });
});

import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { expect, test, worldForTest } from './support/test.ts';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { button, lastAction } from './support/page.ts';
import { onAirIn, snapshot } from './support/snapshot.ts';

const world = worldForTest();
test.use({ viewport: { width: 1280, height: 800 } });

const known = async () => {
  const { documents, lanes } = await snapshot<DeskSnapshot>(world, 'desk');
  return { ...documents, lanes };
};
const item = async (name: string) => (await known()).item.find((i) => i.name === name);
const groups = async () =>
  (await known()).rundown[0]!.groups.map((g) => `${g.name}: ${g.items.join(' ')}`).slice(0, 3);
const onAir = () => onAirIn(world);
const row = (page: Page, name: string) => page.locator(`[data-item-row="${name}"]`);
/** Keeps what the page asks for from the server, until what is given is called. */
const holdActions = async (page: Page) => {
  await page.evaluate(() => {
    const { send } = WebSocket.prototype;
    const held: (() => void)[] = [];
    WebSocket.prototype.send = function (text) {
      const go = () => send.call(this, text);
      if (String(text).startsWith('{"t":"act"')) held.push(go);
      else go();
    };
    addEventListener('letgo', () => {
      WebSocket.prototype.send = send;
      held.forEach((go) => go());
    });
  });
  return () => page.evaluate(() => dispatchEvent(new Event('letgo')));
};
const panel = (page: Page) => page.getByRole('complementary', { name: 'Item' });

test('an item is made, goes to overlay, board and ribbon at once, is filled in, previewed and taken by its number', async ({
  page,
  browser,
}) => {
  await page.goto(`${world.url}/rundown`);
  await button(page, 'New item…').click();
  const dialog = page.getByRole('dialog', { name: 'New item' });
  await dialog.getByRole('combobox', { name: 'Template', exact: true }).selectOption('Lower third');
  await dialog.getByLabel('Name', { exact: true }).fill('Størm warning (1)');
  await dialog.getByLabel('Group').selectOption('Breaks');
  // The zone of its own size is there already; how it stands in others is said where they are chosen.
  await expect(dialog.getByText('Broadcast, Lower third')).toBeVisible();
  await expect(dialog.getByLabel('Add a zone').locator('option', { hasText: 'Takeover' })).toContainText(
    'no layout of its shape',
  );
  await button(dialog, 'Make it').click();
  await expect(dialog).toHaveCount(0);
  const mine = row(page, 'Størm warning (1)');
  await expect(mine).toContainText('lacks Name');
  expect((await groups())[2]).toBe('Breaks: goalkeeper captain storm-warning-1');

  await panel(page).getByRole('textbox', { name: 'Name *' }).fill('Go home early');
  await expect(mine).toContainText('ready');
  const preview = panel(page).locator('[data-picture="preview"]');
  await expect(preview.locator('[data-layer="name"]')).toHaveText('Go home early');
  await panel(page)
    .getByLabel('Add a zone')
    .selectOption({ label: 'Top (no layout of its shape: broadcast at 85 %)' });
  await expect(mine).toContainText('Broadcast, Lower third · Broadcast, Top');
  await panel(page).getByLabel('Previewed in').selectOption('Broadcast, Top');
  await expect(preview.locator('[data-layer="name"]')).toHaveText('Go home early');
  const number = (await item('Størm warning (1)'))!.number;
  await panel(page).getByLabel('Note').fill('only if the sirens go');
  await panel(page).getByLabel('Note').blur();
  await expect.poll(async () => (await item('Størm warning (1)'))!.note).toBe('only if the sirens go');

  // By its number: next, then on air, in both zones in one picture.
  const air = await browser.newPage();
  await air.goto(`${world.url}/air/broadcast`);
  const call = page.getByRole('status', { name: 'Call by number' });
  await page.keyboard.type('9999');
  await expect(call).toContainText('No item has this number');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Backspace');
  await page.keyboard.type(String(number));
  await expect(call).toContainText('Størm warning (1)');
  await page.keyboard.press('Enter');
  await expect(call).toContainText('is next');
  expect((await onAir())['broadcast/lower']).toBeNull();
  await page.keyboard.press('Enter');
  await expect(air.locator('[data-item="storm-warning-1"]')).toHaveCount(2);
  await expect(mine).toContainText('ON AIR');
  // Where it has no layout of the shape it stands whole, in the middle.
  const [zone, drawn] = [
    { x: 96, width: 1728 },
    await air.locator('[data-item="storm-warning-1"]').last().boundingBox(),
  ];
  expect(drawn!.x + drawn!.width / 2).toBeCloseTo(zone.x + zone.width / 2, 0);
  expect(drawn!.height).toBeCloseTo(132, 0);
  // What is on air in a zone is not taken out of it under one's hand.
  await panel(page).getByRole('button', { name: 'Not to Broadcast, Top' }).click();
  await expect(lastAction(page)).toContainText('is on air: clear it before it goes elsewhere');
  await button(panel(page), 'Clear').click();
  await expect(air.locator('[data-item="storm-warning-1"]')).toHaveCount(0);
  await expect(mine).toContainText(/aired \d/);

  // The same number on the live view; and a key of its own.
  await panel(page).getByLabel('Key on the live view').selectOption('Shift+G');
  await panel(page).getByRole('textbox', { name: 'Goes off after' }).fill('2');
  await page.keyboard.press('Enter');
  await panel(page).getByLabel('Then follows').selectOption({ label: '23 Welcome' });
  await expect.poll(async () => (await item('Størm warning (1)'))!.follows).toBe('welcome');
  await page.goto(`${world.url}/live`);
  await expect(page.locator('[data-item-tile]').first()).toBeVisible();
  await page.keyboard.press('Shift+G');
  await expect(air.locator('[data-item="storm-warning-1"]')).not.toHaveCount(0);
  // It goes off by itself, and what follows is there.
  await expect(air.locator('[data-item="welcome"] [data-layer="name"]')).toHaveText(
    'Welcome to the Granite Shed',
  );
  await expect(air.locator('[data-item="storm-warning-1"]')).toHaveCount(0);
  await expect(
    page.getByText(/Størm warning \(1\) went off after 2 s, Welcome followed · Foothill/),
  ).toBeVisible();
});

test('groups and items are put in order by hand, several at once, and taken back; what is found is chosen', async ({
  page,
}) => {
  await page.goto(`${world.url}/rundown`);
  const first = await groups();
  const before = await known();
  // By keys: an item is taken hold of, carried and let go.
  await row(page, 'Welcome').click();
  await row(page, 'Away captain').dragTo(row(page, 'Welcome'), { targetPosition: { x: 200, y: 4 } });
  await expect
    .poll(groups)
    .toEqual(['Pre-game: captain welcome board-sponsor', first[1], 'Breaks: goalkeeper']);
  await row(page, 'Fennimarsh, card').click();
  await row(page, 'Blank name').click({ modifiers: ['Control'] });
  const several = page.getByRole('complementary', { name: 'Items chosen' });
  await several.getByLabel('Move to').selectOption('Breaks');
  await expect.poll(async () => (await groups())[2]).toBe('Breaks: goalkeeper card-7 blank');
  await several.getByLabel('Add a zone to all').selectOption('Takeover');
  await expect.poll(async () => (await item('Blank name'))!.zones.length).toBe(2);
  await several.getByRole('button', { name: /^Duplicate/ }).click();
  await expect
    .poll(async () => (await groups())[2])
    .toBe('Breaks: goalkeeper card-7 fennimarsh-card-copy blank blank-name-copy');
  // The copies are chosen now, and only they are deleted.
  await expect(row(page, 'Blank name copy').and(page.locator('[aria-selected=true]'))).toBeVisible();
  await expect(page.getByText('2 items chosen')).toBeVisible();
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await known()).item.length).toBe(before.item.length);
  for (const _ of ['delete', 'duplicate', 'zone', 'move', 'drag'])
    await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(groups).toEqual(first);
  const sorted = (all: { key: string }[]) => [...all].sort((a, b) => (a.key < b.key ? -1 : 1));
  expect(sorted((await known()).item)).toEqual(sorted(before.item));

  // What is pressed right after the list was scrolled is chosen.
  await row(page, 'Welcome').click();
  await page.getByRole('treegrid', { name: 'Items' }).evaluate((list) => {
    list.scrollTop = 200;
    return new Promise((scrolled) => list.addEventListener('scroll', () => setTimeout(scrolled)));
  });
  const { x, y } = (await row(page, 'Away captain').boundingBox())!;
  await page.mouse.click(x + 200, y + 20);
  await expect(row(page, 'Away captain')).toHaveAttribute('aria-selected', 'true');
  // Two zones are added before the first is answered: both are there.
  const letGo = await holdActions(page);
  for (const zone of ['main-board/takeover', 'main-board/score'])
    await panel(page).getByLabel('Add a zone').selectOption({ value: zone });
  await letGo();
  await expect
    .poll(async () => (await item('Away captain'))!.zones.map((z) => z.zone))
    .toEqual(['lower', 'takeover', 'score']);

  await button(page, 'Add group').click();
  // The new one is seen, and its name is typed at once.
  await expect(page.getByLabel('Name of Group 1')).toBeFocused();
  await page.keyboard.type('Shoot out', { delay: 40 });
  await expect(page.getByLabel('Name of Group 1')).toBeInViewport();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-group="Shoot out"]')).toBeVisible();
  await page.getByLabel('Find an item').fill('card lower 3');
  await expect(page.locator('[data-item-row]')).toHaveCount(2);
  await page.getByLabel('Find an item').fill('zzz');
  await expect(page.getByText('No item is found by that.')).toBeVisible();
});

test('cards are made of a table and of pasted rows; the rundown is kept as a model, carried in a file and used again', async ({
  page,
}) => {
  await page.goto(`${world.url}/rundown`);
  await button(page, 'From rows…').click();
  const dialog = page.getByRole('dialog', { name: 'Items from rows' });
  await dialog.getByRole('combobox', { name: 'Template', exact: true }).selectOption('Lower third');
  await expect(dialog.getByRole('combobox', { name: 'Rows', exact: true })).toHaveValue('home.players');
  const players = (await known()).game[0]!.home.players.length;
  await expect(button(dialog, `Make ${players} items`)).toBeVisible();
  await dialog.getByRole('combobox', { name: 'Team', exact: true }).selectOption('the same for all…');
  await dialog.getByLabel('Team for all').selectOption('Away');
  await button(dialog, `Make ${players} items`).click();
  await expect(dialog).toHaveCount(0);
  expect(await item('Tamsin Orrell')).toMatchObject({ inputs: { name: 'Tamsin Orrell', team: 'away' } });

  await button(page, 'From rows…').click();
  await dialog.getByRole('combobox', { name: 'Template', exact: true }).selectOption('Lower third');
  await dialog.getByRole('combobox', { name: 'Rows', exact: true }).selectOption('pasted here');
  await dialog
    .getByLabel('Pasted rows')
    .fill(
      'Name\tLine\tTeam\nTamsin Orrell\tSaves 40 %\thome\nÅse “Ace” Ek\t"two\nlines"\tNeither\nX\tY\tboth\n',
    );
  const becomes = dialog.getByRole('region', { name: 'What becomes of the rows' });
  await expect(becomes.locator('tr')).toHaveText([
    /Changed.*Tamsin Orrell.*Team: away → home/,
    /New.*Åse “Ace” Ek/,
    /Refused.*X.*one of Home, Away, Neither/,
  ]);
  await button(dialog, 'Make 2 items').click();
  await expect(dialog).toHaveCount(0);
  expect(await item('Tamsin Orrell')).toMatchObject({ inputs: { line: 'Saves 40 %', team: 'home' } });

  // Kept, exported, and used on a rundown that has been emptied but for what is on air.
  const before = await known();
  await button(page, 'Models…').click();
  const models = page.getByRole('dialog', { name: 'Models' });
  await models.getByLabel('Name of the model').fill('Derby / night');
  await button(models, 'Keep today’s rundown').click();
  await expect(models.getByText('Derby / night')).toBeVisible();
  const file = page.waitForEvent('download');
  await models
    .getByRole('listitem')
    .filter({ hasText: 'Derby' })
    .getByRole('button', { name: 'Export' })
    .click();
  const path = await (await file).path();
  await models
    .getByRole('listitem')
    .filter({ hasText: 'The usual night' })
    .getByRole('button', { name: 'Use…' })
    .click();
  await page.getByRole('radio', { name: /Replace it/ }).check();
  await button(page.getByRole('dialog'), 'Use it').click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(lastAction(page)).toContainText('Used the model The usual night');
  expect((await known()).item.length).toBeLessThan(before.item.length);
  // What was on air stays, and stays on air.
  expect(Object.values(await onAir()).filter(Boolean).length).toBeGreaterThan(4);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(async () => (await known()).item.length).toBe(before.item.length);

  const body = readFileSync(path, 'utf8');
  const send = (name: string, text: string) =>
    page
      .getByLabel('Rundown to import')
      .setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  await send('half.json', body.slice(0, 500));
  await expect(lastAction(page)).toContainText('half.json is no rundown: it is not JSON.');
  await send('odd.json', '{"schema":1,"key":"a","name":"A","groups":[{"key":"g","name":"G","items":[{}]}]}');
  await expect(lastAction(page)).toContainText('odd.json is no rundown: groups.0.items.0');
  await send('night.json', body.replaceAll('"lower-third"', '"gone"'));
  const use = page.getByRole('dialog', { name: 'Use Derby / night' });
  await expect(use).toContainText('is left out: there is no template “gone” here.');
  await use.getByRole('radio', { name: /Add to it/ }).check();
  await button(use, 'Use it').click();
  await expect(use).toHaveCount(0);
  expect((await known()).item.length).toBeGreaterThan(before.item.length);
});

test('two at one rundown: both see what the other does, and one order does not overwrite another unseen', async ({
  page,
  browser,
}) => {
  const other = await browser.newPage();
  for (const p of [page, other]) {
    await p.goto(`${world.url}/rundown`);
    await row(p, 'Welcome').click();
  }
  await panel(other).getByLabel('Name', { exact: true }).fill('Hello');
  await page.getByRole('textbox', { name: 'Number' }).fill('77');
  await page.keyboard.press('Enter');
  await other.keyboard.press('Enter');
  for (const p of [page, other]) await expect(row(p, 'Hello')).toContainText('77');
  await button(page, 'Add group').click();
  await expect(other.locator('[data-group="Group 1"]')).toBeVisible();
  // A save that began from an older order says so.
  const groupsNow = (await known()).rundown[0]!.groups;
  const body = { schema: 1, key: 'rundown', groups: groupsNow.slice(1) };
  expect(await world.act({ kind: 'put-document', what: 'rundown', body, revision: 0 })).toMatchObject({
    ok: false,
  });
  expect((await known()).rundown[0]!.groups).toEqual(groupsNow);
});

import { randomBytes } from 'node:crypto';
import { expect, test, worldForTest } from './support/test.ts';
import sharp from 'sharp';
import { recordedLoop } from './support/loop.ts';
import { button, lastAction } from './support/page.ts';

const world = worldForTest();

test('sides are swapped in one action, a roster is brought in after a look at what changes, another game changes every template', async ({
  page,
  browser,
}) => {
  const air = await browser.newPage();
  await air.goto(`${world.url}/air/broadcast`);
  await page.goto(`${world.url}/game`);
  await expect(air.locator('[data-layer="home name"]')).toContainText('Herons');
  await button(page, 'Swap sides…').click();
  const dialog = page.getByRole('dialog', { name: 'Swap sides' });
  await expect(dialog.getByRole('row', { name: /^Name/ })).toContainText('Cindergap Foxes');
  await expect(dialog.getByRole('button', { name: 'Swap sides' })).toBeDisabled();
  await dialog.getByLabel('No, the scorer goes on as before').check();
  await dialog.getByRole('button', { name: 'Swap sides' }).click();
  await expect(air.locator('[data-layer="home name"]')).toContainText('Foxes');
  // What the controller calls home is away now.
  await world.score({ kind: 'goal', side: 'home' });
  await expect.poll(async () => (await world.field('away.score')).value).toBe(1);
  await expect(air.locator('[data-layer="away name"]')).toContainText('Herons');
  expect((await world.field('home.abbr')).value).toBe('CGF');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(air.locator('[data-layer="home name"]')).toContainText('Herons');

  const home = page.getByRole('region', { name: 'Home team' });
  const csv =
    'No.;Given name;Surname;Pos\n07;Una;Quarrick;Forward\n9;Wilmot;Hallowick;Forward\nx;Odd;One;\n9;Twice;Here;\n';
  await home
    .locator('input[type=file]')
    .setInputFiles({ name: 'roster.csv', mimeType: 'text/csv', buffer: Buffer.from(csv) });
  const plan = page.getByRole('group', { name: 'Import' });
  await expect(plan).toContainText('new 07 Una Quarrick');
  await expect(plan).toContainText('changed 9 Wilmot Hallowick position: Defender → Forward');
  await expect(plan).toContainText('"x" is no number');
  await expect(plan).toContainText('number 9 is on the sheet twice');
  await plan.getByRole('button', { name: 'Take 2 changes' }).click();
  await button(page, 'Save').click();
  await expect(lastAction(page)).toHaveText('Saved the game Herons v Foxes');
  const table = async () => (await fetch(`${world.url}/state/tables/home.players.csv`)).text();
  await expect.poll(table).toContain('07,Una,Quarrick,Una Quarrick,Forward');
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    home.getByRole('button', { name: 'XLSX' }).click(),
  ]);
  await home.locator('input[type=file]').setInputFiles(await download.path());
  await expect(page.getByRole('group', { name: 'Import' })).toContainText('Nothing would change.');
  await button(page, 'Cancel').click();

  await button(page, 'New game').click();
  await page.getByLabel('Sport').selectOption('Ice hockey');
  await home.getByLabel('Name').first().fill('Harrowdale Owls');
  await home.getByLabel('Short').fill('Owls');
  await button(page, 'Make this game').click();
  await expect(lastAction(page)).toContainText('Saved the game Owls v Away');
  await button(page, 'Play this game…').click();
  const play = page.getByRole('dialog');
  await expect(play).toContainText('The sport becomes Ice hockey');
  await expect(play.getByLabel('Keep what the board says')).toBeDisabled();
  await play.getByRole('button', { name: 'Play this game' }).click();
  await expect(air.locator('[data-layer="home name"]')).toContainText('Owls');
  await expect.poll(async () => (await world.field('home.pulled'))?.kind).toBe('flag');
  expect(await world.field('clock.shot')).toBeUndefined();
  await world.killEngine();
  await world.startEngine();
  expect((await world.field('home.name')).value).toBe('Harrowdale Owls');
});

test('a sport is copied and edited, and the game is played by it; a mark is chosen by seeing', async ({
  page,
  browser,
}) => {
  const air = await browser.newPage();
  await air.goto(`${world.url}/air/broadcast`);
  await page.goto(`${world.url}/game`);
  await button(page, 'Copy the sport…').click();
  await page.getByRole('textbox', { name: 'Sport', exact: true }).fill('Box lacrosse, juniors');
  await page.getByRole('textbox', { name: 'Periods', exact: true }).fill('3');
  await page.getByLabel('Remove Home shots').click();
  await expect(page.getByRole('status', { name: 'What goes' })).toContainText(
    'Home shots (fed by Controller, shown by the template Statistics panel)',
  );
  await page.getByLabel('to of Home score').fill('0');
  await page.getByLabel('from of Home score').fill('4');
  await expect(page.getByRole('alert')).toHaveText('Home score: from 4 to 0 leaves nothing.');
  await expect(button(page, 'Save the sport')).toBeDisabled();
  await page.getByLabel('from of Home score').fill('0');
  await page.getByLabel('to of Home score').fill('3');
  const begins = page.getByLabel('Home score begins at');
  await expect(begins).toHaveAttribute('placeholder', '0');
  await begins.fill('7');
  await begins.blur();
  await expect(page.getByText('Home score cannot be 7: it goes from 0 to 3')).toBeVisible();
  await begins.fill('2');
  await begins.blur();
  await expect(begins).toHaveAttribute('aria-invalid', 'false');
  // A field of one's own: its name is typed at once, its key follows.
  await button(page, 'For both sides').click();
  await page.keyboard.type('Home saves');
  await expect(page.getByLabel('Key of Home saves')).toHaveValue('home.saves');
  await button(page, 'Save the sport').click();
  await expect(page.getByRole('combobox', { name: 'Sport', exact: true })).toHaveValue(
    'box-lacrosse-juniors',
  );
  await page.getByRole('region', { name: 'Home team' }).getByLabel('Choose mark').click();
  await page.getByRole('searchbox', { name: 'Find a picture' }).last().fill('marks foxes');
  await page.keyboard.press('Enter');
  await button(page, 'Save').click();
  await expect(lastAction(page)).toHaveText('Saved the game Herons v Foxes');

  await expect.poll(async () => (await world.field('home.saves'))?.kind).toBe('integer');
  expect(await world.field('home.shots')).toBeUndefined();
  const [home, away] = ['home mark', 'away mark'].map((l) => air.locator(`[data-layer="${l}"] img`).last());
  await expect(home!).toHaveAttribute('src', (await away!.getAttribute('src'))!);
  // The controller goes on saying what this sport does not have, and nobody is bothered with it.
  await world.score({ kind: 'shot', side: 'home' });
  await world.score({ kind: 'goal', side: 'home' });
  await expect(air.locator('[data-layer="home score"]')).toHaveText('1');
  await expect(page.getByRole('group', { name: 'Health' })).not.toContainText('no field');
  await page.goto(`${world.url}/patch`);
  await expect(page.getByLabel('Readings')).toContainText('home.shots, not in this sport');
  // What goes beyond the sport's limit is refused, and the last good value stands.
  for (let n = 0; n < 3; n++) await world.score({ kind: 'goal', side: 'home' });
  await expect(page.getByRole('group', { name: 'Health' })).toContainText('it goes from 0 to 3');
  await expect(air.locator('[data-layer="home score"]')).toHaveText('3');
});

test('a derived field is made with completion, a ranked table shows ties, a pick follows it; errors stand where they arose', async ({
  page,
}) => {
  await page.goto(`${world.url}/data`);
  await button(page, 'New derived field').click();
  await page.getByLabel('Name', { exact: true }).fill('Goal margin');
  const formula = page.getByRole('textbox', { name: /^Formula/ });
  await formula.fill('');
  await formula.pressSequentially('home.sc');
  await expect(page.getByRole('option', { name: 'home.score' })).toBeVisible();
  await page.keyboard.press('Tab');
  await formula.pressSequentially(' - - away');
  await expect(page.getByText('There is no field "away".')).toBeVisible();
  await formula.pressSequentially('.score');
  await expect(formula).toHaveAttribute('aria-invalid', 'false');
  await formula.fill('home.score - + away.score');
  await expect(page.getByText('does not belong here')).toBeVisible();
  await formula.fill('home.score - away.score');
  await page.getByLabel('Format').selectOption('+3, −3');
  await button(page, 'Create').click();
  await expect(lastAction(page)).toHaveText('Saved Goal margin');
  await world.score({ kind: 'goal', side: 'home' });
  await expect(page.getByRole('status', { name: 'Result' })).toHaveText('+1');
  await expect.poll(async () => (await world.field('goal-margin')).value).toBe('+1');

  await button(page, 'New derived table').click();
  await page.getByLabel('Name', { exact: true }).fill('Most shots');
  await page.getByLabel('Table 1', { exact: true }).selectOption("Players' statistics");
  await button(page, 'Condition').click();
  await page.getByRole('textbox', { name: 'Formula of the condition' }).fill('shots > 0');
  await button(page, 'Sort').click();
  await page.getByLabel('Sort 1', { exact: true }).selectOption('shots');
  await page.getByLabel('Ties').selectOption('ties share, the next is skipped: 1, 1, 3');
  await button(page, 'Create').click();
  await expect(lastAction(page)).toHaveText('Saved Most shots');
  for (let i = 0; i < 6; i++) await world.score({ kind: 'shot', side: i % 2 ? 'home' : 'away' });
  const ranks = async () => {
    const text = await (await fetch(`${world.url}/state/tables/most-shots.csv`)).text();
    return text
      .split('\r\n')
      .slice(1, -1)
      .map((line) => [line.split(',')[0], line.split(',')[9]]);
  };
  await expect.poll(async () => (await ranks()).reduce((sum, [, shots]) => sum + Number(shots), 0)).toBe(7);
  // Equal shots share a rank, and the next rank leaves their places out.
  (await ranks()).forEach(([rank, shots], _, all) => {
    expect(Number(rank)).toBe(1 + all.filter(([, other]) => Number(other) > Number(shots)).length);
  });

  // Any row stands beside the condition, and any cell leads to the place in the document that says it.
  const tried = page.getByRole('status', { name: 'The condition for that row' });
  await page.getByLabel('Row beside the formulas').selectOption({ index: 0 });
  await expect(tried).toHaveText('left out');
  const cell = page.getByRole('grid').locator('tbody tr').first().locator('td');
  await cell.first().click();
  await expect(page.getByLabel('Where it comes from')).toContainText('rank by shots');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Where it comes from')).toContainText("Players' statistics ·");
  await page.getByLabel('Where it comes from').getByRole('button').click();
  await expect(page.getByLabel('Where it comes from')).toContainText(
    /XML: \/statistics\/team\[@side='(home|away)'\]\/@side says/,
  );
  await button(page, 'Back to what was traced before').click();
  await expect(page.getByLabel('Where it comes from')).toContainText('a derivation');

  // A Value is tried on what is typed and on any row, whatever the board says.
  await page.locator('[data-entry="leaders.top"]').click();
  const result = page.getByRole('status', { name: 'Result' });
  await page.getByLabel('Result of').selectOption('a row of Points leaders');
  await expect(result).toContainText('1 point');
  await page.locator('[data-entry="goal-margin"]').click();
  await page.getByLabel('Result of').selectOption('a sample, typed');
  await page.getByLabel('Sample of Home score').fill('3');
  await page.getByLabel('Sample of Away score').fill('9');
  await expect(result).toHaveText('\u22126');
  await page.getByLabel('Sample of Away score').fill('nine');
  await expect(page.getByText('Away score is a whole number')).toBeVisible();

  // It cannot be made of itself.
  const circle = await world.act({
    kind: 'put-document',
    what: 'derived',
    body: {
      schema: 1,
      key: 'most-shots',
      derived: { what: 'table', key: 'most-shots', name: 'Most shots', from: ['most-shots'] },
    },
  });
  expect(circle.reason).toBe('Most shots would depend on itself: most-shots → most-shots.');
  await world.killEngine();
  await world.startEngine();
  await expect.poll(async () => (await ranks()).length).toBeGreaterThan(1);

  // The sponsor in rotation goes on by itself.
  for (const sponsor of ['001', '002'])
    await expect
      .poll(async () => (await world.field('pick.sponsor')).value, { timeout: 60_000 })
      .toBe(sponsor);
});

test('a missing headshot is known before air, brought in, shown by its key, and replaced in place', async ({
  page,
  browser,
}) => {
  const svg = (colour: string) =>
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><rect width="9" height="9" fill="${colour}"/><script>x()</script></svg>`,
    );
  // A picture that is kept in several parts.
  const raw = { width: 1000, height: 900, channels: 3 as const };
  const large = await sharp(randomBytes(2_700_000), { raw }).png().toBuffer();
  await page.goto(`${world.url}/game`);
  await expect(page.getByRole('status', { name: 'Missing pictures' })).toContainText(
    '1 of 28 keyed pictures is missing: Oriel Birkrigg',
  );
  await page.goto(`${world.url}/live`);
  await page.getByRole('button', { name: /Number 30, card/ }).click();
  await expect(page.getByText('The picture headshots/Foxes/30 is missing.')).toBeVisible();

  await page.goto(`${world.url}/media`);
  await page
    .getByLabel('Folders')
    .getByRole('option', { name: /^headshots\/foxes/ })
    .click();
  await page.getByLabel('Files to import').setInputFiles([
    { name: '30.svg', mimeType: 'image/svg+xml', buffer: svg('red') },
    { name: 'large.png', mimeType: 'image/png', buffer: large },
    { name: 'half.png', mimeType: 'image/png', buffer: large.subarray(0, 1_000_000) },
    { name: 'odd.png', mimeType: 'image/png', buffer: Buffer.from('this is no picture') },
  ]);
  await expect(page.getByText('odd.png is not what its name says it is.')).toBeVisible();
  await expect(page.getByText('half.png is damaged: a part of it is missing.')).toBeVisible();
  await expect(page.locator('[data-media="headshots/foxes/30.svg"]')).toContainText('used 1×');

  // A loop as a browser records it: its size by its own bytes, its length by its last picture.
  await page.getByLabel('Files to import').setInputFiles(await recordedLoop(page, 16));
  await page.locator('[data-media="headshots/foxes/loop.webm"]').click();
  await expect(page.getByLabel('Picture', { exact: true })).toContainText(
    /WEBM · 64 × 32 · (opaque|transparent) · \d+\.\d s/,
  );

  // Lists have a small picture of it.
  const tile = page.locator('[data-media="headshots/foxes/large.png"] img');
  const small = (await tile.getAttribute('src'))!;
  expect((await (await fetch(world.url + small)).arrayBuffer()).byteLength).toBeLessThan(large.length / 10);
  await world.killEngine();
  await world.startEngine();
  const kept = Buffer.from(await (await fetch(world.url + small.replace('small', 'by-hash'))).arrayBuffer());
  expect(kept.equals(large)).toBe(true);

  const air = await browser.newPage();
  await air.goto(`${world.url}/air/broadcast`);
  expect(await world.act({ kind: 'take', item: 'card-30' })).toMatchObject({ ok: true });
  const picture = air.locator('[data-layer="headshot"] img').last();
  await expect(picture).toHaveAttribute('src', /^\/media\/by-hash\/[0-9a-f]{64}$/);
  await expect(air.locator('[data-layer="player"]')).toContainText('Oriel Birkrigg');
  const first = (await picture.getAttribute('src'))!;
  const served = await fetch(world.url + first);
  expect(served.headers.get('cache-control')).toContain('immutable');
  expect(await served.text()).not.toContain('script');

  await page.locator('[data-media="headshots/foxes/30.svg"]').click();
  await page
    .getByLabel('Replacement')
    .setInputFiles({ name: 'new.svg', mimeType: 'image/svg+xml', buffer: svg('blue') });
  await expect(picture).not.toHaveAttribute('src', first);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(picture).toHaveAttribute('src', first);
  // Several are moved at once into a folder that was made, and brought back by one undo.
  await page.locator('[data-media="headshots/foxes/large.png"]').click({ modifiers: ['Control'] });
  const several = page.getByLabel('Pictures that are chosen');
  await expect(several).toContainText('2 pictures');
  await expect(several).toContainText('1 of them is used');
  await button(page, 'New folder…').click();
  await page.getByLabel('New folder').fill('set aside');
  await page.keyboard.press('Enter');
  await expect(
    page.getByLabel('Folders').getByRole('option', { name: 'set aside', selected: true }),
  ).toBeVisible();
  await several.getByLabel('Move to').selectOption('set aside');
  await several.getByRole('button', { name: 'Move', exact: true }).click();
  await expect(lastAction(page)).toHaveText('Moved 2 pictures in the library');
  await expect(page.locator('[data-media="set aside/30.svg"]')).toBeVisible();
  await page.getByRole('button', { name: /^Undo/ }).click();
  await page
    .getByLabel('Folders')
    .getByRole('option', { name: /^headshots\/foxes/ })
    .click();
  await page.locator('[data-media="headshots/foxes/30.svg"]').click();
  await page.getByLabel('Path', { exact: true }).fill('headshots/foxes/away thirty.svg');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  // The key no longer finds it: the stand-in shows, and the game says so again.
  await expect(picture).not.toHaveAttribute('src', first);

  // What was chosen by hand is still shown under its new name, also to a page that joins then.
  const mark = air.locator('[data-layer="home mark"] img').last();
  const worn = (await mark.getAttribute('src'))!;
  await page
    .getByLabel('Folders')
    .getByRole('option', { name: /^marks/ })
    .click();
  await page.locator('[data-media="marks/herons.svg"]').click();
  await page.getByLabel('Path', { exact: true }).fill('marks/grey wings.svg');
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await expect(page.locator('[data-media="marks/grey wings.svg"]')).toContainText('used 1×');
  await air.reload();
  await expect(mark).toHaveAttribute('src', worn);
  await page.goto(`${world.url}/game`);
  await expect(page.getByRole('status', { name: 'Missing pictures' })).toBeVisible();
});

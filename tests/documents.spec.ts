import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { World } from './support/world.ts';

let world: World;
test.beforeAll(async () => {
  world = await World.start();
});
test.afterAll(async () => {
  await world.stop();
});
test.use({ viewport: { width: 1280, height: 800 } });

const quoted = (text: string) => `'${text.replaceAll('\\', '\\\\').replaceAll("'", "\\'")}'`;
const keptBody = (kind: string, key: string, body: string) =>
  world.query(
    `UPDATE foothill_${world.port}.documents SET body = ${quoted(body)} WHERE kind = ${quoted(kind)} AND \`key\` = ${quoted(key)}`,
  );

test('a database of older and of spoilt documents opens: the old is brought up to date, the spoilt is kept, exported, mended', async ({
  page,
}) => {
  const card = readFileSync('data/demo/template/player-card.json', 'utf8');
  await world.killEngine();
  await keptBody(
    'template',
    'scoreboard-bar',
    readFileSync('tests/older/template-1/scoreboard-bar.json', 'utf8'),
  );
  await keptBody('template', 'player-card', card.slice(0, 400));
  await keptBody('profile', 'volleyball', '{"schema": 1, "key": "volleyball", "name": "Volleyball"}');
  await world.startEngine();

  // What was on air in the older form is there as it was.
  await page.goto(`${world.url}/air/broadcast`);
  await expect(page.locator('[data-layer="home name"]')).toHaveText('Thornmere Herons');

  await page.goto(`${world.url}/live`);
  await page.getByRole('button', { name: '2 documents cannot be read…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Documents that cannot be read' });
  const spoilt = dialog.locator('[data-unread="template/player-card"]');
  await expect(spoilt).toContainText('document: is not JSON');
  const sport = dialog.locator('[data-unread="profile/volleyball"]');
  await expect(sport).toContainText('Volleyball');
  await expect(sport).toContainText('fields: is missing');

  const download = page.waitForEvent('download');
  await spoilt.getByRole('link', { name: 'Export' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('template-player-card.json');
  expect(readFileSync(await file.path(), 'utf8')).toBe(card.slice(0, 400));

  const bring = (text: string) =>
    spoilt.locator('input').setInputFiles({
      name: 'mended.json',
      mimeType: 'application/json',
      buffer: Buffer.from(text),
    });
  await bring(card.slice(0, 500));
  await expect(spoilt.getByRole('status')).toHaveText('mended.json is not JSON.');
  await bring(card.replace('"size"', '"sise"'));
  await expect(spoilt.getByRole('status')).toContainText('sise: is not known here');
  await bring(card);
  await expect(spoilt).toHaveCount(0);
  await sport.getByRole('button', { name: 'Delete…' }).click();
  await sport.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(sport).toHaveCount(0);
  // With nothing left to mend there is nothing to look at.
  await expect(dialog).toHaveCount(0);
  await expect(page.getByRole('button', { name: /cannot be read/ })).toHaveCount(0);

  // It stands, mended, after a kill too.
  await world.killEngine();
  await world.startEngine();
  const response = await fetch(`${world.url}/api/documents/template/player-card`);
  expect(response.status).toBe(404);
  expect((await world.act({ kind: 'take', item: 'card-7' })).status).toBe(200);
});

import { readFileSync } from 'node:fs';
import { gunzipSync } from 'node:zlib';
import { expect, test, worldForFile } from './support/test.ts';
import type { AirSnapshot, DeskSnapshot } from '../src/core/wire/wire.ts';
import { snapshot } from './support/snapshot.ts';
import { quoted } from './support/world.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

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

test('a database in which much is spoilt starts with what can be read and what ships; a damaged table is named, and nothing is lost', async () => {
  await world.act({ kind: 'pin', field: 'home.score', text: '7' });
  await world.act({ kind: 'pin', field: 'away.score', text: '3' });
  await world.killEngine();
  const of = `foothill_${world.port}`;
  const before = await world.query<object[]>(`SELECT * FROM ${of}.documents ORDER BY kind, \`key\``);
  await world.query(
    [
      `UPDATE ${of}.documents SET body = CONCAT('{', body) WHERE kind IN ('output', 'profile', 'source', 'setting')`,
      `UPDATE ${of}.lanes SET onAir = '{"item": 5}' WHERE zone = 'top'`,
      `UPDATE ${of}.lanes SET queue = '7' WHERE zone = 'score'`,
      `UPDATE ${of}.pins SET value = '{"7":' WHERE field = 'home.score'`,
      `UPDATE ${of}.board_values SET value = '[]' LIMIT 5`,
      `UPDATE ${of}.media SET body = 'null' LIMIT 3`,
      `UPDATE ${of}.tapes SET body = '' LIMIT 1`,
      `UPDATE ${of}.actions SET past = '{' WHERE past IS NOT NULL LIMIT 3`,
    ].join('; '),
  );
  const parts = () => world.query<{ n: number }[]>(`SELECT COUNT(*) n FROM ${of}.tape_parts`);
  const [kept] = await parts();
  await world.startEngine();
  const desk = await snapshot<DeskSnapshot>(world, 'desk');
  expect(desk.documents.output).toMatchObject([{ key: 'stand-in', name: 'Broadcast, stand-in' }]);
  expect(desk.documents.profile).toMatchObject([{ key: 'stand-in' }]);
  expect(desk.unread.map((u) => u.kind)).toEqual(expect.arrayContaining(['output', 'profile', 'source']));
  expect((await world.field('away.score')).value).toBe(3);
  expect(await parts()).toEqual([kept]);

  // Put back as it was, all of it is there again: nothing was written over.
  await world.killEngine();
  await world.query(`UPDATE ${of}.documents SET body = SUBSTR(body, 2) WHERE body LIKE '{{%'`);
  expect(await world.query(`SELECT * FROM ${of}.documents ORDER BY kind, \`key\``)).toEqual(before);
  await world.query(`RENAME TABLE ${of}.lanes TO ${of}.lanes_away`);
  await expect(world.startEngine()).rejects.toThrow(
    /The table "lanes" of the database is damaged.* Nothing was changed\./,
  );
  await world.query(`RENAME TABLE ${of}.lanes_away TO ${of}.lanes`);
  await world.startEngine();
});

test('a show that was saved before documents had revisions opens with nothing lost', async () => {
  await world.killEngine();
  const dump = gunzipSync(readFileSync('tests/older/show-4.sql.gz')).toString('utf8');
  await world.query(
    `CREATE OR REPLACE DATABASE foothill_${world.port}; USE foothill_${world.port};\n${dump}`,
  );
  const all = <T>(what: string, from: string) =>
    world.query<{ it: T }[]>(`SELECT ${what} AS it FROM foothill_${world.port}.${from} ORDER BY it`);
  const kept = async () => [
    // The demo's own sources follow the ports that it is started with.
    await all('MD5(body)', "documents WHERE kind NOT IN ('setting', 'source', 'item')"),
    ...(await Promise.all(
      ['media.body', 'tapes.body', 'pins.value'].map((of) => {
        const [table, column] = of.split('.');
        return all(`MD5(\`${column}\`)`, table!);
      }),
    )),
  ];
  const before = await kept();
  const items = (await all<string>('id', 'items')).map((r) => r.it);
  await world.startEngine();
  const desk = await snapshot<DeskSnapshot>(world, 'desk');
  expect(desk.unread).toEqual([]);
  expect(desk.problems).toEqual({});
  const count = async (kind: string) => (await all('`key`', `documents WHERE kind = '${kind}'`)).length;
  expect(desk.documents.template).toHaveLength(await count('template'));
  expect(desk.documents.game).toHaveLength(await count('game'));
  expect(desk.documents.profile).toHaveLength(await count('profile'));
  expect(desk.bundles).toHaveLength(await count('source'));
  expect(desk.documents.item.map((i) => i.key).sort()).toEqual(items);
  expect(desk.documents.item.find((i) => i.key === 'welcome')).toMatchObject({
    zones: [{ output: 'broadcast', zone: 'lower' }],
    inputs: { line: 'To the Granite Shed' },
  });
  expect(desk.media).toHaveLength(before[1]!.length);
  expect(desk.tapes).toHaveLength(before[2]!.length);
  expect(desk.derived.find((d) => d.doc.key === 'both-shots')).toMatchObject({ own: true });
  expect(desk.log.map((l) => l.text)).toEqual([
    'Took Away captain',
    'Edited Welcome',
    'Pinned Home score at 3',
    'Saved Both shots',
  ]);
  expect((await world.field('home.score')).value).toBe(3);
  const air = await snapshot<AirSnapshot>(world, 'air:broadcast');
  expect(air.items.map((i) => [i.zone, i.item])).toEqual([
    ['top', 'bar'],
    ['lower', 'captain'],
  ]);
  expect(air.items[1]!.states['name']).toMatchObject({ text: 'Bram Hallowick' });
  // Opening it wrote nothing over.
  expect(await kept()).toEqual(before);
  // And it goes on: what was on air is cleared, what is edited is taken back.
  expect((await world.act({ kind: 'clear', output: 'broadcast', zone: 'lower' })).status).toBe(200);
  const released = { kind: 'release', field: 'home.score', desk: 'desk-of-ode', view: 'live' };
  expect((await world.act(released)).status).toBe(200);
  expect((await world.act({ kind: 'undo', desk: 'desk-of-ode', view: 'live' })).status).toBe(200);
  expect((await world.field('home.score')).value).toBe(3);

  // What was done by an action's former name is taken back by its own.
  const by = { desk: 'desk-of-ode', view: 'live' };
  const lower = { output: 'broadcast', zone: 'lower' };
  await world.act({ kind: 'lane-automatic', ...lower, what: 'length', on: false, ...by });
  await world.killEngine();
  const actions = `foothill_${world.port}.actions`;
  await world.query(
    `UPDATE ${actions} SET kind = 'lane-by-itself', past = REPLACE(past, 'lane-automatic', 'lane-by-itself') WHERE kind = 'lane-automatic';
     DELETE FROM foothill_${world.port}.migrations WHERE name = '011-action-kinds'`,
  );
  await world.startEngine();
  const off = async () =>
    (await snapshot<DeskSnapshot>(world, 'desk')).lanes.find((l) => l.zone === 'lower')!.off;
  expect(await off()).toEqual(['length']);
  expect((await world.act({ kind: 'undo', ...by })).status).toBe(200);
  expect(await off()).toEqual([]);
});

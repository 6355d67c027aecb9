import { Sequelize } from 'sequelize';
import { beforeAll, expect, it } from 'vitest';
import { ActionRow, bindModels, DocumentRow, LaneRow } from './models.ts';
import {
  insertStatement,
  insertIfNewStatement,
  upsertStatement,
  deleteStatement,
  runAll,
  updateStatement,
} from './statements.ts';

beforeAll(() => bindModels(new Sequelize('x', 'x', 'x', { dialect: 'mariadb' })));

const at = { output: 'o', zone: 'z' };

it.each([
  [
    'insertStatement',
    () => insertStatement(LaneRow, at),
    "INSERT INTO `lanes` (`output`,`zone`) VALUES ('o','z');",
  ],
  [
    'insertIfNewStatement',
    () => insertIfNewStatement(LaneRow, at),
    "INSERT IGNORE INTO `lanes` (`output`,`zone`) VALUES ('o','z');",
  ],
  [
    'upsertStatement',
    () => upsertStatement(LaneRow, { ...at, next: null }, { ...at, zone: 'y', next: 'i' }),
    "INSERT INTO `lanes` (`output`,`zone`,`next`) VALUES ('o','z',NULL),('o','y','i') ON DUPLICATE KEY UPDATE `next`=VALUES(`next`);",
  ],
  [
    'updateStatement',
    () => updateStatement(ActionRow, { undone: true, past: null }, { id: ['a', 'b'] }),
    "UPDATE `actions` SET `undone`=true,`past`=NULL WHERE `id` IN ('a', 'b')",
  ],
  [
    'deleteStatement',
    () => deleteStatement(LaneRow, at),
    "DELETE FROM `lanes` WHERE `output` = 'o' AND `zone` = 'z'",
  ],
  [
    'a text that ends nothing',
    () => deleteStatement(DocumentRow, { key: "a'; DROP\\" }),
    "DELETE FROM `documents` WHERE `key` = 'a\\'; DROP\\\\'",
  ],
])('%s', (_, statement, sql) => {
  expect(statement()).toBe(sql);
});

it('writes one statement as it is, several as one block, and what is too long for that one by one', async () => {
  const asked: string[] = [];
  const database = {
    query: (sql: string, how?: object) =>
      Promise.resolve(void asked.push(how ? `in it: ${sql.length}` : sql)),
    transaction: (work: (t: object) => Promise<void>) => work({}),
  } as unknown as Sequelize;
  await runAll(database, []);
  await runAll(database, ['A;']);
  await runAll(database, ['A;', 'B']);
  await runAll(database, ['A;', 'x'.repeat(1_000_000)]);
  expect(asked[0]).toBe('A;');
  expect(asked[1]).toMatch(
    /^BEGIN NOT ATOMIC[^]*ROLLBACK; RESIGNAL[^]*START TRANSACTION;\nA;\nB;\nCOMMIT;\nEND$/,
  );
  expect(asked.slice(2)).toEqual(['in it: 2', 'in it: 1000000']);
});

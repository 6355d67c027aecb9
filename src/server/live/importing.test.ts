import { pino } from 'pino';
import { DatabaseError } from 'sequelize';
import { expect, it } from 'vitest';
import { DocumentProblem } from '../ingest/document/limits.ts';
import { DiskFull, StoreDown } from '../store/store.ts';
import { importing } from './importing.ts';

const log = pino({ level: 'silent' });
const said = (message: string, sql: string, errno?: number) =>
  new DatabaseError(Object.assign(new Error(message), { sql, errno }) as never);
const media = 'INSERT INTO `media_content` (`hash`) VALUES (?)';

it.each<[string, Error, number, string]>([
  [
    'what took too long',
    new DocumentProblem('Looking at it took longer than 15 s'),
    415,
    'longer than 15 s.',
  ],
  ['what broke down what looked at it', new DocumentProblem('It cannot be read'), 415, 'It cannot be read.'],
  ['a database that is away', new StoreDown(), 503, 'The database is not answering'],
  ['no room', new DiskFull(), 507, 'The disk is full'],
  ['no room, as the database says it', said('The table is full', media, 1114), 507, 'The disk is full'],
  [
    'no room, as the system says it',
    said('(errno: 28 "No space left on device")', media),
    507,
    'The disk is full',
  ],
  [
    'a damaged table',
    said('Table `foothill`.`media_content` is corrupted. Please drop the table and recreate.', media),
    500,
    'The table "media_content" of the database is damaged, so nothing was changed.',
  ],
  [
    'a table that is gone',
    said("Table 'foothill.versions' doesn't exist in engine", 'SELECT `kind` FROM `versions` AS `v`'),
    500,
    'The table "versions" of the database is damaged',
  ],
  ['what nobody foresaw', new TypeError('x is not a function'), 500, 'Something went wrong on the server'],
])('says of %s what it is', async (_, error, status, reason) => {
  const store = { ok: true, full: false };
  const got = await importing(store, log, () => Promise.reject(error));
  expect(got).toEqual({ status, reason: expect.stringContaining(reason) as string });
  expect(JSON.stringify(got)).not.toMatch(/drop the table/i);
});

it.each([
  [{ ok: false, full: true }, 507],
  [{ ok: false, full: false }, 503],
  [{ ok: true, full: true }, 507],
])('takes nothing in where it could not be kept: %j', async (store, status) => {
  let worked = false;
  const got = await importing(store, log, () => Promise.resolve((worked = true)));
  expect(got).toMatchObject({ status });
  expect(worked).toBe(false);
});

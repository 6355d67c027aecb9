import { DataTypes, QueryTypes, type QueryInterface, type Sequelize } from 'sequelize';
import { cleanSecrets } from './clean-secrets.ts';
import { SequelizeStorage, Umzug } from 'umzug';

const string = (length: number, more = {}) => ({ type: DataTypes.STRING(length), allowNull: false, ...more });
const long = { type: DataTypes.TEXT('long'), allowNull: false };
const time = { type: DataTypes.DOUBLE, allowNull: false };
const options = { charset: 'utf8mb4', collate: 'utf8mb4_bin' };

const migrations = [
  {
    name: '001-first',
    async up({ context: q }: { context: QueryInterface }) {
      await q.createTable(
        'documents',
        {
          kind: string(40, { primaryKey: true }),
          key: string(80, { primaryKey: true }),
          schemaVersion: { type: DataTypes.INTEGER, allowNull: false },
          body: long,
        },
        options,
      );
      await q.createTable(
        'items',
        {
          id: string(80, { primaryKey: true }),
          number: { type: DataTypes.INTEGER, allowNull: false },
          name: string(80),
          template: string(80),
          zone: string(80),
          inputs: long,
        },
        options,
      );
      await q.createTable(
        'lanes',
        {
          zone: string(80, { primaryKey: true }),
          next: { type: DataTypes.STRING(80), allowNull: true },
          onAir: { type: DataTypes.TEXT('long'), allowNull: true },
        },
        options,
      );
      await q.createTable(
        'pins',
        { field: string(80, { primaryKey: true }), value: long, at: time },
        options,
      );
      await q.createTable(
        'actions',
        {
          seq: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
          id: string(64, { unique: true }),
          kind: string(20),
          body: long,
          text: string(300),
          at: time,
        },
        options,
      );
      await q.createTable(
        'board_values',
        { field: string(80, { primaryKey: true }), value: long, origin: string(80), at: time },
        options,
      );
    },
  },
  {
    name: '002-media',
    async up({ context: q }: { context: QueryInterface }) {
      await q.createTable('media', { path: string(200, { primaryKey: true }), body: long }, options);
      await q.createTable(
        'media_content',
        {
          hash: string(64, { primaryKey: true }),
          part: { type: DataTypes.INTEGER, allowNull: false, primaryKey: true },
          bytes: { type: DataTypes.BLOB('long'), allowNull: false },
        },
        options,
      );
    },
  },
  {
    name: '003-tapes',
    async up({ context: q }: { context: QueryInterface }) {
      await q.createTable('tapes', { key: string(80, { primaryKey: true }), body: long }, options);
      await q.createTable(
        'tape_parts',
        {
          tape: string(80, { primaryKey: true }),
          part: { type: DataTypes.INTEGER, allowNull: false, primaryKey: true },
          bytes: { type: DataTypes.BLOB('long'), allowNull: false },
        },
        options,
      );
    },
  },
  {
    name: '004-secrets',
    up: ({ context: q }: { context: QueryInterface }) => cleanSecrets(q.sequelize),
  },
  {
    name: '005-history',
    async up({ context: q }: { context: QueryInterface }) {
      const number = { type: DataTypes.INTEGER, allowNull: false };
      const blank = (length: number) => string(length, { defaultValue: '' });
      await q.addColumn('documents', 'revision', { ...number, defaultValue: 1 });
      await q.addColumn('actions', 'desk', blank(64));
      await q.addColumn('actions', 'who', blank(80));
      await q.addColumn('actions', 'view', blank(20));
      await q.addColumn('actions', 'past', { type: DataTypes.TEXT('long'), allowNull: true });
      await q.addColumn('actions', 'undone', {
        type: DataTypes.BOOLEAN,
        allowNull: false,
        defaultValue: false,
      });
      await q.createTable(
        'versions',
        {
          kind: string(40, { primaryKey: true }),
          key: string(80, { primaryKey: true }),
          revision: { ...number, primaryKey: true },
          at: time,
          who: string(80),
          text: string(300),
          before: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
          body: long,
        },
        options,
      );
    },
  },
  {
    name: '006-outputs',
    async up({ context: q }: { context: QueryInterface }) {
      // What stood in a zone stood in one of the first output: there was no other.
      const [first] = await q.sequelize.query<{ key: string }>(
        "SELECT `key` FROM documents WHERE kind = 'output' ORDER BY `key` LIMIT 1",
        { type: QueryTypes.SELECT },
      );
      for (const table of ['items', 'lanes'])
        await q.addColumn(table, 'output', string(80, { defaultValue: first?.key ?? '' }));
      await q.sequelize.query('ALTER TABLE lanes DROP PRIMARY KEY, ADD PRIMARY KEY (output, zone)');
    },
  },
  {
    name: '007-gone-on',
    async up({ context: q }: { context: QueryInterface }) {
      await q.addColumn('actions', 'goneOn', string(64, { defaultValue: '' }));
      await q.addIndex('actions', ['goneOn']);
    },
  },
  {
    name: '008-items',
    async up({ context: q }: { context: QueryInterface }) {
      // An item is a document like all others, and goes to any number of zones.
      const rows = await q.sequelize.query<OldItem>('SELECT * FROM items', { type: QueryTypes.SELECT });
      const taken = new Set<number>();
      for (const { id, output, zone, inputs, number, ...rest } of rows.sort((a, b) => a.number - b.number)) {
        const own = taken.has(number) || number < 1 ? Math.max(0, ...taken) + 1 : number;
        taken.add(own);
        const zones = [{ output, zone }];
        const body = {
          schema: 1,
          key: id,
          ...rest,
          number: own,
          zones,
          inputs: JSON.parse(inputs) as object,
        };
        await q.sequelize.query(
          'INSERT IGNORE INTO documents (kind, `key`, schemaVersion, revision, body) VALUES (?, ?, 1, 1, ?)',
          { replacements: ['item', id, JSON.stringify(body)] },
        );
      }
      await q.dropTable('items');
    },
  },
  {
    name: '009-lanes',
    async up({ context: q }: { context: QueryInterface }) {
      for (const column of ['past', 'queue'])
        await q.addColumn('lanes', column, { type: DataTypes.TEXT('long'), allowNull: true });
      await q.addColumn('lanes', 'off', { type: DataTypes.STRING(80), allowNull: true });
    },
  },
  {
    name: '010-continued-by',
    up: ({ context: q }: { context: QueryInterface }) => q.renameColumn('actions', 'goneOn', 'continuedBy'),
  },
  {
    name: '011-action-kinds',
    async up({ context: q }: { context: QueryInterface }) {
      const renamed = { 'lane-by-itself': 'lane-automatic', 'mend-document': 'repair-document' };
      for (const [was, is] of Object.entries(renamed)) {
        // What takes an action back may be one of its own kind.
        const replacements = { was, is, asked: `"kind":"${was}"`, asks: `"kind":"${is}"` };
        await q.sequelize.query('UPDATE actions SET kind = :is WHERE kind = :was', { replacements });
        await q.sequelize.query('UPDATE actions SET past = REPLACE(past, :asked, :asks)', { replacements });
      }
    },
  },
  {
    name: '012-board-memory',
    up: ({ context: q }: { context: QueryInterface }) =>
      q.createTable('board_memory', {
        kind: { type: DataTypes.STRING(20), primaryKey: true },
        key: { type: DataTypes.STRING(80), primaryKey: true },
        body: { type: DataTypes.TEXT('long'), allowNull: false },
      }),
  },
  {
    name: '013-asked',
    up: ({ context: q }: { context: QueryInterface }) =>
      q.addColumn('actions', 'asked', { type: DataTypes.STRING(64), allowNull: false, defaultValue: '' }),
  },
];

/** An item as it was kept before it was a document. */
interface OldItem {
  id: string;
  number: number;
  name: string;
  template: string;
  output: string;
  zone: string;
  inputs: string;
}

/** Brings the tables to the newest version; what ran before is remembered in the database. */
export async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = new Umzug({
    migrations,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  await umzug.up();
}

import type { Model, ModelStatic, Sequelize, Transaction, WhereOptions } from 'sequelize';

/** A statement that writes, as SQL with its values in it. */
export type Statement = string;

type Row = Record<string, unknown>;

/** What Sequelize makes statements with; it has no types of its own. */
interface Generator {
  bulkInsertQuery(table: unknown, rows: readonly Row[], how: object, columns: object): string;
  updateQuery(table: unknown, values: Row, where: object, how: object, columns: object): { query: string };
  deleteQuery(table: unknown, where: object, how: object, model: object): string;
}

/** Longer ones go one by one: the server takes no message above its `max_allowed_packet`, 16 MB where nobody set another. */
const IN_ONE_GO = 1_000_000;

const generatorOf = (model: ModelStatic<Model>) =>
  model.sequelize!.getQueryInterface().queryGenerator as Generator;

const insertWith = (model: ModelStatic<Model>, rows: readonly Row[], how: object): Statement =>
  generatorOf(model).bulkInsertQuery(model.getTableName(), rows, how, model.getAttributes());

/** Puts rows in; those that stand already are a failure. */
export const insertStatement = (model: ModelStatic<Model>, ...rows: readonly Row[]): Statement =>
  insertWith(model, rows, {});

/** Puts rows in where none of their key stands. */
export const insertIfNewStatement = (model: ModelStatic<Model>, ...rows: readonly Row[]): Statement =>
  insertWith(model, rows, { ignoreDuplicates: true });

/** Puts rows in, in place of those of the same key. */
export const upsertStatement = (model: ModelStatic<Model>, ...rows: readonly Row[]): Statement =>
  insertWith(model, rows, {
    updateOnDuplicate: Object.keys(rows[0]!).filter((c) => !model.primaryKeyAttributes.includes(c)),
  });

/** Changes columns of the rows that match. */
export const updateStatement = (model: ModelStatic<Model>, values: Row, where: WhereOptions): Statement =>
  generatorOf(model).updateQuery(
    model.getTableName(),
    values,
    where,
    { bindParam: false },
    model.getAttributes(),
  ).query;

/** Takes the rows away that match. */
export const deleteStatement = (model: ModelStatic<Model>, where: WhereOptions): Statement =>
  generatorOf(model).deleteQuery(model.getTableName(), where, {}, model);

/** Runs statements one by one in a transaction. */
export async function runInTransaction(
  transaction: Transaction,
  sequelize: Sequelize,
  statements: readonly Statement[],
): Promise<void> {
  for (const sql of statements) await sequelize.query(sql, { transaction });
}

/**
 * Writes all of them or none. They go to the server as one block, so that it is asked and answers once: a transaction that is
 * begun, filled and committed step by step takes three turns. What fails in it takes back all and is thrown as itself.
 */
export async function runAll(sequelize: Sequelize, statements: readonly Statement[]): Promise<void> {
  if (statements.length === 0) return;
  const length = statements.reduce((sum, sql) => sum + sql.length, 0);
  if (length > IN_ONE_GO)
    return sequelize.transaction((transaction) => runInTransaction(transaction, sequelize, statements));
  if (statements.length === 1) return void (await sequelize.query(statements[0]!));
  const work = statements.map((sql) => sql.replace(/;$/, '')).join(';\n');
  await sequelize.query(`BEGIN NOT ATOMIC
DECLARE EXIT HANDLER FOR SQLEXCEPTION BEGIN ROLLBACK; RESIGNAL; END;
START TRANSACTION;
${work};
COMMIT;
END`);
}

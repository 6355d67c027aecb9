import { setImmediate as turn } from 'node:timers/promises';
import { DatabaseError, Op, QueryTypes, Sequelize, UniqueConstraintError, type Transaction } from 'sequelize';
import type { Logger } from 'pino';
import { edit, type BoardRow, type Change } from '../../core/actions/change.ts';
import type { Past } from '../../core/actions/past.ts';
import { nameOfPlace } from '../../core/actions/world.ts';
import type { FieldValue } from '../../core/board/values.ts';
import { plainPath, type MediaEntry } from '../../core/media/media.ts';
import { laneKey, type Lane } from '../../core/show/show.ts';
import type { TapeInfo } from '../../core/tape/tape.ts';
import type { LogLine } from '../../core/wire/wire.ts';
import type { Config } from '../config.ts';
import {
  pastOf,
  TEXT_LENGTH,
  unwriteAction,
  actionStatements,
  type ActionRecord,
  type Answered,
} from './action-rows.ts';
import {
  boardMemoryOf,
  boardStatements,
  memoryStatement,
  parsedJson,
  type BoardMemory,
  type Memory,
} from './board-memory.ts';
import { DiskRoom } from './disk-room.ts';
import { editStatements } from './edits.ts';
import { migrate } from './migrations.ts';
import { boardOf, lanesOf, pinsOf, readable, recordIn } from './saved-rows.ts';
import { inTime, PATIENCE, StoreDown, told } from './trouble.ts';
import {
  ActionRow,
  bindModels,
  BoardRow as BoardModel,
  ContentRow,
  DocumentRow,
  LaneRow,
  MediaRow,
  MemoryRow,
  PinRow,
  TapePartRow,
  TapeRow,
  VersionRow,
} from './models.ts';
import {
  insertIfNewStatement,
  upsertStatement,
  runAll,
  runInTransaction,
  type Statement,
} from './statements.ts';
import { Watch } from './watch.ts';

/** A version of a document, as it is kept. */
export interface Version {
  kind: string;
  key: string;
  revision: number;
  at: number;
  who: string;
  text: string;
  /** Null where it was deleted. */
  body: object | null;
  /** What stood before: it is kept where nothing is known of that version. */
  before?: boolean;
}

export interface Saved extends BoardMemory {
  lanes: Lane[];
  pins: { field: string; value: FieldValue; at: number }[];
  board: BoardRow[];
  log: LogLine[];
  past: Past[];
  /** What was answered last: a request that comes again gets the same. */
  answered: Answered[];
}

export type { Memory } from './board-memory.ts';
export type { ActionRecord, Answered } from './action-rows.ts';
export { DiskFull, StoreDown, whyNotWritten } from './trouble.ts';

/** The size of the parts that contents are kept in, in bytes. */
const PART = 1_000_000;
/** How many parts of a tape are read in one go. */
const PARTS_AT_ONCE = 200;
/** As many lines of the log, and as many actions that can be taken back, are at hand after a start. */
const LOG_KEPT = 40;
const PAST_KEPT = 400;
const ANSWERS_KEPT = 1000;

/** MariaDB, as Foothill uses it. Every action is committed here before it is acknowledged. */
export class Store {
  private readonly watch: Watch;

  private constructor(
    readonly room: DiskRoom,
    private readonly sequelize: Sequelize,
    private readonly log: Logger,
    /** How often a question to the database is asked that is not answered in time. */
    private readonly retry: { max: number },
    onUp: (up: boolean) => void,
  ) {
    this.watch = new Watch({
      ask: () => sequelize.query('SELECT 1', { type: QueryTypes.SELECT }),
      settle: ({ action, undo }) =>
        sequelize.transaction(async (transaction) => {
          if (await unwriteAction(action, transaction))
            await runInTransaction(transaction, sequelize, changeStatements(undo));
        }),
      log,
      onUp,
    });
  }

  /**
   * Connects, brings the tables up to date and starts watching the connection. Until `begun` is called, what is asked waits for a
   * database that is slow to answer.
   */
  static async open(config: Config, log: Logger, onUp: (up: boolean) => void = () => {}): Promise<Store> {
    const { host, port, name, user, password } = config.db;
    // On a machine that starts all at once it may be slow to answer, at any of its connections: that is no reason not to start.
    const retry = { max: 6, match: [/timeout/i] };
    const sequelize = new Sequelize(name, user, password, {
      host,
      port,
      dialect: 'mariadb',
      logging: false,
      pool: { max: 4, min: 1, acquire: PATIENCE, idle: 60_000 },
      dialectOptions: { connectTimeout: 1500 },
      retry,
    });
    bindModels(sequelize);
    await sequelize.authenticate();
    await migrate(sequelize);
    const store = new Store(new DiskRoom(config.data), sequelize, log, retry, onUp);
    store.watch.start();
    await store.room.start();
    return store;
  }

  /** The start is through: what is not answered in time is not asked again from here on, and so never happens later. */
  begun(): void {
    this.retry.max = 1;
  }

  get ok(): boolean {
    return this.watch.ok;
  }

  /** There is no room on the disk: nothing is written until there is. */
  get full(): boolean {
    return this.room.full;
  }

  async close(): Promise<void> {
    this.watch.stop();
    this.room.stop();
    await this.sequelize.close();
  }

  /** The documents of a kind as they are kept: texts, which may be anything. */
  async kept(kind: string): Promise<{ key: string; text: string }[]> {
    const rows = await DocumentRow.findAll({ where: { kind }, order: ['key'] });
    return rows.map(({ key, body }) => ({ key, text: body }));
  }

  /** The documents of a kind that are JSON. */
  async documents(kind: string): Promise<unknown[]> {
    return (await this.kept(kind)).flatMap(({ text }) => parsedJson(text) ?? []);
  }

  async putDocument<T extends { schema: number }>(kind: string, key: string, body: T): Promise<void> {
    await this.putDocuments(kind, [{ ...body, key }]);
  }

  /** Puts documents as their first revision, all of them or none. */
  async putDocuments(kind: string, bodies: readonly { schema: number; key: string }[]): Promise<void> {
    if (bodies.length === 0) return;
    await DocumentRow.bulkCreate(
      bodies.map((body) => ({
        kind,
        key: body.key,
        schemaVersion: body.schema,
        revision: 1,
        body: JSON.stringify(body),
      })),
      { updateOnDuplicate: ['schemaVersion', 'revision', 'body'] },
    );
  }

  /** How often each document was saved, deleted ones among them, by `kind/key`. */
  async revisions(): Promise<Map<string, number>> {
    const found = new Map<string, number>();
    for (const rows of [
      await DocumentRow.findAll({ attributes: ['kind', 'key', 'revision'] }),
      await VersionRow.findAll({ attributes: ['kind', 'key', 'revision'] }),
    ])
      for (const { kind, key, revision } of rows) {
        const place = nameOfPlace(kind, key);
        found.set(place, Math.max(revision, found.get(place) ?? 0));
      }
    return found;
  }

  /** The versions of a document, the newest first, without what they say. */
  async versions(kind: string, key: string): Promise<Omit<Version, 'body'>[]> {
    const rows = await VersionRow.findAll({
      where: { kind, key },
      attributes: ['revision', 'at', 'who', 'text', 'before'],
      order: [['revision', 'DESC']],
    });
    return rows.map(({ revision, at, who, text, before }) => ({
      kind,
      key,
      revision,
      at,
      who,
      text,
      before,
    }));
  }

  /** What a document was in one of its versions; null where there is none. */
  async version(kind: string, key: string, revision: number): Promise<object | null> {
    const row = await VersionRow.findOne({ where: { kind, key, revision } });
    return row && (JSON.parse(row.body) as object | null);
  }

  /** All entries of the media library. */
  async media(): Promise<MediaEntry[]> {
    const rows = await MediaRow.findAll();
    const read = (r: MediaRow) => recordIn(r.body) as unknown as MediaEntry;
    return readable(rows, 'picture', (r) => r.path, read, this.log);
  }

  async putMedia(entry: MediaEntry): Promise<void> {
    await MediaRow.upsert({ path: plainPath(entry.path), body: JSON.stringify(entry) });
  }

  /** Keeps a content; one that is there already stays as it is. */
  async putContent(hash: string, bytes: Uint8Array): Promise<void> {
    this.room.needs(bytes.length);
    await this.sequelize.transaction(async (transaction) => {
      if (await ContentRow.count({ where: { hash }, transaction })) return;
      for (let part = 0; part * PART < bytes.length; part++) {
        const piece = Buffer.from(bytes.subarray(part * PART, (part + 1) * PART));
        await ContentRow.create({ hash, part, bytes: piece }, { transaction });
      }
    });
  }

  /** A content by its hash; null where there is none. */
  async content(hash: string): Promise<Uint8Array | null> {
    const rows = await ContentRow.findAll({ where: { hash }, order: ['part'] });
    return rows.length ? Buffer.concat(rows.map((r) => r.bytes)) : null;
  }

  /** The list of tapes. */
  async tapes(): Promise<TapeInfo[]> {
    const read = (r: TapeRow) => recordIn(r.body) as unknown as TapeInfo;
    return readable(await TapeRow.findAll(), 'tape', (r) => r.key, read, this.log);
  }

  /** Writes what the list says of a tape, and a further part of it where there is one, both or neither. */
  async putTape(info: TapeInfo, part?: { part: number; bytes: Uint8Array }): Promise<void> {
    this.room.needs(part?.bytes.length);
    await this.sequelize.transaction(async (transaction) => {
      await runInTransaction(transaction, this.sequelize, editStatements(edit('tape', info.key, null, info)));
      if (part) await this.putTapePart(info.key, part, transaction);
    });
  }

  /** Keeps a part of a tape; it is on no list until `putTape`. */
  async putTapePart(
    tape: string,
    { part, bytes }: { part: number; bytes: Uint8Array },
    transaction?: Transaction,
  ): Promise<void> {
    this.room.needs(bytes.length);
    await TapePartRow.upsert({ tape, part, bytes: Buffer.from(bytes) }, { transaction });
  }

  /** The parts of a tape, in order. */
  async *tapeParts(tape: string): AsyncGenerator<Uint8Array> {
    for (let part = 0; ; part += PARTS_AT_ONCE) {
      const rows = await TapePartRow.findAll({
        where: { tape },
        order: ['part'],
        offset: part,
        limit: PARTS_AT_ONCE,
      });
      for (const { bytes } of rows) yield bytes;
      if (rows.length < PARTS_AT_ONCE) return;
    }
  }

  /** Throws away the parts of tapes that are on no list. */
  async purgeTapes(): Promise<void> {
    // Those of one whose line cannot be read stay.
    const known = (await TapeRow.findAll({ attributes: ['key'] })).map((t) => t.key);
    await TapePartRow.destroy({ where: { tape: { [Op.notIn]: known } } });
  }

  async putLane(lane: Lane): Promise<void> {
    await runAll(this.sequelize, editStatements(edit('lane', laneKey(lane), null, lane)));
  }

  /** True when there is no output yet: the last thing that a seeding writes. */
  async isEmpty(): Promise<boolean> {
    return (await DocumentRow.count({ where: { kind: 'output' } })) === 0;
  }

  async load(): Promise<Saved> {
    const [lanes, pins, board, memory, log, past, answered] = await Promise.all([
      LaneRow.findAll(),
      PinRow.findAll(),
      BoardModel.findAll(),
      MemoryRow.findAll(),
      ActionRow.findAll({
        attributes: ['at', 'text', 'who'],
        where: { continuedBy: '' },
        order: [['seq', 'DESC']],
        limit: LOG_KEPT,
      }),
      ActionRow.findAll({
        where: { past: { [Op.ne]: null }, continuedBy: '' },
        order: [['seq', 'DESC']],
        limit: PAST_KEPT,
      }),
      ActionRow.findAll({
        attributes: ['id', 'asked', 'text'],
        order: [['seq', 'DESC']],
        limit: ANSWERS_KEPT,
      }),
    ]);
    return {
      lanes: lanesOf(lanes, this.log),
      pins: pinsOf(pins, this.log),
      board: boardOf(board, this.log),
      ...boardMemoryOf(memory, this.log),
      log: log.reverse().map(({ at, text, who }) => ({ at, text, who })),
      past: readable(past.reverse(), 'action', (r) => r.id, pastOf, this.log),
      answered: answered.reverse().map(({ id, asked, text }) => ({ id, asked, text })),
    };
  }

  /**
   * Commits an action with what it changes, in one transaction. Gives what was answered before when an action of this id was
   * committed already: then nothing is written. Throws StoreDown when the database does
   * not answer in time; the action then counts as not done, and is undone should it turn up committed.
   */
  async commit(
    action: ActionRecord,
    change: Change,
    undo: Change,
    versions: readonly Version[] = [],
  ): Promise<'done' | Answered> {
    // A database that finds no room may break down of it: then this is why.
    this.room.needs();
    if (!this.ok) throw new StoreDown();
    let late = false;
    // Asked first: what waits at a database that is silent would be done on its return, also where nobody is left to undo it.
    // What is written is made while the question is on its way.
    const asked = this.sequelize.query('DO 0');
    const made = turn().then(() => [
      ...actionStatements(action),
      ...changeStatements(change),
      ...versions.map(({ body, text, before = false, ...version }) =>
        (before ? insertIfNewStatement : upsertStatement)(VersionRow, {
          ...version,
          before,
          text: text.slice(0, TEXT_LENGTH),
          body: JSON.stringify(body),
        }),
      ),
    ]);
    const work = Promise.all([made, asked]).then(([statements]) => {
      if (late) throw new StoreDown();
      return runAll(this.sequelize, statements);
    });
    try {
      await inTime(work);
      return 'done';
    } catch (error) {
      if (error instanceof UniqueConstraintError) {
        const first = await ActionRow.findOne({
          where: { id: action.id },
          attributes: ['id', 'asked', 'text'],
        });
        if (first) return { id: first.id, asked: first.asked, text: first.text };
      }
      // The database answered, with a no: the transaction is rolled back and the database is well.
      if (error instanceof DatabaseError && !(error.original as { fatal?: boolean }).fatal) throw told(error);
      late = true;
      this.log.error({ err: error, action: action.id }, 'an action could not be committed');
      this.watch.lost({ action, undo, settled: work.catch(() => {}) });
      throw new StoreDown();
    }
  }

  /**
   * Saves board values in one batch, and what else the board remembers. Throws when the database does not answer; the caller
   * tries again.
   */
  async saveBoard(rows: Saved['board'], memory: readonly Memory[] = []): Promise<void> {
    this.room.needs();
    await runAll(this.sequelize, [...boardStatements(rows), ...memory.map(memoryStatement)]);
  }
}

/** What writes a change: its edits, and the values that it sets on the board. */
function changeStatements({ edits, values, press }: Change): Statement[] {
  const set = press?.changes.filter((c) => 'value' in c) ?? [];
  const pressed = set.map(({ key, value, origin }) => ({ field: key, value, origin, at: press!.at }));
  return [...edits.flatMap(editStatements), ...boardStatements(pressed), ...boardStatements(values ?? [])];
}

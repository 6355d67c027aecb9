import { DatabaseError, Op, QueryTypes, Sequelize, UniqueConstraintError, type Transaction } from 'sequelize';
import type { DocumentKind } from '../../core/documents/kinds.ts';
import type { Logger } from 'pino';
import type { Change } from '../../core/board/board.ts';
import type { FieldValue } from '../../core/board/values.ts';
import { plainPath, type MediaChange, type MediaEntry } from '../../core/media/media.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { Item, Lane, ShowChange } from '../../core/show/show.ts';
import type { IntakeMemory } from '../../core/tape/memory.ts';
import type { TapeInfo } from '../../core/tape/tape.ts';
import type { LogLine } from '../../core/wire/wire.ts';
import type { DeckRequest } from '../http/requests.ts';
import type { Config } from '../config.ts';
import { migrate } from './migrations.ts';
import { StoreDown, told } from './trouble.ts';
import {
  ActionRow,
  bindModels,
  BoardRow,
  ContentRow,
  DocumentRow,
  ItemRow,
  LaneRow,
  MediaRow,
  PinRow,
  TapePartRow,
  TapeRow,
} from './models.ts';

/** One document saved whole, or deleted. */
export interface DocumentChange {
  kind: DocumentKind | 'setting';
  key: string;
  body: object | null;
  /** In place of a body: just this text, as what could not be read is put back. */
  text?: string;
}

/** What an action writes: rows of the show, and pins (null releases). Its opposite restores what was. */
export interface StoreChange extends ShowChange {
  /** A source with its map and patch, saved or deleted whole. */
  source?: { put: SourceBundle } | { remove: SourceBundle };
  /** A source that gets its fields back; nothing of it is kept but the action itself. */
  giveBack?: string;
  /** Entries of the media library put in their places, or taken away, in this order. */
  media?: MediaChange[];
  /** Documents saved, or deleted where the body is null. */
  documents?: DocumentChange[];
  /** What a pad set, with the source that it is. */
  hand?: { source: string; changes: Change[]; at: number };
  /** A line of the list of tapes written, or taken away; what is on the tape is kept and purged apart. */
  tape?: { put: TapeInfo } | { remove: string };
  /** What the tape deck is to do; nothing of it is kept but the action itself. */
  deck?: DeckRequest;
  /** Values of the board as they are to be saved. */
  values?: Saved['board'];
  pin?: PinChange;
  /** The same in the plural, for what changes much at once. */
  pins?: PinChange[];
  lanes?: Lane[];
  sources?: { put: SourceBundle }[];
  /** What the board and all that is known of the sources becomes; `values` has what of it is kept. */
  become?: Become;
}

/** A value held by hand, or let go. */
export type PinChange = { field: string; value: FieldValue; at: number } | { field: string; release: true };

/** The sides exchanged, all blank for a new game, or as it was at a moment that counts as `zero`. */
export type Become = 'swapped' | 'fresh' | { memory: IntakeMemory; zero: number };

export interface ActionRecord {
  id: string;
  kind: string;
  body: unknown;
  text: string;
  at: number;
}

export interface Saved {
  items: Item[];
  lanes: Lane[];
  pins: { field: string; value: FieldValue; at: number }[];
  board: { field: string; value: FieldValue; origin: string; at: number }[];
  log: LogLine[];
}

export const lanesOf = ({ lane, lanes = [] }: StoreChange): Lane[] => (lane ? [lane, ...lanes] : lanes);
export const pinsOf = ({ pin, pins = [] }: StoreChange): PinChange[] => (pin ? [pin, ...pins] : pins);

export { DiskFull, StoreDown, whyNotWritten } from './trouble.ts';

const PATIENCE = 2000;
const LOOK_EVERY = 1000;
/** The size of the parts that contents are kept in, in bytes. */
const PART = 1_000_000;
/** How many parts of a tape are read in one go. */
const PARTS_AT_ONCE = 200;
/** As long as the as-run log's text column. */
const TEXT_LENGTH = 300;

/** MariaDB, as Foothill uses it. Every action is committed here before it is acknowledged. */
export class Store {
  private up = true;
  private timer: NodeJS.Timeout | null = null;
  /** Actions whose commit may or may not have happened when the database fell silent, with their opposites. */
  private readonly inDoubt: { id: string; undo: StoreChange; settled: Promise<unknown> }[] = [];

  private constructor(
    private readonly sequelize: Sequelize,
    private readonly log: Logger,
    private readonly onUp: (up: boolean) => void,
  ) {}

  /** Connects, brings the tables up to date and starts watching the connection. */
  static async open(config: Config, log: Logger, onUp: (up: boolean) => void = () => {}): Promise<Store> {
    const { host, port, name, user, password } = config.db;
    const sequelize = new Sequelize(name, user, password, {
      host,
      port,
      dialect: 'mariadb',
      logging: false,
      pool: { max: 4, min: 1, acquire: PATIENCE, idle: 60_000 },
      dialectOptions: { connectTimeout: 1500 },
    });
    bindModels(sequelize);
    await sequelize.authenticate();
    await migrate(sequelize);
    const store = new Store(sequelize, log, onUp);
    store.timer = setInterval(() => void store.look(), LOOK_EVERY);
    return store;
  }

  get ok(): boolean {
    return this.up;
  }

  async close(): Promise<void> {
    if (this.timer) clearInterval(this.timer);
    await this.sequelize.close();
  }

  /** The documents of a kind as they are kept: texts, which may be anything. */
  async kept(kind: string): Promise<{ key: string; text: string }[]> {
    const rows = await DocumentRow.findAll({ where: { kind }, order: ['key'] });
    return rows.map(({ key, body }) => ({ key, text: body }));
  }

  /** The documents of a kind that are JSON. */
  async documents(kind: string): Promise<unknown[]> {
    return (await this.kept(kind)).flatMap(({ text }) => {
      try {
        return [JSON.parse(text) as unknown];
      } catch {
        return [];
      }
    });
  }

  async putDocument<T extends { schema: number }>(kind: string, key: string, body: T): Promise<void> {
    await DocumentRow.upsert({ kind, key, schemaVersion: body.schema, body: JSON.stringify(body) });
  }

  /** All entries of the media library. */
  async media(): Promise<MediaEntry[]> {
    const rows = await MediaRow.findAll();
    return rows.map((r) => JSON.parse(r.body) as MediaEntry);
  }

  async putMedia(entry: MediaEntry): Promise<void> {
    await MediaRow.upsert({ path: plainPath(entry.path), body: JSON.stringify(entry) });
  }

  /** Keeps a content; one that is there already stays as it is. */
  async putContent(hash: string, bytes: Uint8Array): Promise<void> {
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
    return (await TapeRow.findAll()).map((r) => JSON.parse(r.body) as TapeInfo);
  }

  /** Writes what the list says of a tape, and a further part of it where there is one, both or neither. */
  async putTape(info: TapeInfo, part?: { part: number; bytes: Uint8Array }): Promise<void> {
    await this.sequelize.transaction(async (transaction) => {
      await this.writeTape({ put: info }, transaction);
      if (part) await this.putTapePart(info.key, part, transaction);
    });
  }

  /** Keeps a part of a tape; it is on no list until `putTape`. */
  async putTapePart(
    tape: string,
    { part, bytes }: { part: number; bytes: Uint8Array },
    transaction?: Transaction,
  ): Promise<void> {
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
    const known = (await this.tapes()).map((t) => t.key);
    await TapePartRow.destroy({ where: { tape: { [Op.notIn]: known } } });
  }

  private async writeTape(change: NonNullable<StoreChange['tape']>, transaction: Transaction): Promise<void> {
    if ('remove' in change) await TapeRow.destroy({ where: { key: change.remove }, transaction });
    else {
      const { put } = change;
      await TapeRow.upsert({ key: put.key, body: JSON.stringify(put) }, { transaction });
    }
  }

  async putItem(item: Item, transaction?: Transaction): Promise<void> {
    await ItemRow.upsert({ ...item, inputs: JSON.stringify(item.inputs) }, { transaction });
  }

  async putLane(lane: Lane, transaction?: Transaction): Promise<void> {
    await LaneRow.upsert({ ...lane, onAir: lane.onAir && JSON.stringify(lane.onAir) }, { transaction });
  }

  /** True when there is no output yet: the last thing that a seeding writes. */
  async isEmpty(): Promise<boolean> {
    return (await DocumentRow.count({ where: { kind: 'output' } })) === 0;
  }

  async load(): Promise<Saved> {
    const [items, lanes, pins, board, log] = await Promise.all([
      ItemRow.findAll({ order: ['number'] }),
      LaneRow.findAll(),
      PinRow.findAll(),
      BoardRow.findAll(),
      ActionRow.findAll({ order: [['seq', 'DESC']], limit: 40 }),
    ]);
    return {
      items: items.map(({ id, number, name, template, zone, inputs }) => ({
        id,
        number,
        name,
        template,
        zone,
        inputs: JSON.parse(inputs),
      })),
      lanes: lanes.map(({ zone, next, onAir }) => ({ zone, next, onAir: onAir ? JSON.parse(onAir) : null })),
      pins: pins.map(({ field, value, at }) => ({ field, value: JSON.parse(value), at })),
      board: board.map(({ field, value, origin, at }) => ({ field, value: JSON.parse(value), origin, at })),
      log: log.reverse().map(({ at, text }) => ({ at, text })),
    };
  }

  /**
   * Commits an action with what it changes, in one transaction. Gives `again` when an action of this id was
   * committed before (a repeated request): then nothing is written. Throws StoreDown when the database does
   * not answer in time; the action then counts as not done, and is undone should it turn up committed.
   */
  async commit(action: ActionRecord, change: StoreChange, undo: StoreChange): Promise<'done' | 'again'> {
    if (!this.up) throw new StoreDown();
    let late = false;
    const work = this.sequelize.transaction(async (transaction) => {
      const still = () => {
        if (late) throw new StoreDown();
      };
      still();
      const text = action.text.slice(0, TEXT_LENGTH);
      await ActionRow.create({ ...action, text, body: JSON.stringify(action.body) }, { transaction });
      still();
      await this.write(change, transaction);
      still();
    });
    let timer: NodeJS.Timeout | undefined;
    const patience = new Promise<never>((_, no) => {
      timer = setTimeout(() => no(new StoreDown()), PATIENCE);
    });
    try {
      await Promise.race([work, patience]);
      return 'done';
    } catch (error) {
      if (error instanceof UniqueConstraintError) return 'again';
      // The database answered, with a no: the transaction is rolled back and the database is well.
      if (error instanceof DatabaseError && !(error.original as { fatal?: boolean }).fatal) throw told(error);
      late = true;
      this.log.error({ err: error, action: action.id }, 'an action could not be committed');
      this.inDoubt.push({ id: action.id, undo, settled: work.catch(() => {}) });
      this.setUp(false);
      throw new StoreDown();
    } finally {
      clearTimeout(timer);
    }
  }

  /** Saves board values in one batch. Throws when the database does not answer; the caller tries again. */
  async saveBoard(rows: Saved['board'], transaction?: Transaction): Promise<void> {
    if (!rows.length) return;
    await BoardRow.bulkCreate(
      rows.map((r) => ({ ...r, value: JSON.stringify(r.value) })),
      { updateOnDuplicate: ['value', 'origin', 'at'], ...(transaction ? { transaction } : {}) },
    );
  }

  private async write(change: StoreChange, transaction: Transaction): Promise<void> {
    const { item, source, hand, values, documents = [] } = change;
    for (const { kind, key, body, text } of documents) {
      const schemaVersion = (body as { schema?: number } | null)?.schema ?? 0;
      if (body ?? text)
        await DocumentRow.upsert(
          { kind, key, schemaVersion, body: text ?? JSON.stringify(body) },
          { transaction },
        );
      else await DocumentRow.destroy({ where: { kind, key }, transaction });
    }
    if (hand) {
      const { changes, at } = hand;
      const set = changes.filter((c) => 'value' in c);
      await this.saveBoard(
        set.map(({ key, value, origin }) => ({ field: key, value, origin, at })),
        transaction,
      );
    }
    for (const { path, entry } of change.media ?? []) {
      if (entry)
        await MediaRow.upsert({ path: plainPath(path), body: JSON.stringify(entry) }, { transaction });
      else await MediaRow.destroy({ where: { path: plainPath(path) }, transaction });
    }
    if (change.tape) await this.writeTape(change.tape, transaction);
    if (values) await this.saveBoard(values, transaction);
    for (const one of [...(source ? [source] : []), ...(change.sources ?? [])])
      await this.writeSource(one, transaction);
    if (item) await this.putItem(item, transaction);
    for (const lane of lanesOf(change)) await this.putLane(lane, transaction);
    for (const pin of pinsOf(change)) {
      if ('release' in pin) await PinRow.destroy({ where: { field: pin.field }, transaction });
      else
        await PinRow.upsert(
          { field: pin.field, value: JSON.stringify(pin.value), at: pin.at },
          { transaction },
        );
    }
  }

  private async writeSource(
    change: NonNullable<StoreChange['source']>,
    transaction: Transaction,
  ): Promise<void> {
    const { source, map, document, patch } = 'put' in change ? change.put : change.remove;
    // Whatever belonged to it goes first: what is saved is the whole of it.
    await DocumentRow.destroy({ where: { kind: 'source', key: source.key }, transaction });
    for (const kind of ['patch', 'doc-map'])
      await DocumentRow.destroy({ where: { kind, key: source.key }, transaction });
    // A map under a key of its own is there for all, and stays when a source that used it goes.
    if (map && ('put' in change || map.key === source.key))
      await DocumentRow.destroy({ where: { kind: 'frame-map', key: map.key }, transaction });
    if ('remove' in change) return;
    const row = (kind: string, key: string, body: { schema: number }) =>
      DocumentRow.create(
        { kind, key, schemaVersion: body.schema, body: JSON.stringify(body) },
        { transaction },
      );
    await row('source', source.key, source);
    if (map) await row('frame-map', map.key, map);
    if (document) await row('doc-map', source.key, document);
    if (patch) await row('patch', source.key, patch);
  }

  private setUp(up: boolean): void {
    if (this.up === up) return;
    this.up = up;
    this.log[up ? 'info' : 'error'](
      { database: up },
      up ? 'the database answers again' : 'the database does not answer',
    );
    this.onUp(up);
  }

  private looking = false;

  /** Asks the database whether it is there; on its return settles what was in doubt before saying so. */
  private async look(): Promise<void> {
    if (this.looking) return;
    this.looking = true;
    try {
      let timer: NodeJS.Timeout | undefined;
      const patience = new Promise<never>((_, no) => {
        timer = setTimeout(() => no(new StoreDown()), PATIENCE);
      });
      const asked = this.sequelize.query('SELECT 1', { type: QueryTypes.SELECT });
      asked.catch(() => {});
      await Promise.race([asked, patience]).finally(() => clearTimeout(timer));
      while (this.inDoubt.length) {
        const { id, undo, settled } = this.inDoubt[0]!;
        await settled;
        await this.sequelize.transaction(async (transaction) => {
          if (await ActionRow.destroy({ where: { id }, transaction })) await this.write(undo, transaction);
        });
        this.inDoubt.shift();
      }
      this.setUp(true);
    } catch (error) {
      if (this.up) this.log.error({ err: error }, 'the database was asked and gave no answer');
      this.setUp(false);
    } finally {
      this.looking = false;
    }
  }
}

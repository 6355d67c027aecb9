import { DataTypes, Model, type Sequelize } from 'sequelize';

/** A JSON document: a template, a frame map, a sport profile, a patch, a source, an output, a game. */
export class DocumentRow extends Model {
  declare kind: string;
  declare key: string;
  declare schemaVersion: number;
  /** How often it was saved. */
  declare revision: number;
  declare body: string;
}
/** A document as it was once: who saved it so, when, and what was said. */
export class VersionRow extends Model {
  declare kind: string;
  declare key: string;
  declare revision: number;
  declare at: number;
  declare who: string;
  declare text: string;
  /** What stood before anything was saved here. */
  declare before: boolean;
  declare body: string;
}
export class LaneRow extends Model {
  declare output: string;
  declare zone: string;
  declare next: string | null;
  declare onAir: string | null;
  declare past: string | null;
  declare queue: string | null;
  declare off: string | null;
}
export class PinRow extends Model {
  declare field: string;
  declare value: string;
  declare at: number;
}
/** The as-run log: every accepted action, in order. */
export class ActionRow extends Model {
  declare seq: number;
  declare id: string;
  declare kind: string;
  declare body: string;
  declare text: string;
  declare at: number;
  /** Who did it, at which view; blank where that is not known. */
  declare desk: string;
  declare who: string;
  declare view: string;
  /** A hash of the request as it was asked; blank where it is not known. */
  declare asked: string;
  /** What takes it back, and whether that was done; null where it cannot be taken back any more. */
  declare past: string | null;
  declare undone: boolean;
  /** The action that went on with it and stands in its place; blank where none did. */
  declare continuedBy: string;
}
/** The board's last values, saved in batches, so that a restart without its sources still shows them. */
export class BoardRow extends Model {
  declare field: string;
  declare value: string;
  declare origin: string;
  declare at: number;
}

/** What else the board remembers over a restart: rows that sources said, and where rotations stand. */
export class MemoryRow extends Model {
  declare kind: string;
  declare key: string;
  declare body: string;
}

// Sequelize writes into the attribute objects that it is given, so each column gets one of its own.
const json = () => ({ type: DataTypes.TEXT('long'), allowNull: false });
const key = (length: number) => ({ type: DataTypes.STRING(length), primaryKey: true });
const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false });
const time = () => ({ type: DataTypes.DOUBLE, allowNull: false });

/** One picture or loop of the library by its plain path. */
export class MediaRow extends Model {
  declare path: string;
  declare body: string;
}

/** A part of a content of the library, by its hash: contents are kept in parts, which any server takes. */
export class ContentRow extends Model {
  declare hash: string;
  declare part: number;
  declare bytes: Buffer;
}

/** What the list of tapes says of one. */
export class TapeRow extends Model {
  declare key: string;
  declare body: string;
}

/** A piece of a tape: whole lines, compressed, in order. */
export class TapePartRow extends Model {
  declare tape: string;
  declare part: number;
  declare bytes: Buffer;
}

/** Binds the models to a connection. Tables themselves are made by the migrations. */
export function bindModels(sequelize: Sequelize): void {
  const table = (tableName: string) => ({ sequelize, tableName, timestamps: false });
  DocumentRow.init(
    {
      kind: key(40),
      key: key(80),
      schemaVersion: { type: DataTypes.INTEGER, allowNull: false },
      revision: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 },
      body: json(),
    },
    table('documents'),
  );
  VersionRow.init(
    {
      kind: key(40),
      key: key(80),
      revision: { type: DataTypes.INTEGER, primaryKey: true },
      at: time(),
      who: text(80),
      text: text(300),
      before: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      body: json(),
    },
    table('versions'),
  );
  LaneRow.init(
    {
      output: key(80),
      zone: key(80),
      next: { type: DataTypes.STRING(80) },
      onAir: { type: DataTypes.TEXT('long') },
      past: { type: DataTypes.TEXT('long') },
      queue: { type: DataTypes.TEXT('long') },
      off: { type: DataTypes.STRING(80) },
    },
    table('lanes'),
  );
  PinRow.init({ field: key(80), value: json(), at: time() }, table('pins'));
  ActionRow.init(
    {
      seq: { type: DataTypes.BIGINT, primaryKey: true, autoIncrement: true },
      id: { ...text(64), unique: true },
      kind: text(20),
      body: json(),
      text: text(300),
      at: time(),
      desk: text(64),
      who: text(80),
      view: text(20),
      asked: { ...text(64), defaultValue: '' },
      past: { type: DataTypes.TEXT('long') },
      undone: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      continuedBy: { ...text(64), defaultValue: '' },
    },
    table('actions'),
  );
  MediaRow.init({ path: key(200), body: json() }, table('media'));
  ContentRow.init(
    {
      hash: key(64),
      part: { type: DataTypes.INTEGER, primaryKey: true },
      bytes: { type: DataTypes.BLOB('long'), allowNull: false },
    },
    table('media_content'),
  );
  TapeRow.init({ key: key(80), body: json() }, table('tapes'));
  TapePartRow.init(
    {
      tape: key(80),
      part: { type: DataTypes.INTEGER, primaryKey: true },
      bytes: { type: DataTypes.BLOB('long'), allowNull: false },
    },
    table('tape_parts'),
  );
  MemoryRow.init({ kind: key(20), key: key(80), body: json() }, table('board_memory'));
  BoardRow.init({ field: key(80), value: json(), origin: text(80), at: time() }, table('board_values'));
}

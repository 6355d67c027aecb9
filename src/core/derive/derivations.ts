import { own } from '../board/own.ts';
import type { Board, Change } from '../board/board.ts';
import { isClock, sameValue, type FieldValue } from '../board/values.ts';
import { Dependents, type Followed } from '../resolve/dependents.ts';
import { compiled, namesIn, troubles, type Scope } from '../value/value.ts';
import type { NewTable, Row } from '../board/tables.ts';
import { MEDIA_TOKEN } from '../media/media.ts';
import type { Derived, DerivedTable, KeyedPictures } from './derived.ts';
import { Rotation, type RotationMemory } from './rotation.ts';
import type { CellAt } from '../trace/traced.ts';
import { TableMaker, type Behind } from './table.ts';

interface FieldNode extends Followed {
  /** Why it has no content though it should. */
  trouble: (scope: Scope) => string | null;
  doc: Extract<Derived, { what: 'field' }>;
}

/** What a round of working out changed: tokens for what shows them, fields and tables for the desks. */
export interface Recomputed {
  changed: string[];
  touched: string[];
  tables: string[];
}

const NOTHING: Recomputed = { changed: [], touched: [], tables: [] };
const ORIGIN = 'derived';
/** The shortest time that a row of a rotation stands, in ms, whatever it says. */
const LEAST_DWELL = 500;
/** The columns that keyed pictures add to their paths. */
const PICTURED = ['picture', 'found'];

/**
 * Works derived fields, derived tables and picks out, in the order of what depends on what, and only those that
 * something they read changed. A formula that fails leaves the last good value and says where it arose.
 */
export class Derivations {
  private readonly docs = new Map<string, Derived>();
  private readonly fields = new Map<string, FieldNode>();
  private readonly makers = new Map<string, TableMaker>();
  private readonly rotations = new Map<string, Rotation>();
  /** Where rotations stood that have no rows yet, such as before the table of theirs is worked out. */
  private readonly stood = new Map<string, RotationMemory>();
  private readonly dependents: Dependents<FieldNode>;
  /** The order in which all are worked out: whatever one reads comes before it. */
  private order: string[] = [];
  /** The fields and tables that any of them reads: what touches none of these costs nothing here. */
  private read = new Set<string>();
  /** What went wrong in each, one sentence. */
  readonly problems = new Map<string, string>();

  constructor(
    private readonly board: Board,
    /** The address of a picture of the library; null where there is none. */
    private readonly picture: (path: string, keyed: boolean) => string | null = () => null,
  ) {
    this.dependents = new Dependents(board);
  }

  list(): Derived[] {
    return [...this.docs.values()];
  }

  get(key: string): Derived | undefined {
    return this.docs.get(key);
  }

  /**
   * Why a derivation cannot be taken on: a sentence with the path of a circle; null where it can. `others` are taken on, or let go
   * (null), with it.
   */
  refuse(doc: Derived, others: ReadonlyMap<string, Derived | null> = new Map()): string | null {
    const docs = new Map(this.docs);
    for (const [key, other] of others) {
      if (other) docs.set(key, other);
      else docs.delete(key);
    }
    const path = circle(docs.set(doc.key, doc), doc.key);
    return path && `${doc.name} would depend on itself: ${path.join(' → ')}.`;
  }

  /** What a cell of a derived table is made of; null for what is none. */
  behind({ table, row, column }: CellAt): Behind | null {
    if (this.docs.get(table)?.what !== 'pictures' || !PICTURED.includes(column))
      return this.makers.get(table)?.behind(row, column) ?? null;
    return { how: 'the picture at its path', cells: [{ table, row, column: 'path' }], fields: [] };
  }

  /** Another one whenever the rows of a derived table were made again; 0 for what is none. */
  madeTimes(table: string): number {
    return this.makers.get(table)?.round ?? 0;
  }

  /** Where the rotation of a pick stands; null for what is none. */
  rotation(key: string): RotationMemory | null {
    return this.stood.get(key) ?? this.rotations.get(key)?.remember() ?? null;
  }

  /**
   * Takes a derivation on, or on anew, and works it out with all that depends on it; a rotation goes on from where it stood,
   * where that is known.
   */
  put(doc: Derived, now: number, stood?: RotationMemory): Recomputed {
    this.forget(doc.key);
    this.docs.set(doc.key, doc);
    if (doc.what === 'table') this.makers.set(doc.key, new TableMaker(doc));
    else if (doc.what === 'pictures') this.makers.set(doc.key, new TableMaker(pathTable(doc)));
    else {
      this.board.define({ key: doc.key, label: doc.name, group: 'derived', kind: 'derived' });
      if (doc.what === 'field') {
        const scope = this.dependents.scope({});
        const node: FieldNode = {
          doc,
          value: doc.value,
          work: compiled(doc.value),
          trouble: troubles(doc.value),
          scope,
          tokens: new Set(),
        };
        this.fields.set(doc.key, node);
        this.dependents.followFields(node);
      } else if (doc.how.by === 'rotation') {
        this.rotations.set(doc.key, new Rotation());
        if (stood) this.stood.set(doc.key, stood);
      }
    }
    this.sort();
    return this.run([], now, doc.key);
  }

  /** Lets a derivation go; what it derived goes with it. */
  remove(key: string, now: number): Recomputed {
    const doc = this.docs.get(key);
    if (!doc) return NOTHING;
    this.forget(key);
    this.docs.delete(key);
    this.sort();
    const isTable = this.isTable(doc);
    const tokens = isTable ? this.board.tables.remove(key) : (this.board.undefine(key), [key]);
    const more = this.run(tokens, now);
    return {
      changed: [...tokens, ...more.changed],
      touched: more.touched,
      tables: [...(isTable ? [key] : []), ...more.tables],
    };
  }

  /** Works out what depends on any of these tokens. */
  react(tokens: readonly string[], now: number): Recomputed {
    return tokens.some((token) => this.read.has(tableIn(token) ?? token)) ? this.run(tokens, now) : NOTHING;
  }

  /** Lets rotations go on. */
  tick(now: number): Recomputed {
    const changed: string[] = [];
    const touched: string[] = [];
    for (const key of this.rotations.keys()) this.pick(key, now, changed, touched);
    if (changed.length === 0) return NOTHING;
    const more = this.run(changed, now);
    return {
      changed: [...changed, ...more.changed],
      touched: [...touched, ...more.touched],
      tables: more.tables,
    };
  }

  private run(tokens: readonly string[], now: number, first?: string): Recomputed {
    const changed: string[] = [];
    const touched: string[] = [];
    const tables: string[] = [];
    const dirty = new Set(tokens);
    const dirtyTables = new Set(tokens.flatMap((t) => tableIn(t) ?? []));
    for (const key of this.order) {
      const before = changed.length;
      const doc = this.docs.get(key)!;
      if (doc.what === 'field') {
        const node = this.fields.get(key)!;
        if (key === first || this.dependents.concerns(node, dirty, dirtyTables))
          this.field(node, now, changed, touched);
      } else if (doc.what === 'pick') {
        if (key === first || dirtyTables.has(doc.table)) this.pick(key, now, changed, touched);
      } else {
        const maker = this.makers.get(key)!;
        const due =
          (doc.what === 'pictures' && dirty.has(MEDIA_TOKEN)) ||
          [...maker.tables].some((t) => dirtyTables.has(t)) ||
          [...maker.fields].some((f) => dirty.has(f));
        if (key === first || due) this.table(key, maker, now, changed, tables);
      }
      for (const token of changed.slice(before)) {
        dirty.add(token);
        const table = tableIn(token);
        if (table !== null) dirtyTables.add(table);
      }
    }
    return { changed, touched, tables };
  }

  private field(node: FieldNode, now: number, changed: string[], touched: string[]): void {
    const { key } = node.doc;
    const value = this.dependents.work(node);
    const trouble = node.trouble(node.scope);
    if (trouble) return void this.problems.set(key, trouble);
    this.warn(key, [...namesIn(node.value).fields]);
    this.set(key, value, now, changed, touched);
  }

  /** A name that stands for nothing reads as blank; that is worth a word as long as it stands. */
  private warn(key: string, asked: readonly string[]): void {
    const missing = asked.find((name) => !this.board.def(name));
    if (missing === undefined) this.problems.delete(key);
    else this.problems.set(key, `There is no field "${missing}"; it reads as blank.`);
  }

  private pick(key: string, now: number, changed: string[], touched: string[]): void {
    const doc = this.docs.get(key);
    if (doc?.what !== 'pick') return;
    const rows = this.board.tables.get(doc.table)?.rows;
    const keys = rows ? [...rows.keys()] : [];
    const { how } = doc;
    let chosen: string | null;
    this.problems.delete(key);
    if (how.by === 'rotation') {
      const dwell = (row: string) => {
        const seconds =
          how.seconds === undefined ? NaN : Number(own(rows?.get(row) ?? {}, how.seconds) || NaN);
        return seconds > 0 ? Math.max(LEAST_DWELL, seconds * 1000) : how.dwell;
      };
      const rotation = this.rotations.get(key)!;
      const stood = keys.length > 0 ? this.stood.get(key) : undefined;
      if (stood) rotation.recall(stood, now);
      if (keys.length > 0) this.stood.delete(key);
      chosen = rotation.at(keys, dwell, now, how.order);
    } else if (how.by === 'rank') chosen = keys[how.rank - 1] ?? null;
    else {
      const found = rowsTyped(rows ?? new Map(), how.is);
      if (found.length > 1)
        this.problems.set(
          key,
          `"${how.is}" is said by ${found.length} rows: ${found.slice(0, 5).join(', ')}`,
        );
      chosen = found.length === 1 ? found[0]! : null;
    }
    this.set(key, chosen, now, changed, touched);
  }

  private table(key: string, maker: TableMaker, now: number, changed: string[], tables: string[]): void {
    try {
      const made = maker.make({
        table: (k) => this.board.tables.get(k),
        row: (t, k) => this.board.row(t, k),
        ranked: (t, rank) => this.board.ranked(t, rank),
        keyAt: (t, rank) => this.board.tables.keyAt(t, rank),
        read: (f) => this.board.read(f),
      });
      const doc = this.docs.get(key)!;
      const next = doc.what === 'pictures' ? this.pictured(doc, made) : made;
      const tokens = this.board.tables.put(next, ORIGIN, now);
      this.warn(key, maker.asked());
      changed.push(...tokens);
      if (tokens.length) tables.push(key);
    } catch (error) {
      this.problems.set(key, (error as Error).message);
    }
  }

  private isTable = (doc: Derived) => doc.what === 'table' || doc.what === 'pictures';

  /** A table of paths with the pictures that they find. */
  private pictured({ fallback }: KeyedPictures, made: NewTable): NewTable {
    const standIn = fallback === '' ? '' : (this.picture(fallback, false) ?? '');
    return {
      ...made,
      columns: [...made.columns, ...PICTURED],
      rows: made.rows.map(([key, row]) => {
        const found = this.picture(String(row['path'] ?? ''), true);
        return [key, { ...row, picture: found || standIn, found: Boolean(found) }];
      }),
    };
  }

  private set(key: string, value: FieldValue, now: number, changed: string[], touched: string[]): void {
    const plain = isClock(value) ? value.value : value;
    const was = this.board.state(key);
    if (was && was.origin === ORIGIN && sameValue(was.value, plain)) return;
    const change: Change = { key, value: plain, origin: ORIGIN };
    const applied = this.board.apply([change], now);
    changed.push(...applied.changed);
    touched.push(...applied.touched);
  }

  private forget(key: string): void {
    const node = this.fields.get(key);
    if (node) this.dependents.drop(node);
    this.fields.delete(key);
    this.makers.delete(key);
    this.rotations.delete(key);
    this.stood.delete(key);
    this.problems.delete(key);
  }

  private sort(): void {
    const done = new Set<string>();
    const visit = (key: string) => {
      if (done.has(key) || !this.docs.has(key)) return;
      done.add(key);
      for (const needed of needs(this.docs.get(key)!)) visit(needed);
      order.push(key);
    };
    const order: string[] = [];
    for (const key of this.docs.keys()) visit(key);
    this.order = order;
    const docs = [...this.docs.values()];
    this.read = new Set(docs.flatMap((doc) => [...needs(doc)]));
    if (docs.some((doc) => doc.what === 'pictures')) this.read.add(tableIn(MEDIA_TOKEN)!);
  }
}

/** The table that a token is of: `#players`, or a row of it `#players#7`; null for a field's key. */
const tableIn = (token: string): string | null =>
  token.startsWith('#') ? token.slice(1).split('#')[0]! : null;

/**
 * The keys of the rows that are meant by what was typed: the row with that key, else those of which a cell says just
 * that, whatever its case: a number or a name.
 */
export function rowsTyped(rows: ReadonlyMap<string, Row>, typed: string): string[] {
  const text = typed.trim();
  if (text === '') return [];
  if (rows.has(text)) return [text];
  const low = text.toLowerCase();
  return [...rows]
    .filter(([, row]) => Object.values(row).some((cell) => String(cell ?? '').toLowerCase() === low))
    .map(([key]) => key);
}

/** The rows of keyed pictures with their paths, as a derived table. */
function pathTable({ key, name, from, path }: KeyedPictures): DerivedTable {
  return {
    what: 'table',
    key,
    name,
    from,
    join: [],
    where: null,
    compute: [{ name: 'path', value: path }],
    group: null,
    sort: [],
    rank: null,
    limit: null,
  };
}

/** The keys of all fields and tables that a derivation reads. */
export function needs(doc: Derived): Set<string> {
  if (doc.what === 'pick') return new Set([doc.table]);
  if (doc.what === 'table' || doc.what === 'pictures') {
    const maker = new TableMaker(doc.what === 'table' ? doc : pathTable(doc));
    return new Set([...maker.tables, ...maker.fields]);
  }
  const { fields, tables } = namesIn(doc.value);
  return new Set([...fields, ...tables]);
}

/** The circle that starts and ends at `from`, if there is one. */
function circle(docs: ReadonlyMap<string, Derived>, from: string): string[] | null {
  const seen = new Set<string>();
  const walk = (key: string, path: string[]): string[] | null => {
    const doc = docs.get(key);
    if (!doc) return null;
    for (const next of needs(doc)) {
      if (next === from) return [...path, next];
      if (seen.has(next)) continue;
      seen.add(next);
      const found = walk(next, [...path, next]);
      if (found) return found;
    }
    return null;
  };
  return walk(from, [from]);
}

import { own } from '../board/own.ts';
import { orderToken, rowToken, type Row } from '../board/tables.ts';
import type { FieldValue, Scalar } from '../board/values.ts';
import { fieldOf, namesIn, type Scope, type Value, type Work } from '../value/value.ts';

/** What values are read from: the board, and nothing that is not said here. */
export interface BoardReader {
  read(key: string): FieldValue;
  row(table: string, key: string): Row | undefined;
  ranked(table: string, rank: number): Row | undefined;
}

/** The board's fields alone, for who has no tables. */
export const fieldsOnly = (read: (key: string) => FieldValue): BoardReader => ({
  read,
  row: () => undefined,
  ranked: () => undefined,
});

/** A value that is followed, with the tokens it depended on when it was last worked out. */
export interface Followed {
  readonly value: Value;
  /** The value, compiled as it is begun to be followed. */
  readonly work: Work;
  readonly scope: Scope;
  /** The keys of its fields and whatever else it is followed by for good. */
  tokens: Set<string>;
  /** The tokens of the rows that it read last. */
  rows?: ReadonlySet<string> | null;
}

/**
 * Keeps, for each field's key and each row's token, the values that depend on it, so that a change costs what it
 * touches and never what is loaded.
 */
export class Dependents<F extends Followed> {
  /** Those that ask for a token: most tokens have one, which then stands here by itself. */
  private readonly asking = new Map<string, F | Set<F>>();
  private reads: Set<string> | null = null;
  /** Rises whenever somebody asks for a token more or less. */
  version = 0;

  constructor(private readonly board: BoardReader) {}

  /** The scope in which a value with these inputs is worked out; what it reads of tables is noted. */
  scope(inputs: Readonly<Record<string, Scalar>>): Scope {
    return {
      field: (key) => this.board.read(key),
      input: (key) => own(inputs, key) ?? null,
      row: (table, key) => {
        this.note(rowToken(table, key));
        return this.board.row(table, key);
      },
      ranked: (table, rank) => {
        this.note(orderToken(table));
        const row = this.board.ranked(table, rank);
        // The row at a rank changes with the order, and with its own cells: both wake the value.
        if (row) this.note(`${orderToken(table)}\n`);
        return row;
      },
    };
  }

  /** Works a value out, and follows it by what it read. */
  work(followed: F): FieldValue {
    // Most values read no table: nothing is noted for them, and nothing is made.
    this.reads = null;
    const { value, scope } = followed;
    // The commonest kind by the shortest way, for this is done for every change of everything that shows.
    const result = 'field' in value ? fieldOf(value, scope) : followed.work(scope);
    const reads = this.reads as ReadonlySet<string> | null;
    this.reads = null;
    if (reads === null && !followed.rows) return result;
    for (const token of followed.rows ?? []) if (!reads?.has(token)) this.unfollow(token, followed);
    for (const token of reads ?? []) if (!followed.rows?.has(token)) this.add(token, followed);
    followed.rows = reads;
    return result;
  }

  /** The fields that a value may ask for, whichever case holds: it is followed by all of them from the start. */
  followFields(followed: F): void {
    for (const key of namesIn(followed.value).fields) {
      followed.tokens.add(key);
      this.add(key, followed);
    }
  }

  /** Follows a value by one token more, for as long as it is followed. */
  follow(followed: F, token: string): void {
    followed.tokens.add(token);
    this.add(token, followed);
  }

  /** Lets a value go. */
  drop(followed: F): void {
    for (const token of followed.tokens) this.unfollow(token, followed);
    for (const token of followed.rows ?? []) this.unfollow(token, followed);
    followed.tokens.clear();
    followed.rows = null;
  }

  /** Does something for all that depend on one of the tokens, once for each. */
  forEachDependent(tokens: readonly string[], what: (one: F) => void): void {
    // One changed field is the usual case.
    if (tokens.length === 1 && !tokens[0]!.startsWith('#')) {
      const found = this.asking.get(tokens[0]!);
      if (found instanceof Set) found.forEach(what);
      else if (found) what(found);
    } else this.of(tokens).forEach(what);
  }

  /** Whether one depends on any of the tokens; `tables` are the keys of the tables that they are of. */
  concerns({ tokens: own, rows }: F, tokens: ReadonlySet<string>, tables: ReadonlySet<string>): boolean {
    for (const token of own) if (tokens.has(token)) return true;
    for (const token of rows ?? [])
      if (tokens.has(token) || (token.endsWith('\n') && tables.has(token.slice(1, -1)))) return true;
    return false;
  }

  /** All that depend on one of the tokens, each once. */
  of(tokens: Iterable<string>): Set<F> {
    const all = new Set<F>();
    const take = (token: string) => {
      const found = this.asking.get(token);
      if (found instanceof Set) found.forEach((f) => all.add(f));
      else if (found) all.add(found);
    };
    for (const token of tokens) {
      take(token);
      // A changed row may be the one at some rank.
      if (token.startsWith('#')) take(`${orderToken(token.slice(1).split('#')[0]!)}\n`);
    }
    return all;
  }

  private note(token: string): void {
    (this.reads ??= new Set()).add(token);
  }

  private add(token: string, followed: F): void {
    this.version++;
    const found = this.asking.get(token);
    if (found instanceof Set) found.add(followed);
    else if (found === undefined) this.asking.set(token, followed);
    else if (found !== followed) this.asking.set(token, new Set([found, followed]));
  }

  private unfollow(token: string, followed: F): void {
    this.version++;
    const found = this.asking.get(token);
    if (found === followed) this.asking.delete(token);
    if (!(found instanceof Set)) return;
    found.delete(followed);
    if (found.size === 0) this.asking.delete(token);
  }
}

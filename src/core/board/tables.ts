import { own } from './own.ts';
import type { Quality, Scalar } from './values.ts';

export type Row = Readonly<Record<string, Scalar>>;

/** Rows on the board with a key: players, headlines, leaders. */
export interface Table {
  key: string;
  name: string;
  columns: string[];
  /** In order; the first is rank 1. */
  rows: Map<string, Row>;
  /** The source or the derivation that it comes from. */
  origin: string;
  /** When it last changed, server ms. */
  at: number;
  quality: Quality;
}

/** What a table is replaced by. */
export interface NewTable {
  key: string;
  name: string;
  columns: string[];
  rows: readonly (readonly [string, Row])[];
}

/** A table at one moment, as plain data. */
export interface TableMemory extends NewTable {
  origin: string;
  at: number;
  quality: Quality;
}

/** The token of one row: what a value that reads it depends on. */
export const rowToken = (table: string, row: string) => `#${table}#${row}`;
/** The token of a table's order: which rows there are, and in which order. */
export const orderToken = (table: string) => `#${table}`;

/** A table as it is now, with times counted from `zero`. */
export const tableMemory = (t: Readonly<Table>, zero = 0): TableMemory => ({
  ...t,
  rows: [...t.rows],
  at: t.at - zero,
});

function sameRow(a: Row, b: Row, columns: readonly string[]): boolean {
  if (a === b) return true;
  for (const c of columns) if ((own(a, c) ?? null) !== (own(b, c) ?? null)) return false;
  return true;
}

/** The board's tables. A table is replaced whole; what comes out is only what differs. */
export class Tables {
  private readonly all = new Map<string, Table>();
  /** Rows by rank, made when first asked for after a change. */
  private readonly ranks = new Map<string, Row[]>();

  get(key: string): Readonly<Table> | undefined {
    return this.all.get(key);
  }

  list(): Readonly<Table>[] {
    return [...this.all.values()];
  }

  row(table: string, key: string): Row | undefined {
    return this.all.get(table)?.rows.get(key);
  }

  /** The row at a rank, from 1; undefined beyond the last. */
  ranked(table: string, rank: number): Row | undefined {
    let rows = this.ranks.get(table);
    if (!rows) {
      rows = [...(this.all.get(table)?.rows.values() ?? [])];
      this.ranks.set(table, rows);
    }
    return rows[rank - 1];
  }

  /** The key of the row at a rank, from 1. */
  keyAt(table: string, rank: number): string | undefined {
    const keys = this.all.get(table)?.rows.keys() ?? [];
    let nth = 0;
    for (const key of keys) if (++nth === rank) return key;
    return undefined;
  }

  /**
   * Replaces a table by what `origin` says of it at server time `at` (ms). Gives the tokens of what changed: those of
   * rows that are new, other or gone, and that of the order where it is another. Rows that say the same stay the very
   * same object.
   */
  put(next: NewTable, origin: string, at: number): string[] {
    const was = this.all.get(next.key);
    const tokens: string[] = [];
    const rows = new Map<string, Row>();
    const sameColumns = was?.columns.join('\0') === next.columns.join('\0');
    // Most tables come again in the same order: the old rows are walked beside the new, and looked up only where not.
    const beside = was?.rows.entries();
    let inOrder = was !== undefined;
    for (const [key, row] of next.rows) {
      const old = inOrder ? beside!.next().value : undefined;
      if (old?.[0] !== key) inOrder = false;
      const before = inOrder ? old![1] : was?.rows.get(key);
      const keep = before && sameColumns && sameRow(before, row, next.columns);
      rows.set(key, keep ? before : row);
      if (!keep) tokens.push(rowToken(next.key, key));
    }
    if (!inOrder || was!.rows.size !== rows.size) {
      for (const key of was?.rows.keys() ?? []) if (!rows.has(key)) tokens.push(rowToken(next.key, key));
      tokens.push(orderToken(next.key));
    }
    if (tokens.length) this.ranks.delete(next.key);
    this.all.set(next.key, {
      key: next.key,
      name: next.name,
      columns: next.columns,
      rows,
      origin,
      at: tokens.length || !was ? at : was.at,
      quality: 'ok',
    });
    return tokens;
  }

  /** Takes a table away; gives the tokens of what changed. */
  remove(key: string): string[] {
    const was = this.all.get(key);
    if (!was) return [];
    this.all.delete(key);
    this.ranks.delete(key);
    return [...[...was.rows.keys()].map((row) => rowToken(key, row)), orderToken(key)];
  }

  /** The tables of the origins that are wanted, with times counted from `zero`. */
  remember(wanted: (origin: string) => boolean, zero: number): TableMemory[] {
    return this.list().flatMap((t) => (wanted(t.origin) ? [tableMemory(t, zero)] : []));
  }

  /** Makes the tables of these origins what they were: gives their keys, and the tokens of what differs. */
  recall(
    memory: readonly TableMemory[],
    of: (origin: string) => boolean,
    zero: number,
  ): { keys: string[]; tokens: string[] } {
    const gone = [...this.all.values()].filter((t) => of(t.origin) && !memory.some((m) => m.key === t.key));
    const tokens = [
      ...gone.flatMap((t) => this.remove(t.key)),
      ...memory.flatMap((m) => this.put(m, m.origin, m.at + zero)),
    ];
    for (const { key, at, quality } of memory) Object.assign(this.all.get(key)!, { at: at + zero, quality });
    return { keys: [...gone, ...memory].map((t) => t.key), tokens };
  }

  /** Sets how far the tables of one origin can be trusted; true when that changed one. */
  mark(origin: string, quality: Quality): boolean {
    let changed = false;
    for (const table of this.all.values()) {
      if (table.origin !== origin || table.quality === quality) continue;
      table.quality = quality;
      changed = true;
    }
    return changed;
  }
}

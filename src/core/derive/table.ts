import { own, setOwn } from '../board/own.ts';
import type { NewTable, Row, Table } from '../board/tables.ts';
import { isClock, type FieldValue, type Scalar } from '../board/values.ts';
import { readsOf } from '../trace/reads.ts';
import type { CellAt } from '../trace/traced.ts';
import { withSteps } from '../value/cel.ts';
import { readFormula, type Formula } from '../value/formula.ts';
import {
  compiledStrictly,
  namesIn,
  valueInWords,
  type Names,
  type Scope,
  type Value,
  type Work,
} from '../value/value.ts';
import type { DerivedTable } from './derived.ts';

/** What a derived table reads from. */
export interface TableReader {
  table(key: string): Readonly<Table> | undefined;
  row(table: string, key: string): Row | undefined;
  ranked(table: string, rank: number): Row | undefined;
  /** The key of the row at a rank, from 1. */
  keyAt(table: string, rank: number): string | undefined;
  read(field: string): FieldValue;
}

/** A column's name as it stands in a formula: `penalty minutes` is `penalty_minutes`. */
export const columnName = (column: string) => column.replace(/[^A-Za-z0-9_]/g, '_').replace(/^(\d)/, '_$1');

/** What a cell of a derived table was made of: by which step, and of which cells and fields. */
export interface Behind {
  how: string;
  cells: CellAt[];
  fields: string[];
}

interface Made {
  /** The table and the key of the row that it is made of. */
  table: string;
  at: string;
  source: Row;
  joined: (Row | undefined)[];
  pair: [string, Row];
  holds: boolean;
  /** The rounds in which its source was last there, and in which it was last put among the rows. */
  round: number;
  placed: number;
}

/**
 * Works a derived table out, and again when something changed. A row that its sources say nothing new of is not
 * worked out again, unless a formula reads a field of the board that changed.
 */
/** What working out the rows of one table may cost at a time, in the steps of formulas: some 5000 rows with ten columns. */
const MOST_STEPS = 400_000;

export class TableMaker {
  private readonly computed: { name: string; value: Value; work: Work; names: Names }[];
  private readonly where: Formula | null;
  private readonly made = new Map<string, Made>();
  /** How often it was made. */
  round = 0;
  private fieldValues = '';
  private order: [string, Row][] = [];
  /** The fields of the board that its formulas may read, beside columns. */
  readonly fields: Set<string>;
  /** The tables that computed columns look something up in. */
  private readonly lookedUp: Set<string>;
  private seen: unknown[] = [];
  private reader: TableReader | null = null;
  /** How many rows the last making worked out anew. */
  worked = 0;

  constructor(private readonly doc: DerivedTable) {
    const compiled = (text: string): Formula => {
      const read = readFormula(text);
      if ('problem' in read) throw new Error(read.problem);
      return read;
    };
    this.computed = doc.compute.map(({ name, value }) => ({
      name,
      value,
      work: compiledStrictly(value),
      names: namesIn(value),
    }));
    this.where = doc.where === null ? null : compiled(doc.where);
    const asked = [...this.computed.map((c) => c.names), ...(this.where ? [this.where] : [])];
    // A column's name has no other signs, so that a name with one is a field.
    this.fields = new Set(asked.flatMap((f) => [...f.fields.keys()]).filter((name) => /\W/.test(name)));
    this.lookedUp = new Set(this.computed.flatMap((c) => [...c.names.tables]));
  }

  /** The tables that it is made of. */
  get tables(): Set<string> {
    return new Set([...this.doc.from, ...this.doc.join.map((j) => j.table), ...this.lookedUp]);
  }

  /** The table as it is now. Throws an Error with one sentence, naming row and column, when a formula fails. */
  make(from: TableReader): NewTable {
    const { doc } = this;
    const fieldValues = JSON.stringify([...this.fields].map((f) => from.read(f)));
    // Rows are looked up anew when any row of a table changed that something is looked up in.
    const seen = [...this.lookedUp].map((key) => from.table(key)?.rows);
    const anew = fieldValues !== this.fieldValues || seen.some((rows, i) => rows !== this.seen[i]);
    this.seen = seen;
    this.reader = from;
    const round = ++this.round;
    let worked = 0;
    let count = 0;
    const sources = doc.from.flatMap((key) => from.table(key) ?? []);
    withSteps(MOST_STEPS, () => {
      for (const table of sources) {
        for (const [rowKey, source] of table.rows) {
          let key = rowKey;
          let was = this.made.get(key);
          if (was?.round === round) {
            key = `${table.key} ${rowKey}`;
            was = this.made.get(key);
          }
          count++;
          if (was && !anew && was.source === source && this.joinsStand(was, from)) {
            was.round = round;
            continue;
          }
          worked++;
          this.made.set(key, this.work(key, { table: table.key, at: rowKey, source }, from));
        }
      }
    });
    if (this.made.size > count)
      for (const [key, m] of this.made) if (m.round !== round) this.made.delete(key);
    this.fieldValues = fieldValues;
    this.worked = worked;
    const columns = this.columns(sources);
    let rows = this.inOldOrder();
    if (doc.group) rows = grouped(rows, doc.group);
    rows = sorted(rows, doc.sort);
    this.order = rows;
    // What is beyond the limit is not ranked: nobody sees it.
    if (doc.limit !== null) rows = rows.slice(0, doc.limit);
    if (doc.rank) rows = ranked(rows, doc);
    return { key: doc.key, name: doc.name, columns, rows };
  }

  /** The names that its formulas ask for and that are no columns of its rows: fields of the board. */
  asked(): string[] {
    const [row] = this.made.values();
    if (!row) return [];
    const columns = new Set(Object.keys(row.pair[1]).map(columnName));
    const names = [...this.computed.map((c) => c.names.fields.keys()), this.where?.fields.keys() ?? []];
    return names.flatMap((all) => [...all]).filter((name) => !columns.has(name));
  }

  /** A row before groups, order and limit: its columns, and whether the condition holds for it. */
  row(key: string): { row: Row; holds: boolean } | null {
    const made = this.made.get(key);
    return made ? { row: made.pair[1], holds: made.holds } : null;
  }

  /** The keys of the rows before the condition, groups, order and limit. */
  get keys(): string[] {
    return [...this.made.keys()];
  }

  /** What a cell was made of when the table was last made; null where there is no such row. */
  behind(key: string, column: string): Behind | null {
    const { rank, group, sort } = this.doc;
    if (rank?.name === column) {
      const cells = sort.map(({ by }) => ({ table: this.doc.key, row: key, column: by }));
      return { how: `rank by ${sort.map((s) => s.by).join(', ') || 'the order of rows'}`, cells, fields: [] };
    }
    if (!group) {
      const made = this.made.get(key);
      const value = this.computed.findLast((c) => c.name === column)?.value;
      return made ? { how: value ? valueInWords(value) : column, ...this.madeOf(made, column) } : null;
    }
    const total = group.totals.find((t) => t.name === column);
    const of = total?.of ?? column;
    const members = [...this.made.values()].filter((m) => m.holds && groupKey(m.pair[1], group.by) === key);
    const parts = members.map((m) => this.madeOf(m, of));
    return members.length === 0
      ? null
      : {
          how: total
            ? `${total.how} of ${of} over ${members.length} rows`
            : `what ${members.length} rows share`,
          cells: parts.flatMap((p) => p.cells),
          fields: [...new Set(parts.flatMap((p) => p.fields))],
        };
  }

  /** The cells and fields that a column of one row comes from, through columns computed before the `before`th. */
  private madeOf(
    made: Made,
    column: string,
    before = this.computed.length,
  ): { cells: CellAt[]; fields: string[] } {
    const nth = this.computed.findLastIndex((c, i) => i < before && c.name === column);
    if (nth < 0) {
      const joined = this.doc.join.findLastIndex((_, i) => made.joined[i] && column in made.joined[i]);
      if (column in made.source || joined < 0)
        return { cells: [{ table: made.table, row: made.at, column }], fields: [] };
      const { table, by } = this.doc.join[joined]!;
      return { cells: [{ table, row: String(made.source[by] ?? ''), column }], fields: [] };
    }
    const names = new Map(Object.keys(made.pair[1]).map((c) => [columnName(c), c]));
    const cells = new Map<string, CellAt>();
    const fields = new Set<string>();
    const scope = columnScope(made.pair[1], this.reader!);
    const reads = readsOf(this.computed[nth]!.value, scope.scope, (t, rank) => this.reader!.keyAt(t, rank));
    for (const cell of reads.cells) cells.set(JSON.stringify(cell), cell);
    for (const name of reads.fields) {
      const of = names.get(name);
      if (of === undefined) {
        fields.add(name);
        continue;
      }
      const inner = this.madeOf(made, of, nth);
      for (const cell of inner.cells) cells.set(JSON.stringify(cell), cell);
      inner.fields.forEach((f) => fields.add(f));
    }
    return { cells: [...cells.values()], fields: [...fields] };
  }

  private joinsStand({ source, joined }: Made, from: TableReader): boolean {
    const { join } = this.doc;
    return (
      join.length === 0 ||
      join.every((j, i) => from.row(j.table, String(own(source, j.by) ?? '')) === joined[i])
    );
  }

  private work(key: string, of: Pick<Made, 'table' | 'at' | 'source'>, from: TableReader): Made {
    const { source } = of;
    const joined = this.doc.join.map((j) => from.row(j.table, String(own(source, j.by) ?? '')));
    const row: Record<string, Scalar> = {};
    for (const other of [...joined, source]) for (const name in other) setOwn(row, name, other[name]!);
    const { scope, add } = columnScope(row, from);
    const at = (column: string, work: () => FieldValue): Scalar => {
      try {
        const value = work();
        // A clock stands in a row as its milliseconds.
        return isClock(value) ? value.value : value;
      } catch (error) {
        throw new Error(`${column} of row ${key}: ${(error as Error).message}`, { cause: error });
      }
    };
    for (const { name, work } of this.computed) {
      setOwn(
        row,
        name,
        at(name, () => work(scope)),
      );
      add(name);
    }
    const { where } = this;
    const holds = where === null || at('where', () => where.run(scope.field)) === true;
    // Named one by one: objects made by spreading are slow to read, and there is one for each row.
    return {
      table: of.table,
      at: of.at,
      source,
      joined,
      pair: [key, row],
      holds,
      round: this.round,
      placed: 0,
    };
  }

  /** Rows as they stood last, then new ones: a list that is almost in order is sorted in one pass. */
  private inOldOrder(): [string, Row][] {
    const rows: [string, Row][] = [];
    const take = (m: Made) => {
      m.placed = this.round;
      if (m.holds) rows.push(m.pair);
    };
    if (!this.doc.group && this.doc.sort.length > 0) {
      for (const [key] of this.order) {
        const m = this.made.get(key);
        if (m) take(m);
      }
    }
    for (const m of this.made.values()) if (m.placed !== this.round) take(m);
    return rows;
  }

  private columns(sources: readonly Readonly<Table>[]): string[] {
    const { group, rank, compute } = this.doc;
    const own = group
      ? [...group.by, ...group.totals.map((t) => t.name)]
      : [
          ...sources.flatMap((t) => t.columns),
          ...(this.made.values().next().value?.joined ?? []).flatMap((r) => Object.keys(r ?? {})),
          ...compute.map((c) => c.name),
        ];
    return [...new Set([...(rank ? [rank.name] : []), ...own])];
  }
}

/** Reads columns of a row by their names in Values, and fields of the board for all else. */
function columnScope(
  row: Readonly<Record<string, Scalar>>,
  from: TableReader,
): { scope: Scope; add: (column: string) => void } {
  const names = new Map(Object.keys(row).map((c) => [columnName(c), c]));
  return {
    add: (column) => names.set(columnName(column), column),
    scope: {
      field: (name) => {
        const column = names.get(name);
        return column === undefined ? from.read(name) : (own(row, column) ?? null);
      },
      input: () => null,
      row: (table, key) => from.row(table, key),
      ranked: (table, rank) => from.ranked(table, rank),
    },
  };
}

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
const numberOf = (x: Scalar) => (typeof x === 'number' ? x : x === null || x === '' ? NaN : Number(x));

/** Orders two plain values: numbers and texts that are numbers by size, other texts by the alphabet, blanks last. */
export function compareScalars(a: Scalar, b: Scalar): number {
  if (a === b) return 0;
  if (typeof a === 'number' && typeof b === 'number') return a - b;
  const blankA = a === null || a === '';
  const blankB = b === null || b === '';
  if (blankA || blankB) return blankA && blankB ? 0 : blankA ? 1 : -1;
  const [x, y] = [numberOf(a), numberOf(b)];
  if (!Number.isNaN(x) && !Number.isNaN(y)) return x - y;
  return collator.compare(String(a), String(b));
}

function compareBy(sort: DerivedTable['sort']) {
  return (a: Row, b: Row): number => {
    for (const { by, descending } of sort) {
      const [x, y] = [own(a, by) ?? null, own(b, by) ?? null];
      const order = compareScalars(x, y);
      // Blanks stand last whichever way the rest goes.
      if (order !== 0) return descending && x !== null && y !== null && x !== '' && y !== '' ? -order : order;
    }
    return 0;
  };
}

function sorted(rows: [string, Row][], sort: DerivedTable['sort']): [string, Row][] {
  if (sort.length === 0) return rows;
  const compare = compareBy(sort);
  return rows.sort((a, b) => compare(a[1], b[1]));
}

function ranked(rows: [string, Row][], { rank, sort }: DerivedTable): [string, Row][] {
  const compare = compareBy(sort);
  let place = 0;
  return rows.map(([key, row], i) => {
    const ties = i > 0 && compare(rows[i - 1]![1], row) === 0;
    if (rank!.ties === 'order') place = i + 1;
    else if (!ties) place = rank!.ties === 'dense' ? place + 1 : i + 1;
    return [key, { [rank!.name]: place, ...row }];
  });
}

const groupKey = (row: Row, by: readonly string[]) =>
  by.map((c) => String(own(row, c) ?? '')).join(' ') || 'all';

function grouped(
  rows: readonly [string, Row][],
  { by, totals }: NonNullable<DerivedTable['group']>,
): [string, Row][] {
  const groups = new Map<string, Row[]>();
  for (const [, row] of rows) {
    const key = groupKey(row, by);
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
  }
  return [...groups].map(([key, members]) => {
    const row: Record<string, Scalar> = Object.fromEntries(by.map((c) => [c, own(members[0]!, c) ?? null]));
    for (const { name, of, how } of totals)
      setOwn(row, name, TOTALS[how](members.map((m) => own(m, of) ?? null)));
    return [key, row];
  });
}

const numbers = (values: readonly Scalar[]) => values.map(numberOf).filter((n) => !Number.isNaN(n));
const sum = (values: readonly Scalar[]) => numbers(values).reduce((a, b) => a + b, 0);
const TOTALS: Record<
  NonNullable<DerivedTable['group']>['totals'][number]['how'],
  (values: Scalar[]) => Scalar
> = {
  sum,
  count: (values) => values.filter((x) => x !== null && x !== '').length,
  average: (values) => (numbers(values).length ? sum(values) / numbers(values).length : null),
  least: (values) => (numbers(values).length ? Math.min(...numbers(values)) : null),
  most: (values) => (numbers(values).length ? Math.max(...numbers(values)) : null),
  first: (values) => values[0] ?? null,
  last: (values) => values.at(-1) ?? null,
};

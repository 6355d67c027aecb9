import { AsWritten, byWord, Each, One } from '../document/check.ts';
import { readDocument } from '../document/upgrade.ts';
import {
  Count,
  Is,
  isKey,
  isText,
  Key,
  ListOf,
  Maybe,
  Name,
  OneOf,
  OrNull,
  Text,
  Whole,
  YesNo,
} from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import { IsFormula, VALUE, type Value } from '../value/value.ts';

const Column = () => Text(1, 80);
const Tables = () => ListOf(isKey, 'must be keys of tables');

/** A computed column: any Value, in which columns stand as fields by their names; a formula may be written as such. */
@AsWritten(({ formula, ...rest }) => ({ ...(formula === undefined ? {} : { value: { formula } }), ...rest }))
export class Computed {
  @Column() name!: string;
  @One(() => VALUE) value!: Value;
}

class DerivedField {
  @Is('field') what!: 'field';
  @Key() key!: string;
  @Name() name!: string;
  @One(() => VALUE) value!: Value;
}

class Join {
  @Key() table!: string;
  @Column() by!: string;
}
const TOTALS = ['sum', 'count', 'average', 'least', 'most', 'first', 'last'] as const;
class Total {
  @Column() name!: string;
  @Column() of!: string;
  @OneOf(...TOTALS) how!: (typeof TOTALS)[number];
}
class Group {
  @Count(0, 4) @ListOf((v) => isText(v, 80), 'must be names of columns') by!: string[];
  @Each(() => Total) totals!: Total[];
}
class Sorted {
  @Column() by!: string;
  @YesNo() descending = false;
}
class Rank {
  @Column() name!: string;
  @OneOf('shared', 'dense', 'order') ties!: 'shared' | 'dense' | 'order';
}

export class DerivedTable {
  @Is('table') what!: 'table';
  @Key() key!: string;
  @Name() name!: string;
  /** The table whose rows it is made of, or several one after another. */
  @Count(1, 10) @Tables() from!: string[];
  /** Columns of another table, for the row there whose key a column here says. */
  @Count(0, 5) @Each(() => Join) join: Join[] = [];
  /** Only rows for which this formula is true. Columns stand in formulas by their names, spaces as `_`. */
  @OrNull() @IsFormula() where: string | null = null;
  /** Further columns, each worked out from those before it. */
  @Count(0, 40) @Each(() => Computed) compute: Computed[] = [];
  /** One row for each group of rows that say the same in these columns, with totals. */
  @OrNull() @One(() => Group) group: Group | null = null;
  @Count(0, 6) @Each(() => Sorted) sort: Sorted[] = [];
  /**
   * A column that says the rank by the sorted columns. Equals have one rank: `shared` leaves the next ranks out
   * (1, 1, 3), `dense` does not (1, 1, 2); `order` counts rows.
   */
  @OrNull() @One(() => Rank) rank: Rank | null = null;
  @OrNull() @Whole(1, 5000) limit: number | null = null;
}

/** The row with this key, as it was typed. */
class ByKey {
  @Is('key') by!: 'key';
  @Text(0, 200) is!: string;
}
class ByRank {
  @Is('rank') by!: 'rank';
  @Whole(1, 5000) rank!: number;
}
/** One row after another, each for `dwell` ms or as long as the row says. */
class ByRotation {
  @Is('rotation') by!: 'rotation';
  @Whole(500, 3_600_000) dwell!: number;
  /** A column that says for how many seconds its row stands, where it says so. */
  @Maybe() @Column() seconds?: string;
  @OneOf('forwards', 'backwards', 'shuffled') order: 'forwards' | 'backwards' | 'shuffled' = 'forwards';
}
type How = ByKey | ByRank | ByRotation;
const HOW = byWord<How>('by', { key: ByKey, rank: ByRank, rotation: ByRotation });

export class Pick {
  @Is('pick') what!: 'pick';
  @Key() key!: string;
  @Name() name!: string;
  @Key() table!: string;
  @One(() => HOW) how!: How;
}

/**
 * Keyed pictures: for each row of the tables a path into the media library, made by a Value of its columns; what
 * comes of it is a table with the picture found, or the fallback, and whether it was found.
 */
@AsWritten((plain) =>
  typeof plain['path'] === 'string' ? { ...plain, path: { formula: plain['path'] } } : plain,
)
export class KeyedPictures {
  @Is('pictures') what!: 'pictures';
  @Key() key!: string;
  @Name() name!: string;
  @Count(1, 10) @Tables() from!: string[];
  @One(() => VALUE) path!: Value;
  @Text(0, 300) fallback = '';
}

/**
 * What is worked out of the board and stands on it like anything else: a derived field, a derived table, or a pick
 * (a field that says the key of one row of a table).
 */
export type Derived = DerivedField | DerivedTable | Pick | KeyedPictures;
/** Reads what is derived. */
export const DERIVED = byWord<Derived>('what', {
  field: DerivedField,
  table: DerivedTable,
  pick: Pick,
  pictures: KeyedPictures,
});

/** What is derived, as it is kept. */
export class DerivedDoc {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @One(() => DERIVED) derived!: Derived;
}

/** Reads a derivation as it is kept. */
export function parseDerived(input: unknown): Parsed<DerivedDoc> {
  return readDocument(DerivedDoc, [], input, (doc) =>
    doc.key === doc.derived.key ? [] : ['key: is not the key of what it derives'],
  );
}

import * as v from 'valibot';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';
import { readFormula } from '../value/formula.ts';
import { valueSchema, type Value } from '../value/value.ts';

const formula = v.pipe(
  v.string(),
  v.minLength(1),
  v.maxLength(2000),
  v.rawCheck(({ dataset, addIssue }) => {
    if (!dataset.typed) return;
    const read = readFormula(dataset.value);
    if ('problem' in read) addIssue({ message: `is not a formula: ${read.problem}, at sign ${read.at + 1}` });
  }),
);
const column = v.pipe(v.string(), v.minLength(1), v.maxLength(80));
/** A computed column: any Value, in which columns stand as fields by their names; a formula may be written as such. */
const computed = v.union([
  v.object({ name: column, value: valueSchema }),
  v.pipe(
    v.object({ name: column, formula }),
    v.transform(({ name, formula: text }) => ({ name, value: { formula: text } as Value })),
  ),
]);

const field = v.object({
  what: v.literal('field'),
  key: keySchema,
  name: nameSchema,
  value: valueSchema,
});

const table = v.object({
  what: v.literal('table'),
  key: keySchema,
  name: nameSchema,
  /** The table whose rows it is made of, or several one after another. */
  from: v.pipe(v.array(keySchema), v.minLength(1), v.maxLength(10)),
  /** Columns of another table, for the row there whose key a column here says. */
  join: v.optional(v.pipe(v.array(v.object({ table: keySchema, by: column })), v.maxLength(5)), []),
  /** Only rows for which this formula is true. Columns stand in formulas by their names, spaces as `_`. */
  where: v.optional(v.nullable(formula), null),
  /** Further columns, each worked out from those before it. */
  compute: v.optional(v.pipe(v.array(computed), v.maxLength(40)), []),
  /** One row for each group of rows that say the same in these columns, with totals. */
  group: v.optional(
    v.nullable(
      v.object({
        by: v.pipe(v.array(column), v.maxLength(4)),
        totals: v.array(
          v.object({
            name: column,
            of: column,
            how: v.picklist(['sum', 'count', 'average', 'least', 'most', 'first', 'last']),
          }),
        ),
      }),
    ),
    null,
  ),
  sort: v.optional(
    v.pipe(v.array(v.object({ by: column, descending: v.optional(v.boolean(), false) })), v.maxLength(6)),
    [],
  ),
  /**
   * A column that says the rank by the sorted columns. Equals have one rank: `shared` leaves the next ranks out
   * (1, 1, 3), `dense` does not (1, 1, 2); `order` counts rows.
   */
  rank: v.optional(
    v.nullable(v.object({ name: column, ties: v.picklist(['shared', 'dense', 'order']) })),
    null,
  ),
  limit: v.optional(v.nullable(wholeNumber(1, 5000)), null),
});

const pick = v.object({
  what: v.literal('pick'),
  key: keySchema,
  name: nameSchema,
  table: keySchema,
  how: v.variant('by', [
    /** The row with this key, as it was typed. */
    v.object({ by: v.literal('key'), is: v.pipe(v.string(), v.maxLength(200)) }),
    v.object({ by: v.literal('rank'), rank: wholeNumber(1, 5000) }),
    /** One row after another, each for `dwell` ms or as long as the row says. */
    v.object({
      by: v.literal('rotation'),
      dwell: wholeNumber(500, 3_600_000),
      /** A column that says for how many seconds its row stands, where it says so. */
      seconds: v.optional(column),
      order: v.optional(v.picklist(['forwards', 'backwards', 'shuffled']), 'forwards'),
    }),
  ]),
});

/**
 * Keyed pictures: for each row of the tables a path into the media library, made by a Value of its columns; what
 * comes of it is a table with the picture found, or the fallback, and whether it was found.
 */
const pictures = v.object({
  what: v.literal('pictures'),
  key: keySchema,
  name: nameSchema,
  from: v.pipe(v.array(keySchema), v.minLength(1), v.maxLength(10)),
  path: v.union([
    valueSchema,
    v.pipe(
      formula,
      v.transform((text): Value => ({ formula: text })),
    ),
  ]),
  fallback: v.optional(v.pipe(v.string(), v.maxLength(300)), ''),
});

export const derivedSchema = v.variant('what', [field, table, pick, pictures]);

/**
 * What is worked out of the board and stands on it like anything else: a derived field, a derived table, or a pick
 * (a field that says the key of one row of a table).
 */
export type Derived = v.InferOutput<typeof derivedSchema>;
export type DerivedTable = Extract<Derived, { what: 'table' }>;
export type KeyedPictures = Extract<Derived, { what: 'pictures' }>;
export type Pick = Extract<Derived, { what: 'pick' }>;
/** The same as it is kept. */
export type DerivedDoc = { schema: 1; key: string; derived: Derived };

/** Reads a derivation as it is kept. */
export function parseDerived(input: unknown): Parsed<DerivedDoc> {
  const schema = v.object({ schema: v.literal(1), key: keySchema, derived: derivedSchema });
  return parseDocument(schema, input, (doc) =>
    doc.key === doc.derived.key ? [] : ['key: is not the key of what it derives'],
  );
}

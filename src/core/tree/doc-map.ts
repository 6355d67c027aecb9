import * as v from 'valibot';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';
import { parsePlace } from './place.ts';

const place = v.pipe(
  v.string(),
  v.maxLength(400),
  v.check((text) => parsePlace(text) !== null, "is not a place such as /stats/team[@side='home']/@score"),
);
/** What a plain value is read as. `text` keeps its form: `.317` and `007` stay as they are written. */
const as = v.picklist(['text', 'number', 'clock', 'flag']);
const column = v.object({ name: nameSchema, place, as });

const docMapSchema = v.object({
  schema: v.literal(1),
  key: keySchema,
  /** In which row of a sheet the headings stand, counted from 1; 0 for none, found by itself where it is not said. */
  heading: v.optional(wholeNumber(0, 1000)),
  /** How its numbers are written; with a point where nothing is said. */
  numbers: v.optional(v.picklist(['point', 'comma'])),
  readings: v.pipe(v.array(v.object({ name: nameSchema, place, as })), v.maxLength(400)),
  tables: v.pipe(
    v.array(
      v.object({
        /** Its key on the board. */
        key: keySchema,
        name: nameSchema,
        /** The place of its rows: an element that repeats. */
        rows: place,
        columns: v.pipe(v.array(column), v.minLength(1), v.maxLength(100)),
        /** The columns that tell rows apart. */
        keyed: v.pipe(v.array(nameSchema), v.minLength(1), v.maxLength(4)),
        /** What becomes of it when a document has no rows for it: its last rows stay, or it is empty. */
        whenEmpty: v.optional(v.picklist(['keep', 'clear'])),
        /** Rows beyond this many are left out. */
        limit: v.optional(wholeNumber(1, 5000), 2000),
      }),
    ),
    v.maxLength(40),
  ),
});

/** The description of a document: which places make which reading, which elements make the rows of which table. */
export type DocMap = v.InferOutput<typeof docMapSchema>;
export type DocReading = DocMap['readings'][number];
export type DocTable = DocMap['tables'][number];
export type DocType = DocReading['as'];

function twice(names: readonly string[], what: string): string[] {
  return names.filter((n, i) => names.indexOf(n) !== i).map((n) => `${what}: "${n}" is there twice`);
}

/** Reads a document map; refuses names that are there twice and a key column that the table lacks. */
export function parseDocMap(input: unknown): Parsed<DocMap> {
  return parseDocument(docMapSchema, input, (map) => [
    ...twice(
      map.readings.map((r) => r.name),
      'readings',
    ),
    ...twice(
      map.tables.map((t) => t.key),
      'tables',
    ),
    ...map.tables.flatMap((t) => {
      const names = t.columns.map((c) => c.name);
      return [
        ...twice(names, `tables.${t.key}.columns`),
        ...t.keyed
          .filter((k) => !names.includes(k))
          .map((k) => `tables.${t.key}: the key "${k}" is not one of its columns`),
      ];
    }),
  ]);
}

import * as v from 'valibot';

/** One cell of a table on the board. */
export interface CellAt {
  table: string;
  row: string;
  column: string;
}

/** Whatever can be asked why it says what it says: a field, a cell, or a layer of what is on air. */
export type Traced = { field: string } | { cell: CellAt } | { layer: { mount: string; name: string } };

const text = v.pipe(v.string(), v.minLength(1), v.maxLength(400));
const tracedSchema = v.union([
  v.strictObject({ field: text }),
  v.strictObject({ cell: v.strictObject({ table: text, row: text, column: text }) }),
  v.strictObject({ layer: v.strictObject({ mount: text, name: text }) }),
]);

/** Reads what a page asks to be traced; null for what is none. */
export function readTraced(input: unknown): Traced | null {
  const result = v.safeParse(tracedSchema, input);
  return result.success ? result.output : null;
}

const partsOf = (of: Traced): string[] =>
  'field' in of
    ? ['field', of.field]
    : 'cell' in of
      ? ['cell', of.cell.table, of.cell.row, of.cell.column]
      : ['layer', of.layer.mount, of.layer.name];

/** One text for each thing that can be traced: the same for the same, another for any other. */
export const tracedKey = (of: Traced): string => JSON.stringify(partsOf(of));

/** One cell of a table on the board. */
export interface CellAt {
  table: string;
  row: string;
  column: string;
}

/** Whatever can be asked why it says what it says: a field, a cell, or a layer of what is on air. */
export type Traced = { field: string } | { cell: CellAt } | { layer: { mount: string; id: string } };

const partsOf = (of: Traced): string[] =>
  'field' in of
    ? ['field', of.field]
    : 'cell' in of
      ? ['cell', of.cell.table, of.cell.row, of.cell.column]
      : ['layer', of.layer.mount, of.layer.id];

/** One text for each thing that can be traced: the same for the same, another for any other. */
export const tracedKey = (of: Traced): string => JSON.stringify(partsOf(of));

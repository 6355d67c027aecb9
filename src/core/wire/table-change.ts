import type { Row, Table } from '../board/tables.ts';
import type { DeskTable, TableChange } from './wire.ts';

/** A table of the board as it is sent whole. */
export function wholeTable({ rows, ...table }: Readonly<Table>): DeskTable {
  return { ...table, rows: [...rows] };
}

/**
 * What leads from one state of a table to the next: the rows that are new or other, and the order where it is another.
 * Rows count as the same when they are the very same object, as the board keeps them. The table whole when it was not
 * there before or has other columns.
 */
export function tableChange(was: Readonly<Table> | undefined, now: Readonly<Table>): DeskTable | TableChange {
  if (!was || was.columns.join('\0') !== now.columns.join('\0')) return wholeTable(now);
  const { key, name, origin, at, quality } = now;
  const rows: [string, Row][] = [];
  const before = was.rows.keys();
  let inOrder = was.rows.size === now.rows.size;
  for (const [rowKey, row] of now.rows) {
    if (was.rows.get(rowKey) !== row) rows.push([rowKey, row]);
    if (inOrder && before.next().value !== rowKey) inOrder = false;
  }
  const change: TableChange = { change: true, key, name, origin, at, quality, rows };
  return inOrder ? change : { ...change, order: [...now.rows.keys()] };
}

/**
 * The table after a change. A change that was taken in already changes nothing. Rows of the order that nobody knows are
 * left out; a page that missed one asks for a snapshot.
 */
export function changedTable(was: DeskTable, { change: _, rows, order, ...rest }: TableChange): DeskTable {
  const other = new Map(rows);
  if (!order)
    return { ...was, ...rest, rows: was.rows.map((r) => (other.has(r[0]) ? [r[0], other.get(r[0])!] : r)) };
  const known = new Map([...was.rows, ...rows]);
  return {
    ...was,
    ...rest,
    rows: order.flatMap((key): [string, Row][] => {
      const row = known.get(key);
      return row ? [[key, row]] : [];
    }),
  };
}

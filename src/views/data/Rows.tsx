import { useMemo } from 'react';
import type { Row } from '../../core/board/tables.ts';
import { later } from '../../ui/Later.tsx';
import shell from '../shared/View.module.css';
import type { Trail } from '../shared/trace/trail.ts';

const Table = later(() => import('../../ui/Table.tsx').then((m) => m.Table<Row>));

const textOf = (row: Row, column: string): string => {
  const cell = row[column] ?? '';
  return typeof cell === 'number' && !Number.isInteger(cell) ? cell.toFixed(3) : String(cell);
};

/** Rows of a table of the board. Any cell of it can be traced back to where it comes from. */
export function Rows({
  label,
  columns,
  rows,
  traced = null,
}: {
  label: string;
  columns: readonly string[];
  rows: readonly (readonly [string, Row])[];
  /** The table's key on the board and the trail that its cells start; none for what is not on the board. */
  traced?: { table: string; trail: Trail } | null;
}) {
  const names = columns.join('\n');
  const numbers = columns.filter((c) => typeof rows[0]?.[1][c] === 'number').join('\n');
  const defs = useMemo(() => {
    const right = new Set(numbers.split('\n'));
    return names.split('\n').map((key) => ({ key, number: right.has(key) }));
  }, [names, numbers]);
  const at = traced?.trail.at;
  const chosen = at && 'cell' in at && at.cell.table === traced?.table ? at.cell : null;
  if (rows.length === 0) return <p className={shell['dim']}>No row is there now.</p>;
  return (
    <Table
      label={label}
      columns={defs}
      rows={rows}
      textOf={textOf}
      chosen={chosen}
      {...(traced
        ? {
            onCell: (row: string, column: string) =>
              traced.trail.start({ cell: { table: traced.table, row, column } }),
          }
        : {})}
    />
  );
}

import type { Row } from '../../core/board/tables.ts';
import shell from '../shared/View.module.css';
import css from './DataView.module.css';

/** How many rows are drawn; the rest is a read-out away. */
const DRAWN = 100;

/** Rows of a table of the board. */
export function Rows({
  columns,
  rows,
  total,
}: {
  columns: readonly string[];
  rows: readonly (readonly [string, Row])[];
  total: number;
}) {
  if (rows.length === 0) return <p className={shell['dim']}>No row is there now.</p>;
  return (
    <div className={css['scroll']}>
      <table className={css['rows']}>
        <thead>
          <tr>
            {columns.map((c) => (
              <th key={c}>{c}</th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.slice(0, DRAWN).map(([key, row]) => (
            <tr key={key} data-row={key}>
              {columns.map((c) => {
                const cell = row[c] ?? '';
                return (
                  <td key={c} data-number={typeof cell === 'number'}>
                    {typeof cell === 'number' && !Number.isInteger(cell) ? cell.toFixed(3) : String(cell)}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {total > DRAWN && <p className={shell['dim']}>and {total - DRAWN} more</p>}
    </div>
  );
}

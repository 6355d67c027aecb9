import type { Row } from '../../core/board/tables.ts';
import type { Trail } from '../shared/trace/trail.ts';
import shell from '../shared/View.module.css';
import css from './DataView.module.css';

/** How many rows are drawn; the rest is a read-out away. */
const DRAWN = 100;

interface Props {
  columns: readonly string[];
  rows: readonly (readonly [string, Row])[];
  /** The table's key on the board and the trail that its cells start; none for what is not on the board. */
  traced?: { table: string; trail: Trail } | null;
}

/** Moves from cell to cell by the arrows, as in a sheet; Enter chooses. */
function onKeyDown(event: React.KeyboardEvent<HTMLElement>): void {
  const cell = (event.target as Element).closest('td');
  const row = cell?.parentElement;
  if (!cell || !row) return;
  const beside: Record<string, Element | null | undefined> = {
    ArrowLeft: cell.previousElementSibling,
    ArrowRight: cell.nextElementSibling,
    ArrowUp: row.previousElementSibling?.children[cell.cellIndex],
    ArrowDown: row.nextElementSibling?.children[cell.cellIndex],
  };
  if (event.key === 'Enter') cell.click();
  else if (event.key in beside) (beside[event.key] as HTMLElement | null | undefined)?.focus();
  else return;
  event.preventDefault();
}

/** Rows of a table of the board. Any cell of it can be traced back to where it comes from. */
export function Rows({ columns, rows, traced }: Props) {
  const at = traced?.trail.at;
  const chosen = at && 'cell' in at && at.cell.table === traced?.table ? at.cell : null;
  if (rows.length === 0) return <p className={shell['dim']}>No row is there now.</p>;
  return (
    <div className={css['scroll']}>
      <table className={css['rows']} role={traced ? 'grid' : undefined}>
        <thead>
          <tr>
            {columns.map((c) => (
              <th key={c}>{c}</th>
            ))}
          </tr>
        </thead>
        <tbody onKeyDown={traced ? onKeyDown : undefined}>
          {rows.slice(0, DRAWN).map(([key, row], i) => (
            <tr key={key} data-row={key}>
              {columns.map((c, j) => {
                const cell = row[c] ?? '';
                return (
                  <td
                    key={c}
                    data-number={typeof cell === 'number'}
                    {...(traced && {
                      tabIndex: i + j === 0 ? 0 : -1,
                      'aria-selected': chosen?.row === key && chosen.column === c,
                      title: 'Why it says that',
                      onClick: () =>
                        traced.trail.start({ cell: { table: traced.table, row: key, column: c } }),
                    })}
                  >
                    {typeof cell === 'number' && !Number.isInteger(cell) ? cell.toFixed(3) : String(cell)}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length > DRAWN && <p className={shell['dim']}>and {rows.length - DRAWN} more</p>}
    </div>
  );
}

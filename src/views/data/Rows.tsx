import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef } from 'react';
import type { Row } from '../../core/board/tables.ts';
import type { Trail } from '../shared/trace/trail.ts';
import shell from '../shared/View.module.css';
import css from './DataView.module.css';

/** How high a row is before it has been measured, in px. */
const HIGH = 26;

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

/** The room of rows that are not drawn. */
const Gap = ({ high }: { high: number }) =>
  high > 0 && (
    <tr aria-hidden>
      <td style={{ height: high, padding: 0, border: 0 }} />
    </tr>
  );

/** Rows of a table of the board, drawn only where they are seen. Any cell of it can be traced back to where it comes from. */
export function Rows({ columns, rows, traced }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => area.current,
    estimateSize: () => HIGH,
    getItemKey: (i) => rows[i]![0],
    overscan: 12,
  });
  const seen = virtual.getVirtualItems();
  const above = seen[0]?.start ?? 0;
  const below = virtual.getTotalSize() - (seen.at(-1)?.end ?? 0);
  const at = traced?.trail.at;
  const chosen = at && 'cell' in at && at.cell.table === traced?.table ? at.cell : null;
  if (rows.length === 0) return <p className={shell['dim']}>No row is there now.</p>;
  return (
    <div ref={area} className={css['scroll']}>
      <table className={css['rows']} role={traced ? 'grid' : undefined} aria-rowcount={rows.length}>
        <thead>
          <tr>
            {columns.map((c) => (
              <th key={c}>{c}</th>
            ))}
          </tr>
        </thead>
        <tbody onKeyDown={traced ? onKeyDown : undefined}>
          <Gap high={above} />
          {seen.map(({ index: i }, nth) => {
            const [key, row] = rows[i]!;
            return (
              <tr key={key} ref={virtual.measureElement} data-index={i} data-row={key} aria-rowindex={i + 1}>
                {columns.map((c, j) => {
                  const cell = row[c] ?? '';
                  return (
                    <td
                      key={c}
                      data-number={typeof cell === 'number'}
                      {...(traced && {
                        // The first that is drawn, wherever one has scrolled to: the table is always reached by Tab.
                        tabIndex: nth + j === 0 ? 0 : -1,
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
            );
          })}
          <Gap high={below} />
        </tbody>
      </table>
    </div>
  );
}

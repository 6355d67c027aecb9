import { unlike } from '../text/words.ts';
import type { Scalar } from '../board/values.ts';
import { node, type TreeNode } from './node.ts';

/** A cell of a sheet: what it shows, and the number behind that where it is another. */
export interface SheetCell {
  shows: Scalar;
  raw?: number;
}
export type SheetRow = readonly (SheetCell | undefined)[];

const isFilled = (cell: SheetCell | undefined): cell is SheetCell =>
  cell !== undefined && cell.shows !== null && String(cell.shows).trim() !== '';
const isNumber = (cell: SheetCell) =>
  typeof cell.shows !== 'string' || /^(?=.*\d)[-+]?[\d.,:/%\s]+$/.test(cell.shows.trim());
const filledIn = (row: SheetRow) => row.filter(isFilled);

/** How many rows from the top the headings are looked for in. */
const LOOKED_AT = 30;

/**
 * Where the headings of a sheet stand, counted from 0: the first row that is about as full as the rows below it and
 * says no numbers; titles above it and blank rows are passed over. The first filled row where none is like that; -1
 * for a sheet with nothing in it.
 */
export function headingRow(rows: readonly SheetRow[]): number {
  const counts = rows.slice(0, LOOKED_AT * 2).map((r) => filledIn(r).length);
  const widest = Math.max(0, ...counts);
  const first = counts.findIndex((n) => n > 0);
  for (let at = 0; at < Math.min(LOOKED_AT, counts.length); at++) {
    if (counts[at]! < Math.max(widest > 1 ? 2 : 1, widest * 0.6)) continue;
    if (filledIn(rows[at]!).some(isNumber)) continue;
    return at;
  }
  return first;
}

/**
 * The rows of a sheet as a tree: a `row` for each that has something in it below the headings, its cells named by them;
 * a name that is there twice gets a number, a cell without one is named by its column. Columns with nothing in them
 * are left out. What a cell shows is its value, the number behind it its attribute `raw`. `heading` says in which row the
 * headings stand, counted from 1, 0 for none; found where it is not said.
 */
export function sheetRows(rows: readonly SheetRow[], heading?: number): TreeNode[] {
  const at = heading === undefined ? headingRow(rows) : heading - 1;
  const below = rows.slice(at + 1).filter((r) => r.some(isFilled));
  const titles = rows[at] ?? [];
  const columns: { at: number; name: string }[] = [];
  const taken = new Set<string>();
  const filled = new Set<number>();
  for (const row of below) row.forEach((cell, i) => isFilled(cell) && filled.add(i));
  const width = Math.max(titles.length, ...filled, -1) + 1;
  for (let i = 0; i < width; i++) {
    const over = titles[i];
    const title = isFilled(over) ? String(over.shows).trim() : '';
    if (title === '' && !filled.has(i)) continue;
    const wanted = title || `column ${i + 1}`;
    const name = unlike(wanted, (free) => taken.has(free));
    taken.add(name);
    columns.push({ at: i, name });
  }
  return below.map((row) =>
    node(
      'row',
      null,
      columns.map(({ at: i, name }) => {
        const cell = row[i];
        const made = node(name, cell?.shows ?? null);
        return cell?.raw === undefined ? made : { ...made, attributes: { raw: String(cell.raw) } };
      }),
    ),
  );
}

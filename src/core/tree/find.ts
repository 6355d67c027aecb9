import type { CellAt } from '../trace/traced.ts';
import type { DocMap } from './doc-map.ts';
import type { TreeNode } from './node.ts';
import { parsePlace, placeOf, spotsAt, valueAt, type TreePosition } from './place.ts';
import { keyOfRow, rowAt } from './read.ts';

/** Where a cell of a table stands in a document: its own place, and what is written there. */
export interface Found {
  place: string;
  raw: string;
}

/** Finds a cell of one of the map's tables in a document; null where the table, the row or the column is not in it. */
export function findCell(root: TreeNode, map: DocMap, { table, row, column }: CellAt): Found | null {
  const def = map.tables.find((t) => t.key === table);
  const wanted = def?.columns.find((c) => c.name === column);
  if (!def || !wanted) return null;
  const top: TreePosition = { node: root, parent: null };
  const columns = def.columns.map((c) => ({ ...c, at: parsePlace(c.place)! }));
  const spot = spotsAt(top, parsePlace(def.rows)!)
    .slice(0, def.limit)
    .find((s) => keyOfRow(rowAt(s, columns, map.numbers).row, def.keyed) === row);
  if (!spot) return null;
  const at = parsePlace(wanted.place)!;
  const raw = String(valueAt(spot, at) ?? '');
  if (at.absolute) return { place: wanted.place, raw };
  const way = wayTo(spot);
  const base = placeOf(root, way.slice(0, Math.max(0, way.length - at.up)));
  const rest = wanted.place.trim().replace(/^(\.\.(\/|$))+/, '');
  return { place: rest === '' || rest === '.' ? base : `${base}/${rest}`, raw };
}

/** The index of each node among its parent's children, from the root down. */
function wayTo(spot: TreePosition): number[] {
  const way: number[] = [];
  for (let at: TreePosition = spot; at.parent; at = at.parent)
    way.unshift(at.parent.node.children.indexOf(at.node));
  return way;
}

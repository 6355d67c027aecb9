import type { Scalar } from '../board/values.ts';
import { sheetRows } from './sheet.ts';

/**
 * One element of a document, whatever its format: an XML element, a member of a JSON object or array, a sheet, a
 * row, a cell.
 */
export interface TreeNode {
  name: string;
  /** Its own text or plain value; null where it has none, or holds only other elements. */
  value: Scalar;
  attributes: Readonly<Record<string, string>>;
  children: TreeNode[];
}

const NO_ATTRIBUTES: Readonly<Record<string, string>> = Object.freeze(
  Object.create(null) as Record<string, string>,
);

/** A new node; without attributes it shares one empty record, since documents have many such. */
export function node(name: string, value: Scalar = null, children: TreeNode[] = []): TreeNode {
  return { name, value, attributes: NO_ATTRIBUTES, children };
}

/** True for a list of lists of plain values: a table as JSON writes it. */
const isTable = (value: readonly unknown[]): value is Scalar[][] =>
  value.length > 1 &&
  value.every((row) => Array.isArray(row) && row.every((c) => c === null || typeof c !== 'object'));

/**
 * Parsed JSON as a tree: a member is a child by its name, a list is that child repeated, a list of lists of plain values
 * is rows with headings, any other list within a list is `item`. The whole is called `document`. Members nested more than
 * 60 deep read as blank. `count` is told how much is built before it is, and may throw.
 */
export function fromJson(
  value: unknown,
  count: (nodes: number) => void = () => {},
  name = 'document',
  depth = 0,
): TreeNode {
  count(1);
  if (value === null || typeof value !== 'object' || depth > 60)
    return node(name, typeof value === 'object' || value === undefined ? null : (value as Scalar));
  const made = node(name);
  if (Array.isArray(value) && isTable(value)) {
    count(value.reduce((sum, row) => sum + row.length, value.length));
    made.children = sheetRows(value.map((row) => row.map((shows) => ({ shows }))));
    return made;
  }
  const entries: [string, unknown][] = Array.isArray(value)
    ? value.map((v) => ['item', v])
    : Object.entries(value);
  for (const [key, member] of entries) {
    // A list of plain objects is its name repeated, as XML would write it.
    const repeated = Array.isArray(member) && !isTable(member) ? (member as unknown[]) : [member];
    for (const one of repeated) made.children.push(fromJson(one, count, key, depth + 1));
  }
  return made;
}

/** A tree cut down to be looked at: at most `most` children of one name under each node, `budget` nodes in all. */
export function pruned(root: TreeNode, most: number, budget = 4000): PrunedNode {
  let left = budget;
  const prune = (from: TreeNode): PrunedNode => {
    left--;
    const counts = new Map<string, number>();
    const children: PrunedNode[] = [];
    for (const child of from.children) {
      const nth = (counts.get(child.name) ?? 0) + 1;
      counts.set(child.name, nth);
      if (nth <= most && left > 0) children.push(prune(child));
    }
    const value = typeof from.value === 'string' ? from.value.slice(0, 200) : from.value;
    const repeated = Object.fromEntries([...counts].filter(([, n]) => n > 1));
    return { name: from.name, value, attributes: from.attributes, children, repeated };
  };
  return prune(root);
}

/** A node cut down to be looked at; `repeated` says how many children of one name there are in truth. */
export interface PrunedNode extends TreeNode {
  children: PrunedNode[];
  repeated: Record<string, number>;
}

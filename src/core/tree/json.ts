import type { Scalar } from '../board/values.ts';
import { node, type TreeNode } from './node.ts';
import { sheetRows } from './sheet.ts';

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

import type { Scalar } from '../board/values.ts';

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

/** As many of what repeats are looked at at first, and this many more each time that more are asked for. */
export const LOOKED_AT = 40;
export const MORE = 200;

/**
 * A tree cut down to be looked at: at most `most` children of one name under each node, and so many nodes in all that a
 * hundred of what repeats first are there whole, or 4,000.
 */
export function pruned(root: TreeNode, most = LOOKED_AT, budget = Math.max(4000, most * 100)): PrunedNode {
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

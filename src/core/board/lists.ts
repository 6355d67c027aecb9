/** An empty list that is never added to. */
export const NONE: readonly never[] = Object.freeze([]) as readonly never[];

/**
 * A list with one more at its end: the same list, except for the first. Most lists of what changed have one member, and a
 * list of one that is made as such takes a fraction of the memory of one that has grown to it.
 */
export function withMore<T>(list: readonly T[], one: T): readonly T[] {
  if (list.length === 0) return [one];
  (list as T[]).push(one);
  return list;
}

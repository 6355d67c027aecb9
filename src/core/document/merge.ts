import { isRecord, setOwn } from '../board/own.ts';

/** True where two documents say the same. */
export function same(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (Array.isArray(a) || Array.isArray(b))
    return Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((x, i) => same(x, b[i]));
  if (!isRecord(a) || !isRecord(b)) return false;
  const names = [...new Set([...Object.keys(a), ...Object.keys(b)])];
  return names.every((name) => same(at(a, name), at(b, name)));
}

const at = (of: Readonly<Record<string, unknown>>, name: string): unknown =>
  Object.hasOwn(of, name) ? of[name] : undefined;

type Plain = Readonly<Record<string, unknown>>;
/** What tells an element of a list from the others of it. */
export type Mark = (of: Plain) => unknown;

const byName =
  (name: string): Mark =>
  (of) =>
    at(of, name);
/** What may tell the elements of a list apart, the best first. A reading that was never renamed has its name as its id. */
const ID: Mark = (of) => at(of, 'id') ?? at(of, 'name');
const MARKS = ['key', 'field', 'place', 'number', 'name'].map(byName);

/** What the elements of all these lists are told apart by; null where there is nothing. */
export function markOf(lists: readonly (readonly unknown[])[]): Mark | null {
  const tells = (mark: Mark) =>
    lists.every((list) => {
      const marks = list.map((x) => (isRecord(x) ? mark(x) : undefined));
      return marks.every((m) => typeof m === 'string' && m !== '') && new Set(marks).size === marks.length;
    });
  const known = lists.some((list) => list.some((x) => isRecord(x) && at(x, 'id') !== undefined));
  return lists.some((list) => list.length) ? ([...(known ? [ID] : []), ...MARKS].find(tells) ?? null) : null;
}

/** A list's elements by what tells them apart. */
const marked = (list: unknown, mark: Mark) => new Map((list as Plain[]).map((x) => [mark(x) as string, x]));

/** What both changed differently: where, what it was, and what each made of it. */
export interface Collision {
  /** Names one after another, such as `home players 7 last`; blank for the whole. */
  place: string;
  base: unknown;
  mine: unknown;
  theirs: unknown;
}

/**
 * Two versions of a document that both began from `base`, as one: what only one of them changed is as that one has it. Lists
 * whose elements are told apart by an id, a key or a name are merged element by element; others, and plain values, are
 * one thing. Where both changed the same thing differently it is as `mine` has it, and is among the clashes.
 */
export function merged(
  base: unknown,
  mine: unknown,
  theirs: unknown,
): { doc: unknown; clashes: Collision[] } {
  const clashes: Collision[] = [];
  const doc = merge(base, mine, theirs, '', clashes);
  return { doc, clashes };
}

function merge(base: unknown, mine: unknown, theirs: unknown, place: string, clashes: Collision[]): unknown {
  if (same(mine, theirs) || same(base, theirs)) return mine;
  if (same(base, mine)) return theirs;
  if (isRecord(base) && isRecord(mine) && isRecord(theirs))
    return mergeRecords(base, mine, theirs, place, clashes);
  if (Array.isArray(base) && Array.isArray(mine) && Array.isArray(theirs)) {
    const mark = markOf([base, mine, theirs]);
    if (mark !== null) return mergeLists([base, mine, theirs], mark, place, clashes);
  }
  clashes.push({ place, base, mine, theirs });
  return mine;
}

function mergeRecords(base: Plain, mine: Plain, theirs: Plain, place: string, clashes: Collision[]): object {
  const made = {};
  for (const name of new Set([...Object.keys(mine), ...Object.keys(theirs)])) {
    const value = merge(at(base, name), at(mine, name), at(theirs, name), within(place, name), clashes);
    if (value !== undefined) setOwn(made, name, value);
  }
  return made;
}

function mergeLists(lists: readonly unknown[][], mark: Mark, place: string, clashes: Collision[]): unknown[] {
  const [base, mine, theirs] = lists.map((list) => marked(list, mark)) as [
    Map<string, Plain>,
    Map<string, Plain>,
    Map<string, Plain>,
  ];
  const order = (map: Map<string, Plain>, other: Map<string, Plain>) =>
    [...map.keys()].filter((key) => other.has(key));
  // Whoever moved something says in which order they stand; what the other one added follows what it stood behind there.
  const moved = !same(order(base, mine), order(mine, base));
  const [first, second] = moved ? [mine, theirs] : [theirs, mine];
  const keys = [...first.keys()];
  let after = -1;
  for (const key of second.keys()) {
    const there = keys.indexOf(key);
    if (there >= 0) after = there;
    else keys.splice(++after, 0, key);
  }
  return keys.flatMap((key) => {
    const called = calledIn(base.get(key) ?? mine.get(key) ?? theirs.get(key), key);
    const value = merge(base.get(key), mine.get(key), theirs.get(key), within(place, called), clashes);
    return value === undefined ? [] : [value];
  });
}

/** What people know an element by: where an id tells it apart, by a number or a name that it has. */
const calledIn = (of: Plain | undefined, mark: string): string => {
  if (of === undefined || at(of, 'id') === undefined) return mark;
  const called = [at(of, 'number'), at(of, 'name'), at(of, 'last')].find((v) => typeof v === 'string' && v);
  return typeof called === 'string' ? called : mark;
};

const within = (place: string, name: string) => (place === '' ? name : `${place} ${name}`);

/** What may name an element for people, the best first. */
const NAMES = ['name', 'last', 'reading', 'field', 'key', 'number', 'id'];

/** A value of a document in words, short. */
export function inWords(value: unknown): string {
  if (value === undefined) return 'removed';
  if (value === null || value === '') return 'blank';
  if (Array.isArray(value)) return value.length === 1 ? 'one entry' : `${value.length} entries`;
  if (!isRecord(value)) return String(value).slice(0, 60);
  const name = NAMES.map((mark) => at(value, mark)).find((v) => typeof v === 'string' && v);
  return typeof name === 'string' ? name.slice(0, 60) : 'something else';
}

/** As many differences are named one by one. */
const MOST = 200;

/** What is different in `after`, each a sentence such as `home name: Owls, was Herons`. */
export function differences(before: unknown, after: unknown): string[] {
  const said: string[] = [];
  const tell = (was: unknown, is: unknown, place: string): void => {
    if (said.length >= MOST || same(was, is)) return;
    if (isRecord(was) && isRecord(is)) {
      for (const name of new Set([...Object.keys(was), ...Object.keys(is)]))
        tell(at(was, name), at(is, name), within(place, name));
      return;
    }
    const mark = Array.isArray(was) && Array.isArray(is) ? markOf([was, is]) : null;
    if (mark !== null) {
      const maps = [was, is].map((l) => marked(l, mark));
      for (const key of new Set([...maps[0]!.keys(), ...maps[1]!.keys()])) {
        const [before, after] = maps.map((m) => m.get(key));
        tell(before, after, within(place, calledIn(before ?? after, key)));
      }
      if (
        same([...maps[0]!.keys()].sort(), [...maps[1]!.keys()].sort()) &&
        !same([...maps[0]!.keys()], [...maps[1]!.keys()])
      )
        said.push(`${place}: in another order`);
      return;
    }
    if (was === undefined) said.push(`${place}: added, ${inWords(is)}`);
    else if (is === undefined) said.push(`${place}: removed, was ${inWords(was)}`);
    else said.push(`${place || 'document'}: ${inWords(is)}, was ${inWords(was)}`);
  };
  tell(before, after, '');
  return said;
}

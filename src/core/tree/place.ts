import type { Scalar } from '../board/values.ts';
import type { TreeNode } from './node.ts';

/** One step down: children of a name, all of them, the n-th (from 1), or those of which a part says `is`. */
interface Step {
  name: string;
  index?: number;
  part?: string[];
  is?: string;
}

/**
 * Where something stands in a document, written in a small part of XPath 1.0 (W3C, 1999):
 * `/stats/team[@side='home']/player[2]/@name`, relative as `batting/@avg` or `../@side`, `.` for the node itself.
 * A name with a sign of the notation in it is written in single quotes.
 */
export interface Place {
  absolute: boolean;
  up: number;
  steps: Step[];
  attribute: string | null;
}

/** A node with the way back up. */
export interface TreePosition {
  node: TreeNode;
  parent: TreePosition | null;
}

const NAME = /^(?:'([^']+)'|([^/@[\]='"]+))/;

/** Reads a place; gives null for what is not one. */
export function parsePlace(text: string): Place | null {
  let rest = text.trim();
  const place: Place = { absolute: false, up: 0, steps: [], attribute: null };
  if (rest === '.') return place;
  if (rest.startsWith('/')) {
    place.absolute = true;
    rest = rest.slice(1);
  }
  for (;;) {
    if (rest === '..') {
      place.up++;
      rest = '';
    } else if (rest.startsWith('../')) {
      place.up++;
      rest = rest.slice(3);
      continue;
    }
    break;
  }
  if (place.absolute && place.up) return null;
  while (rest) {
    const attribute = rest.startsWith('@') ? NAME.exec(rest.slice(1)) : null;
    if (attribute) {
      if (attribute[0].length + 1 !== rest.length) return null;
      place.attribute = (attribute[1] ?? attribute[2])!;
      return place;
    }
    const name = NAME.exec(rest);
    if (!name) return null;
    rest = rest.slice(name[0].length);
    const step: Step = { name: (name[1] ?? name[2])!.trim() };
    const index = /^\[(\d+)\]/.exec(rest);
    const test = /^\[((?:[^'"\]]|'[^']*')+?)=(?:'([^']*)'|"([^"]*)")\]/.exec(rest);
    if (index) step.index = Number(index[1]);
    else if (test) {
      step.part = test[1]!.trim().split('/').map(unquoted);
      step.is = test[2] ?? test[3] ?? '';
    }
    rest = rest.slice((index ?? test)?.[0].length ?? 0);
    place.steps.push(step);
    if (rest === '') break;
    if (!rest.startsWith('/') || rest === '/') return null;
    rest = rest.slice(1);
  }
  return place.steps.length || place.up ? place : null;
}

const unquoted = (name: string) => name.replace(/^(@?)'([^']+)'$/, '$1$2');
const SPECIAL = /[/@[\]='"]|^\.|^\s|\s$/;
/** A name as it stands in a place. */
export const quoted = (name: string) => (SPECIAL.test(name) ? `'${name.replaceAll("'", '')}'` : name);

/** The nodes at a place, seen from a node (or, absolute, from the top of its document). */
export function spotsAt(from: TreePosition, place: Place): TreePosition[] {
  let at: TreePosition = from;
  let steps = place.steps;
  if (place.absolute) {
    while (at.parent) at = at.parent;
    const [root, ...others] = steps;
    if (root && !holds(at.node, root)) return [];
    steps = others;
  }
  for (let n = place.up; n > 0; n--) {
    if (!at.parent) return [];
    at = at.parent;
  }
  let spots = [at];
  for (const step of steps) {
    spots = spots.flatMap((parent) => {
      const named = parent.node.children.filter((c) => holds(c, step));
      const chosen = step.index === undefined ? named : named.slice(step.index - 1, step.index);
      return chosen.map((child) => ({ node: child, parent }));
    });
  }
  return spots;
}

function holds(n: TreeNode, step: Step): boolean {
  if (n.name !== step.name) return false;
  return step.part === undefined || String(partOf(n, step.part) ?? '') === step.is;
}

/** What `@side` or `team/name` says of a node, the first of several. */
function partOf(n: TreeNode, part: readonly string[]): Scalar {
  let at: TreeNode | undefined = n;
  for (const name of part) {
    if (name.startsWith('@')) return at?.attributes[name.slice(1)] ?? null;
    if (name !== '.') at = at?.children.find((c) => c.name === name);
  }
  return at?.value ?? null;
}

/** The plain value at a place: the first that is there; undefined where nothing is. */
export function valueAt(from: TreePosition, place: Place): Scalar | undefined {
  for (const { node: found } of spotsAt(from, place)) {
    if (place.attribute === null) return found.value;
    const value = found.attributes[place.attribute];
    if (value !== undefined) return value;
  }
  return undefined;
}

/** Names that mark a record out, the likeliest first: a side holds for every game, an id or a code for one. */
const MARKS = ['side', 'vh', 'id', 'key', 'code', 'uni', 'number', 'no', 'abbr', 'name', 'type'];
const rank = (name: string) => {
  const at = MARKS.indexOf(name.toLowerCase().replace(/^@/, ''));
  return at < 0 ? MARKS.length : at;
};

/**
 * The place of the node that `way` leads to (the index of a child at each level below the root). Where children
 * share a name, the one is addressed by what only it says, an attribute or a plain child, so that the place holds
 * when their order changes; by number where nothing tells them apart. It is never addressed by what is read of it: a
 * score that is found by saying 3 is lost when it says 4.
 */
export function placeOf(root: TreeNode, way: readonly number[]): string {
  let at = root;
  let text = `/${quoted(root.name)}`;
  way.forEach((index, level) => {
    const next = at.children[index];
    if (!next) return;
    const alike = at.children.filter((c) => c.name === next.name);
    const read = next.children[way[level + 1] ?? -1]?.name;
    if (alike.length > 1)
      text += `/${quoted(next.name)}[${markOf(next, alike, read) ?? alike.indexOf(next) + 1}]`;
    else text += `/${quoted(next.name)}`;
    at = next;
  });
  return text;
}

/** True for what counts or measures: it changes, and so marks nothing out. */
const isMeasure = (text: string) => /^(?=.*\d)[-+]?[\d.,:/%\s]+$/.test(text);

function markOf(one: TreeNode, alike: readonly TreeNode[], read: string | undefined): string | null {
  const plain = one.children.filter((c) => c.children.length === 0 && c.value !== null && c.name !== read);
  const parts = [
    ...Object.keys(one.attributes).map((a) => `@${quoted(a)}`),
    ...plain.map((c) => quoted(c.name)),
  ];
  parts.sort((a, b) => rank(a) - rank(b));
  for (const part of parts) {
    const path = part.split('/').map(unquoted);
    const own = String(partOf(one, path) ?? '');
    if (own === '' || own.includes("'") || own.length > 60) continue;
    if (isMeasure(own) && rank(part) === MARKS.length) continue;
    if (alike.every((n) => n === one || String(partOf(n, path) ?? '') !== own)) return `${part}='${own}'`;
  }
  return null;
}

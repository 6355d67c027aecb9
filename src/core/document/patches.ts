import { isRecord, setOwn } from '../board/own.ts';
import { markOf, same, type Mark } from './merge.ts';

/**
 * One change of a document, as RFC 6902 (JSON Patch) writes it; its place is a pointer of RFC 6901. Of the standard's six
 * operations three say all that is changed here.
 */
export type Patch = { op: 'add' | 'replace'; path: string; value: unknown } | { op: 'remove'; path: string };

/** As many patches are taken at once; who changes more sends the whole. */
export const MOST_PATCHES = 2000;
/** No place of a document has a longer pointer. */
const LONGEST_PATH = 2000;
/** So many elements of a list may come, go and move one by one; where more do, the list is said whole. */
const MOST_MOVES = 100;
/** Names that no pointer reaches: `-` is the end of a list, and the others are what JavaScript's own objects answer to. */
const UNSAYABLE = new Set(['-', '__proto__', 'constructor']);

/** A step of a pointer, as RFC 6901 escapes it; and the steps of one. */
const said = (name: string | number) => `/${String(name).replaceAll('~', '~0').replaceAll('/', '~1')}`;
const stepsOf = (path: string) =>
  path
    .split('/')
    .slice(1)
    .map((name) => name.replaceAll('~1', '/').replaceAll('~0', '~'));

/** True for what is a patch by its form; whether it fits a document is known when it is applied. */
export const isPatch = (v: unknown): v is Patch =>
  isRecord(v) &&
  typeof v['path'] === 'string' &&
  v['path'].length <= LONGEST_PATH &&
  (v['path'] === '' || v['path'].startsWith('/')) &&
  (v['op'] === 'remove' ? !('value' in v) : (v['op'] === 'add' || v['op'] === 'replace') && 'value' in v) &&
  Object.keys(v).every((name) => name === 'op' || name === 'path' || name === 'value');

/**
 * What makes `before` into `after`, in the order in which it is applied; nothing where they say the same. Elements of lists
 * that are told apart by an id, a key or a name are put, moved and taken away one by one; any other list that is longer or
 * shorter is replaced. What both share is not looked into.
 */
export function patchesBetween(before: unknown, after: unknown): Patch[] {
  const patches: Patch[] = [];
  tell(before, after, '', patches);
  return patches;
}

function tell(before: unknown, after: unknown, path: string, patches: Patch[]): void {
  if (before === after) return;
  if (isRecord(before) && isRecord(after) && sayable(before) && sayable(after))
    return tellRecord(before, after, path, patches);
  if (Array.isArray(before) && Array.isArray(after)) {
    const mark = markOf([before, after]);
    if (mark) return tellList(before, after, mark, path, patches);
    if (before.length === after.length)
      return after.forEach((value, i) => tell(before[i], value, path + said(i), patches));
  }
  if (!same(before, after)) patches.push({ op: 'replace', path, value: after });
}

const sayable = (record: object) => Object.keys(record).every((name) => !UNSAYABLE.has(name));

function tellRecord(
  before: Readonly<Record<string, unknown>>,
  after: Readonly<Record<string, unknown>>,
  path: string,
  patches: Patch[],
): void {
  // What is undefined is not there: neither is it in JSON.
  const there = (record: Readonly<Record<string, unknown>>, name: string) =>
    Object.hasOwn(record, name) && record[name] !== undefined;
  for (const name of new Set([...Object.keys(before), ...Object.keys(after)])) {
    const at = path + said(name);
    const [was, is] = [there(before, name), there(after, name)];
    if (was && is) tell(before[name], after[name], at, patches);
    else if (is) patches.push({ op: 'add', path: at, value: after[name] });
    else if (was) patches.push({ op: 'remove', path: at });
  }
}

function tellList(
  before: readonly unknown[],
  after: readonly unknown[],
  mark: Mark,
  path: string,
  patches: Patch[],
): void {
  const markAt = (x: unknown) => mark(x as Readonly<Record<string, unknown>>) as string;
  const wanted = after.map(markAt);
  const stays = new Set(wanted);
  const list = before.map((value) => ({ mark: markAt(value), value }));
  const made: Patch[] = [];
  let moves = 0;
  const remove = (i: number) => {
    moves++;
    made.push({ op: 'remove', path: path + said(i) });
    list.splice(i, 1);
  };
  for (const [i, key] of wanted.entries()) {
    // What goes, and what was moved to the back and is put there when it is its turn.
    while (list[i] && list[i].mark !== key && (!stays.has(list[i].mark) || list[i + 1]?.mark === key))
      remove(i);
    if (list[i]?.mark === key) tell(list[i].value, after[i], path + said(i), made);
    else {
      const from = list.findIndex((x, at) => at > i && x.mark === key);
      if (from > 0) remove(from);
      moves++;
      made.push({ op: 'add', path: path + said(i), value: after[i] });
      list.splice(i, 0, { mark: key, value: after[i] });
    }
    if (moves > MOST_MOVES) break;
  }
  while (moves <= MOST_MOVES && list.length > wanted.length) remove(list.length - 1);
  if (moves > MOST_MOVES) patches.push({ op: 'replace', path, value: after });
  else for (const patch of made) patches.push(patch);
}

/** What is said of patches that belong to another document than the one they are applied to. */
export class Unfit extends Error {}

/**
 * A document with patches applied to it, one after the other; what they do not touch is shared with it, and it stays as it is.
 * Throws Unfit, with the place, where a patch changes or removes what is not there.
 */
export function patched<T>(doc: T, patches: readonly Patch[]): T {
  // No package for this is strict, shares what did not change, and copies each list once however many patches there are.
  const root = { doc: doc as unknown };
  const own = new Set<unknown>([root]);
  /** The member of what is being made, as a copy that may be changed. */
  const opened = (within: Container, step: string): Container | null => {
    const value = within[step];
    if (own.has(value)) return value as Container;
    const copy = Array.isArray(value) ? [...value] : isRecord(value) ? { ...value } : null;
    if (!copy) return null;
    own.add(copy);
    return (within[step] = copy as unknown as Container);
  };
  for (const patch of patches) {
    const steps = ['doc', ...stepsOf(patch.path)];
    const last = steps.pop()!;
    let within: Container | null = root;
    for (const step of steps) within = within && has(within, step) ? opened(within, step) : null;
    if (!within || !takes(within, last, patch)) throw new Unfit(`there is no "${patch.path}" in it`);
    if (!Array.isArray(within)) {
      if (patch.op === 'remove') delete within[last];
      else setOwn(within, last, patch.value);
    } else if (patch.op === 'replace') within[Number(last)] = patch.value;
    else
      within.splice(
        Number(last),
        patch.op === 'remove' ? 1 : 0,
        ...(patch.op === 'add' ? [patch.value] : []),
      );
  }
  return root.doc as T;
}

type Container = Record<string, unknown>;

const has = (within: Container, step: string) =>
  !UNSAYABLE.has(step) && Object.hasOwn(within, step) && (!Array.isArray(within) || /^\d+$/.test(step));

function takes(within: Container, step: string, { op, path }: Patch): boolean {
  if (path === '') return op !== 'remove';
  if (op !== 'add') return has(within, step);
  return Array.isArray(within) ? /^\d+$/.test(step) && Number(step) <= within.length : !UNSAYABLE.has(step);
}

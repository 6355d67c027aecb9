import { compileJSONPointerProp, getIn, immutableJSONPatch, parseJSONPointer } from 'immutable-json-patch';
import { isRecord } from '../board/own.ts';
import { markOf, same, type Mark } from './merge.ts';

/**
 * One change of a document, as RFC 6902 (JSON Patch) writes it; its place is a pointer of RFC 6901. Of the standard's six
 * operations three say all that is changed here.
 */
export type Patch = { op: 'add' | 'replace'; path: string; value: unknown } | { op: 'remove'; path: string };

/** As many patches are taken at once; who changes more sends the whole. */
export const MOST_PATCHES = 5000;
/** No place of a document has a longer pointer. */
const LONGEST_PATH = 2000;
/** Names that no pointer reaches: `-` is the end of a list, and the others are what JavaScript's own objects answer to. */
const UNSAYABLE = new Set(['-', '__proto__', 'constructor']);

const said = (name: string | number) => compileJSONPointerProp(String(name));

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
  const remove = (i: number) => {
    patches.push({ op: 'remove', path: path + said(i) });
    return list.splice(i, 1)[0]!;
  };
  wanted.forEach((key, i) => {
    // What goes, and what was moved to the back and is put there when it is its turn.
    while (list[i] && list[i].mark !== key && (!stays.has(list[i].mark) || list[i + 1]?.mark === key))
      remove(i);
    if (list[i]?.mark === key) return tell(list[i].value, after[i], path + said(i), patches);
    const from = list.findIndex((x, at) => at > i && x.mark === key);
    if (from > 0) remove(from);
    patches.push({ op: 'add', path: path + said(i), value: after[i] });
    list.splice(i, 0, { mark: key, value: after[i] });
  });
  while (list.length > wanted.length) remove(list.length - 1);
}

/** What is said of patches that belong to another document than the one they are applied to. */
export class Unfit extends Error {}

/**
 * A document with patches applied to it, one after the other; what they do not touch is shared with it, and it stays as it is.
 * `doc` must be plain JSON. Throws Unfit, with the place, where a patch changes or removes what is not there.
 */
export function patched<T>(doc: T, patches: readonly Patch[]): T {
  const before = (now: unknown, operation: object) => {
    const { op, path } = operation as Patch;
    if (!fits(now, op, parseJSONPointer(path))) throw new Unfit(`there is no "${path}" in it`);
    return {};
  };
  return immutableJSONPatch(doc, patches as never, { before }) as T;
}

/** The package passes over what is not there; here it is somebody's change that would be lost. */
function fits(doc: unknown, op: Patch['op'], path: string[]): boolean {
  if (path.length === 0) return op !== 'remove';
  if (path.some((name) => UNSAYABLE.has(name))) return false;
  const within = getIn(doc as never, path.slice(0, -1));
  const name = path.at(-1)!;
  if (!Array.isArray(within)) return isRecord(within) && (op === 'add' || Object.hasOwn(within, name));
  return /^\d+$/.test(name) && Number(name) < within.length + (op === 'add' ? 1 : 0);
}

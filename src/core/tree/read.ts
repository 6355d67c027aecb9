import { unlike } from '../text/words.ts';
import { readNumber, type NumberForm } from './number.ts';
import { yesOrNo } from '../board/yes.ts';
import { own, setOwn } from '../board/own.ts';
import type { Scalar } from '../board/values.ts';
import { parseClock } from '../clock/clock.ts';
import type { Reading } from '../decode/reading.ts';
import { isPlainNumber } from '../value/format.ts';
import type { DocMap, DocTable, DocType } from './doc-map.ts';
import type { TreeNode } from './node.ts';
import { parsePlace, quoted, spotsAt, valueAt, type Place, type TreePosition } from './place.ts';

export type Row = Readonly<Record<string, Scalar>>;

/** A table as one document tells it. */
export interface TableRead {
  key: string;
  columns: string[];
  /** Rows by their key, in the document's order. */
  rows: [string, Row][];
  /** What is wrong with it, each a sentence. */
  problems: string[];
  /** Where the key is not unique: columns that would tell all rows apart, if there are such. */
  better: string[] | null;
}

export interface DocumentRead {
  readings: Reading[];
  tables: TableRead[];
}

/** The type that all these plain values are of; blanks say nothing, and nothing at all is text. */
export function inferType(samples: readonly Scalar[]): DocType {
  const said = samples.filter((s) => s !== null && s !== '');
  const all = (test: (s: Scalar) => boolean) => said.length > 0 && said.every(test);
  if (all((s) => typeof s === 'number' || (typeof s === 'string' && isPlainNumber(s.trim()))))
    return 'number';
  if (all((s) => typeof s === 'boolean' || s === 'true' || s === 'false')) return 'flag';
  if (all((s) => typeof s === 'string' && /^\s*\d{0,3}:[0-5]\d(\.\d)?\s*$/.test(s))) return 'clock';
  return 'text';
}

/** One plain value read as a type: a reading, with a problem where it is not of that type. */
export function readPlain(
  name: string,
  value: Scalar | undefined,
  type: DocType,
  numbers?: NumberForm,
): Reading {
  if (value === undefined) return { name, raw: '', problem: `nothing stands at the place of "${name}"` };
  const raw = value === null ? '' : String(value);
  const text = raw.trim();
  const bad = (what: string): Reading => ({ name, raw, problem: `"${raw.slice(0, 60)}" is not ${what}` });
  if (text === '') return { name, raw, value: type === 'flag' ? false : null };
  switch (type) {
    case 'text':
      return { name, raw, value: text };
    case 'number': {
      if (typeof value === 'number') return { name, raw, value };
      const n = readNumber(text, numbers);
      return n === null ? bad('a number') : { name, raw, value: n };
    }
    case 'clock': {
      const clock = parseClock(text);
      return clock ? { name, raw, value: clock } : bad('a clock');
    }
    case 'flag':
      return yesOrNo(text) === null ? bad('yes or no') : { name, raw, value: yesOrNo(text) };
  }
}

/** Everything that a map finds in a document. Never throws: what is not there or not readable is a problem. */
export function readDocument(root: TreeNode, map: DocMap): DocumentRead {
  const top: TreePosition = { node: root, parent: null };
  return {
    readings: map.readings.map((r) =>
      readPlain(r.name, valueAt(top, parsePlace(r.place)!), r.as, map.numbers),
    ),
    tables: map.tables.map((t) => readTable(top, t, map.numbers)),
  };
}

function readTable(top: TreePosition, table: DocTable, numbers: NumberForm | undefined): TableRead {
  const columns = table.columns.map((c) => ({ ...c, at: parsePlace(c.place)! }));
  const spots = spotsAt(top, parsePlace(table.rows)!);
  const problems: string[] = [];
  const rows = new Map<string, Row>();
  let twice: string | null = null;
  let unkeyed = 0;
  const all: Row[] = [];
  for (const spot of spots.slice(0, table.limit)) {
    const { row, problems: found } = rowAt(spot, columns, numbers);
    problems.push(...found.slice(0, Math.max(0, 5 - problems.length)));
    all.push(row);
    const key = keyOfRow(row, table.keyed);
    if (key === '') unkeyed++;
    else if (rows.has(key)) twice ??= key;
    else rows.set(key, row);
  }
  if (twice !== null)
    problems.unshift(`two rows have the ${table.keyed.join(' and ')} "${twice}"; only the first is kept`);
  if (unkeyed > 0) problems.push(`${unkeyed} rows have no ${table.keyed.join(' and ')} and are left out`);
  if (spots.length > table.limit)
    problems.push(`${spots.length} rows came; the first ${table.limit} are kept`);
  const names = columns.map((c) => c.name);
  const better = twice === null ? null : proposeKey(all, names);
  return { key: table.key, columns: names, rows: [...rows], problems, better };
}

type PlacedColumn = DocTable['columns'][number] & { at: Place };

/** The cells of the row that one element makes, and what is wrong with them. */
export function rowAt(
  spot: TreePosition,
  columns: readonly PlacedColumn[],
  numbers?: NumberForm,
): { row: Record<string, Scalar>; problems: string[] } {
  const row: Record<string, Scalar> = {};
  const problems: string[] = [];
  for (const { name, at, as } of columns) {
    const { value = null, raw, problem } = readPlain(name, valueAt(spot, at) ?? null, as, numbers);
    if (problem) problems.push(`${name}: ${problem}`);
    // A clock in a row is a time as written: rows have no source that runs it.
    setOwn(row, name, typeof value === 'object' && value !== null ? raw.trim() : value);
  }
  return { row, problems };
}

/** A row's key: what its key columns say, joined; empty when one of them is blank. */
export function keyOfRow(row: Row, keyed: readonly string[]): string {
  const parts = keyed.map((k) => String(own(row, k) ?? '').trim());
  return parts.includes('') ? '' : parts.join(' ');
}

/** What the last word of a column's name says of how well it tells rows apart: 0 best; none for a mere statistic. */
const KEY_WORDS = new Map<string, number>([
  ...['side', 'vh', 'id', 'key', 'guid', 'uni', 'slot'].map((w) => [w, 0] as const),
  ...['number', 'no', 'num', 'jersey', '#', 'team', 'abbr'].map((w) => [w, 1] as const),
  ['code', 0.5],
  ...['name', 'title', 'link', 'last', 'first'].map((w) => [w, 2] as const),
]);
const keyRank = (column: string) =>
  KEY_WORDS.get(
    column
      .toLowerCase()
      .split(/[\s_]+/)
      .at(-1)!,
  ) ?? 9;

/**
 * The columns that tell all rows apart: one, such as an id or a number, else two together, such as a side and a
 * number. A statistic that happens to differ everywhere today is no key, so columns are judged by their names first.
 * None when nothing does.
 */
export function proposeKey(rows: readonly Row[], columns: readonly string[]): string[] | null {
  const unique = (keyed: string[]) => {
    const keys = rows.map((r) => keyOfRow(r, keyed));
    return !keys.includes('') && new Set(keys).size === rows.length;
  };
  const named = columns.filter((c) => keyRank(c) < 9).sort((a, b) => keyRank(a) - keyRank(b));
  const pairs = named
    .flatMap((a, i) => named.slice(i + 1).map((b) => [a, b]))
    .sort((p, q) => keyRank(p[0]!) + keyRank(p[1]!) - keyRank(q[0]!) - keyRank(q[1]!));
  const others = columns.filter((c) => keyRank(c) === 9).map((c) => [c]);
  return [...named.map((c) => [c]), ...pairs, ...others].find(unique) ?? null;
}

/**
 * A table made of the element that repeats at `rows`: a column for each attribute and each plain value below it, its
 * parents' attributes where they tell groups apart, types by what the rows hold, the key proposed.
 */
export function proposeTable(root: TreeNode, rows: string, key: string, name: string): DocTable | null {
  const at = parsePlace(rows);
  const spots = at ? spotsAt({ node: root, parent: null }, at).slice(0, 500) : [];
  if (spots.length === 0) return null;
  const places = new Map<string, string>();
  const add = (path: string, wanted: string) => {
    if ([...places.values()].includes(path) || places.size >= 60) return;
    const name = unlike(
      wanted.slice(0, 60),
      (free) => places.has(free),
      (n) => `${wanted} ${n}`,
    );
    places.set(name, path);
  };
  const parents = new Set(spots.map((s) => s.parent).filter((p) => p !== null));
  for (const { node: n } of spots.slice(0, 200)) {
    for (const a of Object.keys(n.attributes)) add(`@${quoted(a)}`, a);
    if (n.children.length === 0 && n.value !== null) add('.', n.name);
    const once = new Set<string>();
    for (const child of n.children) {
      if (once.has(child.name)) continue;
      once.add(child.name);
      const path = quoted(child.name);
      if (child.value !== null || (child.children.length === 0 && Object.keys(child.attributes).length === 0))
        add(path, child.name);
      for (const a of Object.keys(child.attributes)) add(`${path}/@${quoted(a)}`, `${child.name} ${a}`);
      for (const grand of child.children)
        if (grand.children.length === 0) add(`${path}/${quoted(grand.name)}`, `${child.name} ${grand.name}`);
    }
  }
  if (parents.size > 1)
    for (const a of Object.keys([...parents][0]!.node.attributes))
      add(`../@${quoted(a)}`, `${[...parents][0]!.node.name} ${a}`);
  const columns = [...places].map(([column, path]) => {
    const parsed = parsePlace(path)!;
    return {
      name: column,
      place: path,
      as: inferType(spots.map((s) => valueAt(s, parsed) ?? null)),
    };
  });
  if (columns.length === 0) return null;
  const whole: DocTable = { key, name, rows, columns, keyed: [columns[0]!.name], limit: 2000 };
  const read = spots.map((spot) =>
    Object.fromEntries(columns.map((c) => [c.name, valueAt(spot, parsePlace(c.place)!) ?? null])),
  );
  const keyed = proposeKey(
    read,
    columns.map((c) => c.name),
  );
  return keyed ? { ...whole, keyed } : whole;
}

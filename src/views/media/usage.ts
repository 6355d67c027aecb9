import { plainPath, type MediaEntry } from '../../core/media/media.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';

function textsIn(value: unknown, into: Set<string>): void {
  if (typeof value === 'string') into.add(value);
  else if (typeof value === 'object' && value !== null)
    for (const inner of Object.values(value)) textsIn(inner, into);
}

/** Stands before a path that is worked out from a key: such a one leads only to what stands there. */
const KEYED = 'key:';

/** Where the entries of the library are pointed to, by plain path: templates, items, the game, rows of keyed pictures. */
export function usageOf(
  desk: Pick<DeskSnapshot, 'documents' | 'items' | 'derived' | 'tables'>,
): Map<string, string[]> {
  const uses = new Map<string, string[]>();
  const look = (name: string, what: unknown, mark = '') => {
    const texts = new Set<string>();
    textsIn(what, texts);
    for (const path of new Set([...texts].map(plainPath))) {
      if (path === '') continue;
      const list = uses.get(mark + path);
      if (list) list.push(name);
      else uses.set(mark + path, [name]);
    }
  };
  for (const t of desk.documents.template) look(`template ${t.name}`, t);
  for (const i of desk.items) look(`item ${i.name}`, i.inputs);
  for (const g of desk.documents.game) look(`game ${g.home.short} v ${g.away.short}`, g);
  for (const { doc } of desk.derived) {
    if (doc.what !== 'pictures') {
      look(doc.name, doc);
      continue;
    }
    const rows = desk.tables.find((t) => t.key === doc.key)?.rows ?? [];
    look(doc.name, doc.fallback);
    look(
      doc.name,
      rows.map(([, row]) => row['path']),
      KEYED,
    );
  }
  return uses;
}

/** Who points to an entry, by the path where it stands or, unless by a key, one where it stood. */
export const usesOf = (
  uses: ReadonlyMap<string, string[]>,
  { path, formerly = [] }: MediaEntry,
): string[] => [
  ...new Set([
    ...[path, ...formerly].flatMap((at) => uses.get(plainPath(at)) ?? []),
    ...(uses.get(KEYED + plainPath(path)) ?? []),
  ]),
];

/** A size in bytes, in words. */
export function sizeText(bytes: number): string {
  return bytes < 1000
    ? `${bytes} B`
    : bytes < 1e6
      ? `${Math.round(bytes / 1000)} kB`
      : `${(bytes / 1e6).toFixed(1)} MB`;
}

/** What an entry is, in words: pixels, transparency, length, size. */
export function aboutText({ width, height, alpha, length, size, type }: MediaEntry): string {
  return [
    type
      .replace(/^(image|video)\//, '')
      .replace('svg+xml', 'svg')
      .toUpperCase(),
    width && height ? `${width} × ${height}` : '',
    alpha === null ? '' : alpha ? 'transparent' : 'opaque',
    length === null ? '' : `${(length / 1000).toFixed(1)} s`,
    sizeText(size),
  ]
    .filter(Boolean)
    .join(' · ');
}

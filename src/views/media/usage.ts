import { plainPath, type MediaEntry } from '../../core/media/media.ts';
import type { DeskSnapshot } from '../../core/wire/wire.ts';

function textsIn(value: unknown, into: Set<string>): void {
  if (typeof value === 'string') into.add(value);
  else if (typeof value === 'object' && value !== null)
    for (const inner of Object.values(value)) textsIn(inner, into);
}

/** What is said by properties that are called a font: which layer kinds have them need not be known for that. */
function fontsNamed(value: unknown, into: Set<string>): void {
  if (typeof value !== 'object' || value === null) return;
  for (const [name, inner] of Object.entries(value))
    if (/^font\d?$/.test(name) && typeof inner === 'string') into.add(inner);
    else fontsNamed(inner, into);
}

/** Stands before a path that is worked out from a key: such a one leads only to what stands there. */
const KEYED = 'key:';
/** Stands before the name of a font. */
const FONT = 'font:';

/** Where the entries of the library are pointed to, by plain path: templates, items, the game, rows of keyed pictures. */
export function usageOf(desk: Pick<DeskSnapshot, 'documents' | 'derived' | 'tables'>): Map<string, string[]> {
  const uses = new Map<string, string[]>();
  const note = (at: string, name: string) => {
    const list = uses.get(at);
    if (list) list.push(name);
    else uses.set(at, [name]);
  };
  const look = (name: string, what: unknown, mark = '') => {
    const texts = new Set<string>();
    textsIn(what, texts);
    for (const path of new Set([...texts].map(plainPath))) if (path !== '') note(mark + path, name);
  };
  for (const t of desk.documents.template) {
    look(`template ${t.name}`, t);
    const fonts = new Set<string>();
    fontsNamed(t.layouts, fonts);
    for (const font of fonts) note(FONT + font, `template ${t.name}`);
  }
  for (const i of desk.documents.item) look(`item ${i.name}`, i.inputs);
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
  { path, formerly = [], face }: MediaEntry,
): string[] => [
  ...new Set([
    ...[path, ...formerly].flatMap((at) => uses.get(plainPath(at)) ?? []),
    ...(uses.get(KEYED + plainPath(path)) ?? []),
    ...((face && uses.get(FONT + face.family)) ?? []),
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

/** The weights of a font, in words. */
const weightsText = ([from, to]: readonly [number, number]) =>
  from === to ? `weight ${from}` : `weights ${from} to ${to}`;

/** What an entry is, in words: pixels, transparency, length, size. */
export function aboutText({ width, height, alpha, length, size, type, face }: MediaEntry): string {
  return [
    type
      .replace(/^(image|video|font)\//, '')
      .replace('svg+xml', 'svg')
      .toUpperCase(),
    face ? `${face.family}, ${weightsText(face.weights)}` : '',
    width && height ? `${width} × ${height}` : '',
    alpha === null ? '' : alpha ? 'transparent' : 'opaque',
    length === null ? '' : `${(length / 1000).toFixed(1)} s`,
    sizeText(size),
  ]
    .filter(Boolean)
    .join(' · ');
}

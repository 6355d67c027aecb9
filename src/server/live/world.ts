import { DOCUMENT_KINDS, readKept, type DocumentKind, type Documents } from '../../core/documents/kinds.ts';
import { isRecord } from '../../core/board/own.ts';
import { freshKey } from '../../core/text/keys.ts';
import { nameOfPlace, type DocumentMaps, type World } from '../../core/actions/world.ts';
import { outputsInOrder } from '../../core/show/order.ts';
import { frozen } from './frozen.ts';
import type { Store } from '../store/store.ts';

/** Puts the outputs in the order that people gave them: whoever goes through them goes by it. */
export function orderOutputs({ output }: Pick<DocumentMaps, 'output'>): void {
  const order = outputsInOrder([...output.values()]);
  output.clear();
  for (const one of order) output.set(one.key, one);
}

/** What every Foothill starts with, of a kind without which there is none. */
export type Shipped = <K extends 'profile' | 'output'>(kind: K) => Promise<readonly Documents[K][]>;

/**
 * Reads the world out of the database. Where no output, or no sport, can be read, one that ships stands in for it, so that there is
 * something to start with and the others can be mended. Throws with a sentence where there is none either.
 */
export async function loadWorld(
  store: Pick<Store, 'kept' | 'documents' | 'revisions'>,
  shipped: Shipped = () => Promise.resolve([]),
): Promise<World> {
  const unread: World['unread'] = new Map();
  const all = async <K extends DocumentKind>(kind: K): Promise<Map<string, Documents[K]>> => {
    const docs = new Map<string, Documents[K]>();
    for (const { key, text } of await store.kept(kind)) {
      const read = readKept(kind, key, text);
      if (read.ok) docs.set(key, frozen(read.doc));
      else unread.set(nameOfPlace(kind, key), { ...read.unread, text });
    }
    return docs;
  };
  const documents: Partial<Record<DocumentKind, unknown>> = {};
  for (const kind of Object.keys(DOCUMENT_KINDS) as DocumentKind[]) documents[kind] = await all(kind);
  const world = documents as DocumentMaps;
  const problems = [...unread.values()].map(
    (u) =>
      `The ${DOCUMENT_KINDS[u.kind].word} "${u.name}" in the database cannot be read and is left out: ${u.problems.join('; ')}`,
  );
  const standIn = async <K extends 'profile' | 'output'>(kind: K, like: (doc: Documents[K]) => boolean) => {
    if (world[kind].size) return;
    const all = await shipped(kind);
    const doc = all.find(like) ?? all[0];
    if (!doc) return;
    const { word } = DOCUMENT_KINDS[kind];
    const key = freshKey('stand-in', (k) => unread.has(nameOfPlace(kind, k)), kind);
    const map = world[kind] as Map<string, Documents[K]>;
    map.set(key, frozen({ ...doc, key, name: `${doc.name}, stand-in` }));
    problems.push(`No ${word} can be read, so the ${word} "${doc.name}" that ships stands in.`);
  };
  await standIn('output', () => false);
  await standIn('profile', ({ key }) => unread.has(nameOfPlace('profile', key)));
  orderOutputs(world);
  const settings = (await store.documents('setting')).filter(isRecord);
  const wanted = settings.map((s) => s['game']).find((key) => typeof key === 'string');
  const game = world.game.get(wanted ?? '') ?? [...world.game.values()][0] ?? null;
  const profile = world.profile.get(game?.profile ?? '') ?? [...world.profile.values()][0];
  if (!profile || world.output.size === 0)
    throw new Error(`The database holds no usable sport profile or output. ${problems.join(' ')}`.trim());
  for (const source of world.source.values())
    if (source.frameMap !== null && !world['frame-map'].has(source.frameMap))
      problems.push(`The source "${source.name}" has lost its frame map "${source.frameMap}".`);
  const revisions = await store.revisions();
  for (const kind of Object.keys(DOCUMENT_KINDS) as DocumentKind[])
    for (const key of world[kind].keys()) {
      const place = nameOfPlace(kind, key);
      revisions.set(place, revisions.get(place) ?? 1);
    }
  return {
    documents: world,
    profile,
    game,
    takenTables: () => [],
    revisions,
    unread,
    problems,
  };
}

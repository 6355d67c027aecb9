import type { FrameMap } from '../../core/decode/frame-map.ts';
import type { Derived } from '../../core/derive/derived.ts';
import {
  DOCUMENT_KINDS,
  readKept,
  type DocumentKind,
  type Documents,
  type Unread,
} from '../../core/documents/kinds.ts';
import type { Template } from '../../core/documents/template.ts';
import type { Game } from '../../core/show/game.ts';
import type { Output } from '../../core/show/show.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { SportProfile } from '../../core/sport/profile.ts';
import type { Store } from '../store/store.ts';

/** What sources are made of, each document for itself, by its key. */
export type SourceParts = {
  [K in 'source' | 'frame-map' | 'doc-map' | 'patch']: Map<string, Documents[K]>;
};

/** All documents that a running Foothill works with. */
export interface World {
  /** The profile of the game that is played. */
  profile: SportProfile;
  game: Game | null;
  games: Map<string, Game>;
  profiles: Map<string, SportProfile>;
  /** The keys of what is derived beside the profile's own. */
  derived: Set<string>;
  derivedDocs: Derived[];
  /** Frame maps that are there to be used: all but those that one source made for itself. */
  maps: FrameMap[];
  /** The keys of the tables that sources and the game make. */
  takenTables: () => string[];
  output: Output;
  templates: Map<string, Template>;
  /** Each source with the map of its bytes and its patch. */
  bundles: SourceBundle[];
  /** What could not be read, by `kind/key`, with the text that it is: it stays as it is, and nothing else stops. */
  unread: Map<string, Unread & { text: string }>;
  /** What sources were made of when they were read. */
  parts: SourceParts;
  /** What is not as it should be, each a sentence. */
  problems: string[];
}

export const unreadKey = (kind: string, key: string) => `${kind}/${key}`;

/** A source with what belongs to it, of its parts; its map or its patch is left out where it is not there. */
export function assembled(parts: SourceParts, source: Documents['source']): SourceBundle {
  const map = parts['frame-map'].get(source.frameMap ?? '') ?? null;
  const document = map ? null : (parts['doc-map'].get(source.key) ?? null);
  const patch = parts.patch.get(source.key) ?? null;
  return {
    schema: 1,
    source: map ? source : { ...source, frameMap: null },
    map,
    document,
    patch: map || document ? patch : null,
  };
}

/** Reads the world out of the database. Throws with a sentence when there is no output or profile to work with. */
export async function loadWorld(store: Store): Promise<World> {
  const unread: World['unread'] = new Map();
  const all = async <K extends DocumentKind>(kind: K): Promise<Map<string, Documents[K]>> => {
    const docs = new Map<string, Documents[K]>();
    for (const { key, text } of await store.kept(kind)) {
      const read = readKept(kind, key, text);
      if (read.ok) docs.set(key, read.doc);
      else unread.set(unreadKey(kind, key), { ...read.unread, text });
    }
    return docs;
  };
  const games = await all('game');
  const profiles = await all('profile');
  const outputs = await all('output');
  const settings = (await store.documents('setting')) as { game?: string }[];
  const wanted = settings.find((s) => typeof s.game === 'string')?.game;
  const game = games.get(wanted ?? '') ?? [...games.values()][0] ?? null;
  const profile = profiles.get(game?.profile ?? '') ?? [...profiles.values()][0];
  const [output] = outputs.values();
  const parts: SourceParts = {
    source: await all('source'),
    'frame-map': await all('frame-map'),
    'doc-map': await all('doc-map'),
    patch: await all('patch'),
  };
  const derived = await all('derived');
  const templates = await all('template');
  const problems = [...unread.values()].map(
    (u) =>
      `The ${DOCUMENT_KINDS[u.kind].word} "${u.name}" in the database cannot be read and is left out: ${u.problems.join('; ')}`,
  );
  if (!profile || !output)
    throw new Error(`The database holds no usable sport profile or output. ${problems.join(' ')}`.trim());
  for (const source of parts.source.values())
    if (source.frameMap !== null && !parts['frame-map'].has(source.frameMap))
      problems.push(`The source "${source.name}" has lost its frame map "${source.frameMap}".`);
  const bundles = [...parts.source.values()].map((source) => assembled(parts, source));
  return {
    profile,
    game,
    games,
    profiles,
    derived: new Set(derived.keys()),
    derivedDocs: [...derived.values()].map((d) => d.derived),
    maps: [...parts['frame-map'].values()].filter((m) => !parts.source.has(m.key)),
    takenTables: () => [],
    output,
    templates,
    bundles,
    unread,
    parts,
    problems,
  };
}

import { parseFrameMap, type FrameMap } from '../../core/decode/frame-map.ts';
import { parseDocMap } from '../../core/tree/doc-map.ts';
import { parseDerived, type Derived } from '../../core/derive/derived.ts';
import type { Parsed } from '../../core/document/problems.ts';
import { parsePatch } from '../../core/patch/patch-doc.ts';
import { parseGame } from '../../core/show/game-doc.ts';
import type { Game } from '../../core/show/game.ts';
import { parseOutput } from '../../core/show/output.ts';
import type { Output } from '../../core/show/show.ts';
import { parseSource } from '../../core/source/source-doc.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import { parseProfile, type SportProfile } from '../../core/sport/profile.ts';
import type { Template } from '../../core/documents/template.ts';
import { parseTemplate } from '../../core/documents/template.ts';
import type { Store } from '../store/store.ts';

/** The reader of each kind of document: nothing gets in or out of the database unread. Outputs come last. */
export const READERS = {
  profile: parseProfile,
  'frame-map': parseFrameMap,
  'doc-map': parseDocMap,
  patch: parsePatch,
  source: parseSource,
  template: parseTemplate,
  game: parseGame,
  derived: parseDerived,
  output: parseOutput,
} satisfies Record<string, (input: unknown) => Parsed<{ schema: number; key: string }>>;

export type DocumentKind = keyof typeof READERS;

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
  /** Documents that could not be read, each a sentence. They are left out, and nothing else stops. */
  problems: string[];
}

async function readAll<T extends { key: string }>(
  store: Store,
  kind: DocumentKind,
  read: (input: unknown) => Parsed<T>,
  problems: string[],
): Promise<T[]> {
  return (await store.documents(kind)).flatMap((body) => {
    const result = read(body);
    if (result.ok) return [result.value];
    problems.push(`A ${kind} document in the database is left out: ${result.problems.join('; ')}`);
    return [];
  });
}

/** Reads the world out of the database. Throws with a sentence when there is no output or profile to work with. */
export async function loadWorld(store: Store): Promise<World> {
  const problems: string[] = [];
  const all = <T extends { key: string }>(kind: DocumentKind, read: (input: unknown) => Parsed<T>) =>
    readAll(store, kind, read, problems);
  const games = await all('game', parseGame);
  const profiles = await all('profile', parseProfile);
  const outputs = await all('output', parseOutput);
  const settings = (await store.documents('setting')) as { game?: string }[];
  const wanted = settings.find((s) => typeof s.game === 'string')?.game;
  const game = games.find((g) => g.key === wanted) ?? games[0] ?? null;
  const profile = profiles.find((p) => p.key === game?.profile) ?? profiles[0];
  if (!profile || !outputs[0]) {
    throw new Error(`The database holds no usable sport profile or output. ${problems.join(' ')}`.trim());
  }
  const maps = await all('frame-map', parseFrameMap);
  const documents = await all('doc-map', parseDocMap);
  const patches = await all('patch', parsePatch);
  const bundles = (await all('source', parseSource)).map((source): SourceBundle => {
    const map = maps.find((m) => m.key === source.frameMap) ?? null;
    if (source.frameMap && !map)
      problems.push(`The source "${source.name}" has lost its frame map "${source.frameMap}".`);
    const document = map ? null : (documents.find((d) => d.key === source.key) ?? null);
    const patch = patches.find((p) => p.source === source.key) ?? null;
    return {
      schema: 1,
      source: map ? source : { ...source, frameMap: null },
      map,
      document,
      patch: map || document ? patch : null,
    };
  });
  const derived = (await all('derived', parseDerived)).map((d) => d.derived);
  const own = new Set(bundles.map((b) => b.source.key));
  return {
    profile,
    game,
    games: new Map(games.map((g) => [g.key, g])),
    profiles: new Map(profiles.map((p) => [p.key, p])),
    derived: new Set(derived.map((d) => d.key)),
    derivedDocs: derived,
    maps: maps.filter((m) => !own.has(m.key)),
    takenTables: () => [],
    output: outputs[0],
    templates: new Map((await all('template', parseTemplate)).map((t) => [t.key, t])),
    bundles,
    problems,
  };
}

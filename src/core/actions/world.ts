import type { FrameMap } from '../decode/frame-map.ts';
import type { DocumentKind, Documents, Unread } from '../documents/kinds.ts';
import type { Game } from '../show/game.ts';
import { isByHand, type SourceBundle } from '../source/source.ts';
import type { SportProfile } from '../sport/profile.ts';

/** The documents of every kind, by their keys. */
export type DocumentMaps = { [K in DocumentKind]: Map<string, Documents[K]> };

/** All documents that a running Foothill works with. */
export interface World {
  documents: DocumentMaps;
  /** The profile of the game that is played. */
  profile: SportProfile;
  game: Game | null;
  /** The keys of the tables that sources and the game make. */
  takenTables: () => string[];
  /** How often each document was saved, by `kind/key`. */
  revisions: Map<string, number>;
  /** What could not be read, by `kind/key`, with the text that it is: it stays as it is, and nothing else stops. */
  unread: Map<string, Unread & { text: string }>;
  /** What is not as it should be, each a sentence. */
  problems: string[];
}

/** A document's kind and key as one name. */
export const nameOfPlace = (kind: string, key: string) => `${kind}/${key}`;

/** A source with what belongs to it, of its parts; its map or its patch is left out where it is not there. */
export function assembled(documents: DocumentMaps, source: Documents['source']): SourceBundle {
  const map = documents['frame-map'].get(source.frameMap ?? '') ?? null;
  const document = map ? null : (documents['doc-map'].get(source.key) ?? null);
  const patch = documents.patch.get(source.key) ?? null;
  return {
    schema: 1,
    source: map ? source : { ...source, frameMap: null },
    map,
    document,
    patch: map || document || isByHand(source) ? patch : null,
  };
}

/** The source of a key with what belongs to it. */
export function bundleOf({ documents }: Pick<World, 'documents'>, key: string): SourceBundle | undefined {
  const source = documents.source.get(key);
  return source && assembled(documents, source);
}

/** Every source with what belongs to it. */
export const bundlesOf = ({ documents }: Pick<World, 'documents'>): SourceBundle[] =>
  [...documents.source.values()].map((source) => assembled(documents, source));

/** Frame maps that are there to be used: all but those that one source made for itself. */
export const sharedMaps = ({ documents }: Pick<World, 'documents'>): FrameMap[] =>
  [...documents['frame-map'].values()].filter((m) => !documents.source.has(m.key));

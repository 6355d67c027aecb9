import { parseFrameMap, type FrameMap } from '../decode/frame-map.ts';
import { parseDerived, type DerivedDoc } from '../derive/derived.ts';
import type { Parsed } from '../document/problems.ts';
import { parsePatch, type PatchDoc } from '../patch/patch-doc.ts';
import { parseGame, type Game } from '../show/game-doc.ts';
import { parseItem, type Item } from '../show/item.ts';
import { parseLook, type Look } from '../show/look.ts';
import { parseOutput } from '../show/output.ts';
import { parseQuiet, type Quiet } from './quiet.ts';
import { parseModel, parseRundown, type Rundown, type RundownModel } from '../show/rundown.ts';
import type { Output } from '../show/show.ts';
import { parseTrigger, type Trigger } from '../show/trigger.ts';
import { parseSource, type SourceDoc } from '../source/source-doc.ts';
import { parseProfile, type SportProfile } from '../sport/profile.ts';
import { parseDocMap, type DocMap } from '../tree/doc-map.ts';
import { parsePalette, type Palette } from './palette.ts';
import { parseTemplate, type Template } from './template.ts';

/** What a document of each kind is. */
export interface Documents {
  profile: SportProfile;
  'frame-map': FrameMap;
  'doc-map': DocMap;
  patch: PatchDoc;
  source: SourceDoc;
  template: Template;
  palette: Palette;
  game: Game;
  derived: DerivedDoc;
  item: Item;
  rundown: Rundown;
  'rundown-model': RundownModel;
  look: Look;
  trigger: Trigger;
  quiet: Quiet;
  output: Output;
}
export type DocumentKind = keyof Documents;

/** A document of some kind that another names. */
export interface Reference {
  kind: DocumentKind;
  key: string;
}

/** What a document kind declares. */
export interface KindDef<T> {
  /** What people call it. */
  word: string;
  /** What people call one of them. */
  name: (doc: T) => string;
  /** The documents that it cannot do without: they are not deleted while it is there. */
  needs: (doc: T) => Reference[];
  /** Whether desks follow each of them; what they need of the others comes with sources and with what is derived. */
  told: boolean;
  /** Whether people save and delete them one by one. */
  saved: boolean;
  /** Reads one of any version; nothing gets in or out of the database unread. */
  parse: (input: unknown) => Parsed<T>;
}

const none = (): Reference[] => [];

/** Every document kind, in the order in which a new database is filled: outputs come last. */
const KINDS = {
  profile: {
    told: true,
    saved: true,
    word: 'sport',
    parse: parseProfile,
    name: ({ name }) => `the sport ${name}`,
    needs: none,
  },
  'frame-map': {
    told: false,
    saved: false,
    word: 'frame map',
    parse: parseFrameMap,
    name: ({ name }) => name,
    needs: none,
  },
  'doc-map': {
    told: false,
    saved: false,
    word: 'document map',
    parse: parseDocMap,
    name: ({ key }) => key,
    needs: none,
  },
  patch: {
    told: false,
    saved: false,
    word: 'patch',
    parse: parsePatch,
    name: ({ key }) => key,
    needs: none,
  },
  source: {
    told: false,
    saved: false,
    word: 'source',
    parse: parseSource,
    name: ({ name }) => `the source ${name}`,
    needs: ({ frameMap }) => (frameMap === null ? [] : [{ kind: 'frame-map', key: frameMap }]),
  },
  template: {
    told: true,
    saved: true,
    word: 'template',
    parse: parseTemplate,
    name: ({ name }) => `the template ${name}`,
    needs: none,
  },
  palette: {
    told: true,
    saved: true,
    word: 'palette',
    parse: parsePalette,
    name: () => 'the palette',
    needs: none,
  },
  game: {
    told: true,
    saved: true,
    word: 'game',
    parse: parseGame,
    name: ({ home, away }) => `the game ${home.short} v ${away.short}`,
    needs: ({ profile }) => [{ kind: 'profile', key: profile }],
  },
  derived: {
    told: false,
    saved: true,
    word: 'derived value',
    parse: parseDerived,
    name: ({ derived }) => derived.name,
    needs: none,
  },
  item: {
    told: true,
    // Each change of one is an action that says what it is.
    saved: false,
    word: 'item',
    parse: parseItem,
    name: ({ name }) => `the item ${name}`,
    needs: ({ template }) => [{ kind: 'template', key: template }],
  },
  rundown: {
    told: true,
    saved: true,
    word: 'rundown',
    parse: parseRundown,
    name: () => 'the rundown',
    needs: none,
  },
  'rundown-model': {
    told: true,
    saved: true,
    word: 'model of a rundown',
    parse: parseModel,
    name: ({ name }) => `the model ${name}`,
    needs: none,
  },
  look: {
    told: true,
    saved: true,
    word: 'look',
    parse: parseLook,
    name: ({ name }) => `the look ${name}`,
    needs: none,
  },
  trigger: {
    told: true,
    saved: true,
    word: 'trigger',
    parse: parseTrigger,
    name: ({ name }) => `the trigger ${name}`,
    needs: ({ item }) => [{ kind: 'item', key: item }],
  },
  quiet: {
    told: true,
    saved: true,
    word: 'quiet',
    parse: parseQuiet,
    name: () => 'when it is quiet',
    needs: none,
  },
  output: {
    told: true,
    saved: true,
    word: 'output',
    parse: parseOutput,
    name: ({ name }) => `the output ${name}`,
    needs: none,
  },
} as const satisfies { [K in DocumentKind]: KindDef<Documents[K]> };
type KindsWith<P extends 'told' | 'saved'> = {
  [K in DocumentKind]: (typeof KINDS)[K][P] extends true ? K : never;
}[DocumentKind];

/** The kinds that desks follow one by one, and those that people save and delete one by one. */
export type ToldKind = KindsWith<'told'>;
export type SavedKind = KindsWith<'saved'>;
export const DOCUMENT_KINDS: { [K in DocumentKind]: KindDef<Documents[K]> } = KINDS;
const kindsWith = <P extends 'told' | 'saved'>(what: P) =>
  (Object.keys(KINDS) as DocumentKind[]).filter((kind) => KINDS[kind][what]) as KindsWith<P>[];
export const TOLD = kindsWith('told');
export const SAVED = kindsWith('saved');

/** True for a kind of document, among all that is kept under kinds and keys. */
export const isDocumentKind = (kind: string): kind is DocumentKind => Object.hasOwn(DOCUMENT_KINDS, kind);

/** What people call a document. */
export const nameOfDocument = <K extends DocumentKind>(kind: K, doc: Documents[K]): string =>
  DOCUMENT_KINDS[kind].name(doc);

/** The name of a document that cannot do without this one; null where there is none. */
export function neededBy(
  documents: { [K in DocumentKind]: ReadonlyMap<string, Documents[K]> },
  { kind, key }: Reference,
): string | null {
  for (const other of Object.keys(DOCUMENT_KINDS) as DocumentKind[]) {
    const { needs, name } = DOCUMENT_KINDS[other] as KindDef<unknown>;
    for (const doc of documents[other].values())
      if (needs(doc).some((r) => r.kind === kind && r.key === key)) return name(doc);
  }
  return null;
}

/** A document that could not be read. It stays in the database as it is until somebody mends or deletes it. */
export interface Unread {
  kind: DocumentKind;
  key: string;
  /** What people call its kind. */
  word: string;
  /** What it calls itself, where that much can be seen; else its key. */
  name: string;
  /** Each a sentence. */
  problems: string[];
}

/** Reads a document as it is kept, a text of JSON; never throws. */
export function readKept<K extends DocumentKind>(
  kind: K,
  key: string,
  text: string,
): { ok: true; doc: Documents[K] } | { ok: false; unread: Unread } {
  const { word } = DOCUMENT_KINDS[kind];
  let input: unknown;
  try {
    input = JSON.parse(text);
  } catch {
    return { ok: false, unread: { kind, key, word, name: key, problems: ['document: is not JSON'] } };
  }
  const read = DOCUMENT_KINDS[kind].parse(input);
  if (read.ok) return { ok: true, doc: read.value };
  const { name, derived } = (typeof input === 'object' && input !== null ? input : {}) as {
    name?: unknown;
    derived?: { name?: unknown } | null;
  };
  const told = name ?? derived?.name;
  const known = typeof told === 'string' && told !== '' ? told.slice(0, 80) : key;
  return { ok: false, unread: { kind, key, word, name: known, problems: read.problems } };
}

/** The newest schema version of each kind, as far as one of it was read. */
const newest = new Map<DocumentKind, number>();

/**
 * A document that was written down by some version of Foothill, as today's has it; one that cannot be read stays as it is. Only what
 * is of another version than was read before of its kind is read.
 */
export function inNewestForm<T extends { schema?: unknown }>(kind: DocumentKind, doc: T): T {
  if (doc.schema === newest.get(kind)) return doc;
  const read = DOCUMENT_KINDS[kind].parse(doc);
  if (!read.ok) return doc;
  newest.set(kind, read.value.schema);
  return read.value as unknown as T;
}

import { parseFrameMap, type FrameMap } from '../decode/frame-map.ts';
import { parseDerived, type DerivedDoc } from '../derive/derived.ts';
import type { Parsed } from '../document/problems.ts';
import { parsePatch, type PatchDoc } from '../patch/patch-doc.ts';
import { parseGame, type Game } from '../show/game-doc.ts';
import { parseOutput } from '../show/output.ts';
import type { Output } from '../show/show.ts';
import { parseSource, type SourceDoc } from '../source/source-doc.ts';
import { parseProfile, type SportProfile } from '../sport/profile.ts';
import { parseDocMap, type DocMap } from '../tree/doc-map.ts';
import { parseTemplate, type Template } from './template.ts';

/** What a document of each kind is. */
export interface Documents {
  profile: SportProfile;
  'frame-map': FrameMap;
  'doc-map': DocMap;
  patch: PatchDoc;
  source: SourceDoc;
  template: Template;
  game: Game;
  derived: DerivedDoc;
  output: Output;
}
export type DocumentKind = keyof Documents;

/** What a document kind declares. */
interface KindDef<T> {
  /** What people call it. */
  word: string;
  /** Reads one of any version; nothing gets in or out of the database unread. */
  parse: (input: unknown) => Parsed<T>;
}

/** Every document kind, in the order in which a new database is filled: outputs come last. */
export const DOCUMENT_KINDS: { [K in DocumentKind]: KindDef<Documents[K]> } = {
  profile: { word: 'sport', parse: parseProfile },
  'frame-map': { word: 'frame map', parse: parseFrameMap },
  'doc-map': { word: 'document map', parse: parseDocMap },
  patch: { word: 'patch', parse: parsePatch },
  source: { word: 'source', parse: parseSource },
  template: { word: 'template', parse: parseTemplate },
  game: { word: 'game', parse: parseGame },
  derived: { word: 'derived value', parse: parseDerived },
  output: { word: 'output', parse: parseOutput },
};

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

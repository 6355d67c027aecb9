import { readAs } from '../document/check.ts';
import { isRecord } from '../board/own.ts';
import { Form, isWhole, ListOf, Maybe, Must, Num, OneOf, OrNull, Whole, YesNo } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import { plainPath } from './plain-path.ts';

const SEGMENTS = /^[^/\\<>:"|?*\u0000-\u001f]+(\/[^/\\<>:"|?*\u0000-\u001f]+)*$/;
const isPath = (v: unknown) =>
  typeof v === 'string' &&
  v.length > 0 &&
  v.length <= 200 &&
  SEGMENTS.test(v) &&
  !/(^|\/)\.{1,2}(\/|$)/.test(v);

const TYPES = [
  'image/png',
  'image/jpeg',
  'image/webp',
  'image/gif',
  'image/svg+xml',
  'video/webm',
  'font/ttf',
  'font/otf',
  'font/woff2',
] as const;

/** What a font file has: its family as layers name it, and from which weight (100 to 900, CSS Fonts 4) to which. */
export interface MediaFace {
  family: string;
  weights: [from: number, to: number];
}

/** A family's name as it may stand in a style sheet. */
export const FAMILY_NAME = /^[\p{L}\p{N}][\p{L}\p{N} ._+-]{0,59}$/u;

function isFace(v: unknown): boolean {
  if (!isRecord(v) || typeof v['family'] !== 'string' || !FAMILY_NAME.test(v['family'])) return false;
  const weights: unknown = v['weights'];
  if (!Array.isArray(weights) || weights.length !== 2) return false;
  const [from, to] = weights as unknown[];
  return isWhole(from, 1, 1000) && isWhole(to, from, 1000);
}

/** One picture, loop or font of the library: where it stands, and its content by hash. */
export class MediaEntry {
  /** Folders and name, such as `headshots/herons/07.png`. */
  @Must('path', isPath, 'is not a path such as marks/owls.svg') path!: string;
  /** SHA-256 of the content, hexadecimal. */
  @Form(/^[0-9a-f]{64}$/, 'is not a hash') hash!: string;
  @OneOf(...TYPES) type!: (typeof TYPES)[number];
  @Whole(1, 100_000_000) size!: number;
  /** In pixels; 0 where the content does not say. */
  @Whole(0, 100_000) width!: number;
  @Whole(0, 100_000) height!: number;
  /** Whether it can be seen through; null where that is not known. */
  @OrNull() @YesNo() alpha!: boolean | null;
  /** How long one turn of a loop takes, in ms; null for a still. */
  @OrNull() @Num() length!: number | null;
  /** What a font has; of nothing else. */
  @Maybe() @Must('face', isFace, 'is not a family with its weights') face?: MediaFace;
  /** Where it stood before: what names it by one of these still finds it, for as long as nothing else stands there. */
  @Maybe() @ListOf(isPath, 'must be a list of paths') formerly?: string[];
}

/** An entry put in its place, or with null taken away. */
export interface MediaChange {
  path: string;
  entry: MediaEntry | null;
}

/** Reads an entry of the library. */
export const parseMedia = (input: unknown): Parsed<MediaEntry> => readAs(MediaEntry, input);

/** Reads a change of the library; refuses one whose entry stands under another path than it says. */
export function parseMediaChange(input: unknown): Parsed<MediaChange> {
  const { path, entry } = (typeof input === 'object' && input !== null ? input : {}) as Record<
    string,
    unknown
  >;
  if (typeof path !== 'string' || path === '' || path.length > 200)
    return { ok: false, problems: ['path: is missing'] };
  if (entry === null) return { ok: true, value: { path, entry: null } };
  const parsed = parseMedia(entry);
  if (!parsed.ok) return parsed;
  return plainPath(parsed.value.path) === plainPath(path)
    ? { ok: true, value: { path, entry: parsed.value } }
    : { ok: false, problems: ['path: is not where the entry is to stand'] };
}

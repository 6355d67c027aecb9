import * as v from 'valibot';
import { parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';

const segment = /^[^/\\<>:"|?*\u0000-\u001f]+(\/[^/\\<>:"|?*\u0000-\u001f]+)*$/;

const mediaSchema = v.object({
  /** Folders and name, such as `headshots/herons/07.png`. */
  path: v.pipe(
    v.string(),
    v.minLength(1),
    v.maxLength(200),
    v.regex(segment, 'is not a path such as marks/owls.svg'),
    v.check((p) => !/(^|\/)\.{1,2}(\/|$)/.test(p), 'is not a path such as marks/owls.svg'),
  ),
  /** SHA-256 of the content, hexadecimal. */
  hash: v.pipe(v.string(), v.regex(/^[0-9a-f]{64}$/, 'is not a hash')),
  type: v.picklist(['image/png', 'image/jpeg', 'image/webp', 'image/gif', 'image/svg+xml', 'video/webm']),
  size: wholeNumber(1, 100_000_000),
  /** In pixels; 0 where the content does not say. */
  width: wholeNumber(0, 100_000),
  height: wholeNumber(0, 100_000),
  /** Whether it can be seen through; null where that is not known. */
  alpha: v.nullable(v.boolean()),
  /** How long one turn of a loop takes, in ms; null for a still. */
  length: v.nullable(v.number()),
});

/** One picture or loop of the library: where it stands, and its content by hash. */
export type MediaEntry = v.InferOutput<typeof mediaSchema>;

/** Reads an entry of the library. */
export function parseMedia(input: unknown): Parsed<MediaEntry> {
  return parseDocument(mediaSchema, input);
}

/** An entry put in its place, or with null taken away. */
export interface MediaChange {
  path: string;
  entry: MediaEntry | null;
}

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

/**
 * A path without what people get wrong: case, accents, spaces and signs, the file type. `Head Shots/Herons/07.PNG`
 * and `head-shots/herons/07` are the same.
 */
export function plainPath(path: string): string {
  return path
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/\.(png|jpe?g|webp|gif|svg|webm)$/, '')
    .split('/')
    .map((part) => part.replace(/[^a-z0-9]+/g, '-').replace(/^-+|-+$/g, ''))
    .filter(Boolean)
    .join('/');
}

/** Where a content is served, for as long as anybody may ask. */
export const mediaUrl = ({ hash }: Pick<MediaEntry, 'hash'>) => `/media/by-hash/${hash}`;

/** The token of the library: what shows a picture by its path depends on it. */
export const MEDIA_TOKEN = '#/media';

const byName = new Intl.Collator('en', { numeric: true });

/** The library by path, forgiving of how a path is written. */
export class MediaIndex {
  private readonly all = new Map<string, MediaEntry>();

  constructor(entries: Iterable<MediaEntry> = []) {
    for (const entry of entries) this.put(entry);
  }

  list(): MediaEntry[] {
    return [...this.all.values()].sort((a, b) => byName.compare(a.path, b.path));
  }

  find(path: string): MediaEntry | undefined {
    return this.all.get(plainPath(path));
  }

  /** Puts an entry in its place; what stood there under the same plain path is replaced. */
  put(entry: MediaEntry): void {
    this.all.set(plainPath(entry.path), entry);
  }

  remove(path: string): void {
    this.all.delete(plainPath(path));
  }

  /**
   * The address of a picture: what begins with /media/ is one already, blank stays blank, all else is a path that is
   * looked up; null where the library has no such picture.
   */
  address(path: string): string | null {
    if (path === '' || path.startsWith('/media/')) return path;
    const found = this.find(path);
    return found ? mediaUrl(found) : null;
  }
}

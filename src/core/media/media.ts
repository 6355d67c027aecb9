import type { MediaEntry } from './media-doc.ts';
import { plainPath } from './plain-path.ts';

export type { MediaChange, MediaEntry, MediaFace } from './media-doc.ts';
export { fileNameOf, plainPath } from './plain-path.ts';

/** Where a content is served, for as long as anybody may ask. */
export const mediaUrl = ({ hash }: Pick<MediaEntry, 'hash'>) => `/media/by-hash/${hash}`;

/** True for a picture of pixels, of which small ones are made. */
export const isRaster = ({ type }: { type: string }) => type.startsWith('image/') && type !== 'image/svg+xml';

/** True for what can be shown as a picture: all but fonts. */
export const isPicture = ({ type }: { type: string }) => !type.startsWith('font/');

/** Where a picture is served small enough for a list: 320 pixels a side at most; a drawing and a loop are as they are. */
export const smallUrl = (entry: Pick<MediaEntry, 'hash' | 'type'>) =>
  isRaster(entry) ? `/media/small/${entry.hash}` : mediaUrl(entry);

/** The token of the library: what shows a picture by its path depends on it. */
export const MEDIA_TOKEN = '#/media';

/** How many former paths an entry keeps. */
const MOST_FORMER = 40;

/** The entry as it is once it stands where another, or itself, stood: the paths of both lead to it. */
export function inPlaceOf(entry: MediaEntry, ...others: (MediaEntry | null | undefined)[]): MediaEntry {
  const paths = new Map<string, string>();
  for (const path of others.flatMap((o) => (o ? [...(o.formerly ?? []), o.path] : [])))
    if (plainPath(path) !== plainPath(entry.path)) paths.set(plainPath(path), path);
  const formerly = [...paths.values()].slice(-MOST_FORMER);
  return formerly.length ? { ...entry, formerly } : entry;
}

const byName = new Intl.Collator('en', { numeric: true });

/** The library by path, forgiving of how a path is written; what was moved is found by its former paths too. */
export class MediaIndex {
  private readonly all = new Map<string, MediaEntry>();
  /** Who stood at a path before, by plain path: the one that was moved last. */
  private readonly former = new Map<string, MediaEntry>();

  constructor(entries: Iterable<MediaEntry> = []) {
    for (const entry of entries) this.put(entry);
  }

  list(): MediaEntry[] {
    return [...this.all.values()].sort((a, b) => byName.compare(a.path, b.path));
  }

  /** The pictures and loops by path, without the fonts. */
  pictures(): MediaEntry[] {
    return this.list().filter(isPicture);
  }

  /** What a path leads to: what stands there, else what stood there before it was moved. */
  find(path: string): MediaEntry | undefined {
    const plain = plainPath(path);
    return this.all.get(plain) ?? this.former.get(plain);
  }

  /** What stands at a path itself. */
  at(path: string): MediaEntry | undefined {
    return this.all.get(plainPath(path));
  }

  /** Puts an entry in its place; what stood there under the same plain path is replaced. */
  put(entry: MediaEntry): void {
    this.remove(entry.path);
    this.all.set(plainPath(entry.path), entry);
    for (const path of entry.formerly ?? []) this.former.set(plainPath(path), entry);
  }

  remove(path: string): void {
    const was = this.at(path);
    this.all.delete(plainPath(path));
    for (const before of was?.formerly ?? [])
      if (this.former.get(plainPath(before)) === was) this.former.delete(plainPath(before));
  }

  /**
   * The address of a picture: what begins with /media/ is one already, blank stays blank, all else is a path that is
   * looked up; null where the library has no such picture. A path that was worked out from a key finds only what stands
   * there now: one who gives a picture another key means that the old key has none.
   */
  address(path: string, keyed = false): string | null {
    if (path === '' || path.startsWith('/media/')) return path;
    const found = keyed ? this.at(path) : this.find(path);
    return found && isPicture(found) ? mediaUrl(found) : null;
  }
}

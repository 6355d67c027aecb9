import type { MediaEntry } from './media-doc.ts';
import { plainPath } from './plain-path.ts';

export type { MediaChange, MediaEntry } from './media-doc.ts';
export { plainPath } from './plain-path.ts';

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

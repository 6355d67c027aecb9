import { MediaIndex, parseMedia, type MediaEntry } from '../../core/media/media.ts';
import type { Store } from '../store/store.ts';
import { inspect, type Inspected } from './inspect.ts';

/** How much content is kept at hand, in bytes: an air page that loads anew has its pictures though the database is gone. */
const AT_HAND = 256_000_000;

/** The media library: what stands where, and the contents by hash. */
export class Library {
  readonly index = new MediaIndex();
  private readonly cache = new Map<string, Uint8Array>();
  private cached = 0;

  constructor(private readonly store: Pick<Store, 'media' | 'putContent' | 'content'>) {}

  async load(): Promise<void> {
    for (const entry of await this.store.media()) {
      const read = parseMedia(entry);
      if (read.ok) this.index.put(read.value);
    }
  }

  /** Takes a content in, under its hash. It stands nowhere until an entry of the library names it. */
  async take(bytes: Uint8Array, name: string): Promise<Inspected> {
    const found = inspect(bytes, name);
    if ('problem' in found) return found;
    await this.store.putContent(found.about.hash, found.bytes);
    this.keep(found.about.hash, found.bytes);
    return found;
  }

  /** A content with its type; null where there is none. */
  async content(hash: string): Promise<{ bytes: Uint8Array; type: string } | null> {
    const entry = this.index.list().find((e) => e.hash === hash);
    const bytes = this.cache.get(hash) ?? (await this.store.content(hash));
    if (!bytes) return null;
    this.keep(hash, bytes);
    return { bytes, type: entry?.type ?? 'application/octet-stream' };
  }

  has = async (hash: string) => this.cache.has(hash) || (await this.store.content(hash)) !== null;

  put(path: string, entry: MediaEntry | null): void {
    if (entry) this.index.put(entry);
    else this.index.remove(path);
  }

  private keep(hash: string, bytes: Uint8Array): void {
    const was = this.cache.get(hash);
    if (was) {
      this.cache.delete(hash);
      this.cached -= was.length;
    }
    this.cache.set(hash, bytes);
    this.cached += bytes.length;
    for (const [oldest, content] of this.cache) {
      if (this.cached <= AT_HAND) break;
      this.cache.delete(oldest);
      this.cached -= content.length;
    }
  }
}

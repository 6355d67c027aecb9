import { LRUCache } from 'lru-cache';
import { isRaster, MediaIndex, type MediaEntry, type MediaFace } from '../../core/media/media.ts';
import { parseMedia } from '../../core/media/media-doc.ts';
import { faceRule, fontsOf } from '../../core/media/fonts.ts';
import { Refusal } from '../../core/show/show.ts';
import type { Store } from '../store/store.ts';
import type { Pictures } from './pictures.ts';
import type { Inspected } from './inspect.ts';

/** How much content is kept at hand, in bytes: an air page that loads anew has its pictures though the database is gone. */
const AT_HAND = 256_000_000;
const SMALL_AT_HAND = 32_000_000;

/** Who looks at pictures and makes them small. */
export type Looking = Pick<Pictures, 'inspect' | 'shrunk' | 'close'>;
type About = Omit<MediaEntry, 'path'>;

/** The media library: what stands where, and the contents by hash. */
export class Library {
  readonly index = new MediaIndex();
  private readonly cache = new LRUCache<string, Uint8Array>({
    maxSize: AT_HAND,
    sizeCalculation: (bytes) => Math.max(1, bytes.length),
  });

  /** Pictures made small, by the hash of what they were. */
  private readonly smalls = new LRUCache<string, Uint8Array>({
    maxSize: SMALL_AT_HAND,
    sizeCalculation: (bytes) => Math.max(1, bytes.length),
    // Several who ask for one meanwhile wait for the same.
    fetchMethod: async (hash) => (await this.shrink(hash)) ?? undefined,
  });

  /** Its fonts by hash, for as long as nothing changes. */
  private faces: ReadonlyMap<string, MediaFace> | null = null;

  /** What is known of contents, by hash: found in their bytes, never said by whoever brought them. */
  private readonly abouts = new Map<string, About>();

  constructor(
    private readonly store: Pick<Store, 'media' | 'putContent' | 'content'>,
    private readonly pictures: Omit<Looking, 'close'>,
  ) {}

  async load(): Promise<void> {
    for (const entry of await this.store.media()) {
      const read = parseMedia(entry);
      if (!read.ok) continue;
      this.put(read.value.path, read.value);
      this.note(read.value);
    }
  }

  /** Takes a content in, under its hash. It stands nowhere until an entry of the library names it. */
  async take(bytes: Uint8Array, name: string): Promise<Inspected> {
    const found = await this.pictures.inspect(bytes, name);
    if ('problem' in found) return found;
    this.note(found.about);
    await this.store.putContent(found.about.hash, found.bytes);
    this.cache.set(found.about.hash, found.bytes);
    return found;
  }

  /** The fonts of the library, by hash: those that layouts may be written in. */
  fonts(): string[] {
    return [...this.known().keys()];
  }

  private known(): ReadonlyMap<string, MediaFace> {
    return (this.faces ??= fontsOf(this.index.list()));
  }

  /** How a style sheet declares the font with this hash; null where there is none. */
  faceRule(hash: string): string | null {
    const face = this.known().get(hash);
    return face ? faceRule(hash, face) : null;
  }

  /** A content with its type; null where there is none. */
  async content(hash: string): Promise<{ bytes: Uint8Array; type: string } | null> {
    const entry = this.index.list().find((e) => e.hash === hash);
    const bytes = this.cache.get(hash) ?? (await this.store.content(hash));
    if (!bytes) return null;
    this.cache.set(hash, bytes);
    return { bytes, type: this.abouts.get(hash)?.type ?? entry?.type ?? 'application/octet-stream' };
  }

  /** A raster picture as a small one; null where there is none, or it cannot be made small. */
  async small(hash: string): Promise<Uint8Array | null> {
    return (await this.smalls.fetch(hash)) ?? null;
  }

  private async shrink(hash: string): Promise<Uint8Array | null> {
    const content = await this.content(hash);
    return content && isRaster(content) ? this.pictures.shrunk(content.bytes) : null;
  }

  /** What a content is; null where there is none, or it is nothing that the library takes. */
  async about(hash: string): Promise<About | null> {
    const known = this.abouts.get(hash);
    const there = this.cache.get(hash) ?? (await this.store.content(hash));
    if (!there) return null;
    if (known) return known;
    // One that was brought in before the server was started anew, and stands nowhere yet.
    for (const type of ['png', 'jpg', 'webp', 'gif', 'svg', 'webm', 'ttf', 'otf', 'woff2']) {
      const found = await this.pictures.inspect(there, `it.${type}`);
      if ('problem' in found) continue;
      const about = { ...found.about, hash, size: there.length };
      this.note(about);
      return about;
    }
    return null;
  }

  /** An entry as it is: what its content is, the content says; the request says only where it stands. */
  private async trueEntry(entry: object): Promise<object> {
    const { path, hash } = entry as { path?: unknown; hash?: unknown };
    const about = typeof hash === 'string' ? await this.about(hash) : null;
    if (!about) throw new Refusal('Its content is not in the library; bring the file in again.');
    return { path, ...about };
  }

  /** Gives a request's entries what their bytes say of them. */
  async trueEntries(request: { entry?: object | null } | { changes: unknown[] }): Promise<void> {
    const all = 'changes' in request ? request.changes : [request];
    for (const one of all as { entry?: unknown }[])
      if (typeof one?.entry === 'object' && one.entry !== null) one.entry = await this.trueEntry(one.entry);
  }

  private note({ hash, type, size, width, height, alpha, length, face }: About): void {
    this.abouts.set(hash, { hash, type, size, width, height, alpha, length, ...(face && { face }) });
  }

  put(path: string, entry: MediaEntry | null): void {
    this.faces = null;
    if (entry) this.index.put(entry);
    else this.index.remove(path);
  }
}

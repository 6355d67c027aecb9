import type { Logger } from 'pino';
import type { Applied, Board, Change } from '../../core/board/board.ts';
import { isClock } from '../../core/board/values.ts';
import { clockAt, stoppedClock } from '../../core/clock/clock.ts';
import { Arbiter } from '../../core/patch/arbiter.ts';
import { Patch } from '../../core/patch/patch.ts';
import { deliveryOf, type DocumentTransport, type SourceBundle } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import type { DocMap } from '../../core/tree/doc-map.ts';
import type { DocumentRead } from '../../core/tree/read.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import { ByteSource } from '../ingest/byte-source.ts';
import { DocumentSource, type Fetcher } from '../ingest/document/document-source.ts';
import { fileFetcher } from '../ingest/document/file.ts';
import type { HostPolicy } from '../ingest/document/hosts.ts';
import { httpFetcher } from '../ingest/document/http.ts';
import { DocumentReader } from '../ingest/document/reader.ts';
import type { Done } from '../ingest/document/work.ts';
import { HandSource } from '../ingest/hand-source.ts';
import { serverNow, type Hub } from './hub.ts';

/** Bytes go to whoever looks at them in batches, this often, in ms. */
const BYTES_EVERY = 50;
/** The place of what is set by hand: behind every device. */
const HAND_PLACE = 9;

export interface Feeding {
  bundle: SourceBundle;
  source: ByteSource | DocumentSource | HandSource;
  patch: Patch | null;
}

/** What changed on the board: tokens of fields and rows for what shows them, fields and tables for the desks. */
export interface Spread extends Pick<Applied, 'changed' | 'touched'> {
  tables?: string[];
}

/** The name of the stream that carries a source's bytes as they come. */
export const bytesStream = (key: string) => `bytes:${key}`;

/** True for a field that a hand may set on its pad: what a game changes, not what it is called. */
export const isForHand = (def: FieldDef) => !['text', 'colour', 'picture'].includes(def.kind);

/** All connected inputs: what they say becomes changes of the board, their silence stops their clocks. */
export class Sources {
  private readonly all = new Map<string, Feeding>();
  private readonly arbiter = new Arbiter();
  private readonly unsent = new Map<string, Uint8Array[]>();
  private readonly timer: NodeJS.Timeout;
  private readonly reader = new DocumentReader(new URL('./worker.js', import.meta.url));

  constructor(
    private readonly board: Board,
    private readonly hub: Hub,
    private readonly spread: (changes: Spread) => void,
    private readonly hosts: HostPolicy,
    private readonly logger: Logger,
  ) {
    this.timer = setInterval(() => this.sendBytes(), BYTES_EVERY);
  }

  /** Starts a source, or starts it anew with what changed. Until it speaks again its fields are not trusted. */
  put(bundle: SourceBundle): void {
    const { key } = bundle.source;
    const known = this.all.get(key);
    const patch = bundle.patch && new Patch(bundle.patch, (field) => this.board.def(field));
    if (known && sameInput(known.bundle, bundle)) return this.goOn(known, bundle, patch);
    known?.source.stop();
    if (known) this.silence(known, 'lost');
    const source = this.make(bundle);
    this.apply(this.arbiter.remove(key));
    this.arbiter.put(key, bundle.source.back, bundle.source.enabled ? this.linksOf(bundle) : []);
    this.all.set(key, { bundle, source, patch });
    this.dropTables(key, bundle.document);
    if (!this.hub.has(bytesStream(key)))
      this.hub.open(bytesStream(key), () => {
        const now = this.all.get(key)?.source;
        return { hex: hexOf([now instanceof ByteSource ? now.tail : new Uint8Array()]) };
      });
    if (source instanceof HandSource && bundle.source.enabled) this.pickUp(source);
    source.start();
  }

  remove(key: string): void {
    const known = this.all.get(key);
    if (!known) return;
    known.source.stop();
    this.all.delete(key);
    this.silence(known, 'lost');
    this.apply(this.arbiter.remove(key));
    this.dropTables(key, null);
    this.hub.shut(bytesStream(key));
  }

  bundle(key: string): SourceBundle | undefined {
    return this.all.get(key)?.bundle;
  }

  bundles(): SourceBundle[] {
    return [...this.all.values()].map((f) => f.bundle);
  }

  states(): SourceState[] {
    return [...this.all].map(([key, f]) => f.source.state(this.arbiter.waiting(key)));
  }

  /** The source that a field comes from, or would come from. */
  feeding(field: string): Feeding | undefined {
    const origin = this.board.state(field)?.origin;
    return this.all.get(origin ?? '') ?? [...this.all.values()].find((f) => f.patch?.linkTo(field));
  }

  /** The board has other fields than before, as another sport's: a pad is for those that there are now. */
  boardChanged(): void {
    for (const { bundle, source } of this.all.values()) {
      if (!(source instanceof HandSource) || !bundle.source.enabled) continue;
      this.arbiter.change(bundle.source.key, bundle.source.back, this.linksOf(bundle));
      for (const field of source.words) if (!this.board.def(field)) source.words.delete(field);
    }
  }

  /** Gives a source back the fields that another holds since it was silent. */
  giveBack(key: string): void {
    this.apply(this.arbiter.giveBack(key, serverNow()));
    this.letGo();
  }

  /** The live source whose word a hand's would not outweigh, by name; null where the hand may set the field. */
  aheadOf(hand: string, field: string): string | null {
    const ahead = this.arbiter.ahead(hand, field);
    return ahead === null ? null : (this.all.get(ahead)?.bundle.source.name ?? ahead);
  }

  /** Sets fields by hand. */
  press(key: string, changes: readonly Change[]): void {
    const hand = this.all.get(key)?.source;
    if (!(hand instanceof HandSource)) return;
    const now = serverNow();
    hand.press(
      changes.map((c) => c.key),
      now,
    );
    this.apply(this.arbiter.offer(key, changes, now));
  }

  /** Looks at a source's document at once; null for a source that has none. */
  async fetchNow(key: string): Promise<SourceState | null> {
    const found = this.all.get(key)?.source;
    if (!(found instanceof DocumentSource)) return null;
    await found.fetchNow();
    found.look(serverNow());
    return found.state();
  }

  /** The newest good document of a source, read by a map that is being made. Null where there is none. */
  tryMap(key: string, map: DocMap | null): Promise<Done> | null {
    const found = this.all.get(key)?.source;
    return found instanceof DocumentSource ? found.tryMap(map) : null;
  }

  /** Looks at every source's silence; gives true when the health of one changed. */
  look(): boolean {
    const now = serverNow();
    let changed = false;
    for (const feeding of this.all.values()) {
      if (!feeding.source.look(now)) continue;
      changed = true;
      const { health } = feeding.source;
      if (health === 'live') this.mark(feeding.source.doc.key, 'ok');
      else this.silence(feeding, health === 'late' ? 'late' : 'lost');
    }
    const stopped = ![...this.board.fields].some(({ key }) => {
      const value = this.board.read(key);
      return isClock(value) && value.running;
    });
    this.endClocks(now);
    const back = this.arbiter.tick(now, stopped);
    this.apply(back);
    this.letGo();
    return changed || back.length > 0;
  }

  stop(): void {
    clearInterval(this.timer);
    for (const { source } of this.all.values()) source.stop();
    this.reader.close();
  }

  /**
   * What comes in is read as before, only its patch, name or limits are others: the line stays open and what the
   * source says holds without a break.
   */
  private goOn(known: Feeding, bundle: SourceBundle, patch: Patch | null): void {
    const { key } = bundle.source;
    if (known.patch) patch?.inherit(known.patch);
    known.source.doc = bundle.source;
    Object.assign(known, { bundle, patch });
    const links = bundle.source.enabled ? this.linksOf(bundle) : [];
    const { changes, orphans } = this.arbiter.change(key, bundle.source.back, links);
    const now = serverNow();
    // A clock that nobody speaks for any more stands.
    const stopped = orphans.flatMap((field): Change[] => {
      const { value, origin } = this.board.state(field) ?? { value: null, origin: '' };
      if (!isClock(value) || !value.running) return [];
      return [{ key: field, value: stoppedClock(clockAt(value, now), value.direction, now), origin }];
    });
    this.apply([...changes, ...stopped]);
    this.spread({ changed: [], touched: this.board.orphan(orphans) });
    // A document speaks only when it changes: what it said holds for the new patch too.
    const last = known.source instanceof DocumentSource ? known.source.last : null;
    if (last) this.onRead(known, { readings: last.readings, tables: [] }, serverNow());
  }

  private make(bundle: SourceBundle): Feeding['source'] {
    const { source: doc } = bundle;
    const heard = (read: DocumentRead, at: number) => {
      const feeding = this.all.get(doc.key);
      if (feeding?.source === source) this.onRead(feeding, read, at);
    };
    const source: Feeding['source'] =
      deliveryOf(doc.transport) === 'hand'
        ? new HandSource(doc)
        : deliveryOf(doc.transport) === 'documents'
          ? new DocumentSource(
              doc,
              bundle.document,
              this.fetcher(doc.transport as DocumentTransport),
              this.reader,
              heard,
              this.logger,
            )
          : new ByteSource(
              bundle,
              heard,
              (bytes) => this.unsent.set(doc.key, [...(this.unsent.get(doc.key) ?? []), bytes]),
              this.logger,
            );
    return source;
  }

  private fetcher(transport: DocumentTransport): Fetcher {
    return transport.kind === 'file' ? fileFetcher(transport) : httpFetcher(transport, this.hosts);
  }

  private linksOf({ source, patch }: SourceBundle): { field: string; priority: number }[] {
    if (source.transport.kind !== 'hand')
      return (patch?.links ?? []).map(({ field, priority = 1 }) => ({ field, priority }));
    return [...this.board.fields].filter(isForHand).map(({ key }) => ({ field: key, priority: HAND_PLACE }));
  }

  /** After a restart a hand's own last words are still its words. */
  private pickUp(hand: HandSource): void {
    const { key } = hand.doc;
    const words = [...this.board.fields]
      .filter((def) => isForHand(def) && this.board.state(def.key)?.origin === key)
      .map((def) => ({ key: def.key, value: this.board.state(def.key)!.value, origin: key }));
    if (words.length) this.press(key, words);
  }

  /** A clock that runs by hand has nobody to say that it is over: it stops at its end. */
  private endClocks(now: number): void {
    for (const { source } of this.all.values()) {
      if (!(source instanceof HandSource)) continue;
      const over = [...source.words].flatMap((key): Change[] => {
        const value = this.board.state(key)?.value;
        if (!isClock(value) || !value.running || clockAt(value, now) !== value.until) return [];
        return [{ key, value: stoppedClock(value.until, value.direction, now), origin: source.doc.key }];
      });
      if (over.length) this.press(source.doc.key, over);
    }
  }

  /** A hand's word is good while it holds the field: once a device has it again, the next word starts from that. */
  private letGo(): void {
    for (const { source } of this.all.values()) {
      if (!(source instanceof HandSource)) continue;
      for (const field of source.words) {
        if (this.arbiter.holder(field) === source.doc.key) continue;
        source.words.delete(field);
        this.arbiter.forget(source.doc.key, field);
      }
    }
  }

  /**
   * A clock may run only on its source's word: where no other source takes over, it stops at the last value that
   * was said.
   */
  private silence({ bundle, patch }: Feeding, quality: 'late' | 'lost'): void {
    const now = serverNow();
    const { changed, touched } = this.board.apply(
      this.arbiter.silent(bundle.source.key, patch?.hold(now) ?? [], now),
      now,
    );
    this.spread({ changed, touched });
    this.mark(bundle.source.key, quality);
  }

  private mark(origin: string, quality: 'ok' | 'late' | 'lost'): void {
    const tables = this.board.tables.mark(origin, quality)
      ? this.board.tables.list().flatMap((t) => (t.origin === origin ? [t.key] : []))
      : [];
    this.spread({ changed: [], touched: this.board.mark(origin, quality), tables });
  }

  private dropTables(origin: string, map: DocMap | null): void {
    const kept = new Set(map?.tables.map((t) => t.key));
    const gone = this.board.tables.list().filter((t) => t.origin === origin && !kept.has(t.key));
    const changed = gone.flatMap((t) => this.board.tables.remove(t.key));
    if (gone.length) this.spread({ changed, touched: [], tables: gone.map((t) => t.key) });
  }

  private apply(changes: readonly Change[]): void {
    if (changes.length) this.spread(this.board.apply(changes, serverNow()));
  }

  private onRead({ source, patch, bundle }: Feeding, { readings, tables }: DocumentRead, at: number): void {
    const { key } = source.doc;
    const map = bundle.document;
    const { changes, problems } = patch?.changes(readings, at) ?? { changes: [], problems: [] };
    const applied = this.board.apply(this.arbiter.offer(key, changes, at), at);
    const put = tables.map((t) => {
      const name = map?.tables.find((m) => m.key === t.key)?.name ?? t.key;
      return { key: t.key, tokens: this.board.tables.put({ ...t, name }, key, at) };
    });
    this.spread({
      changed: [...applied.changed, ...put.flatMap((p) => p.tokens)],
      touched: applied.touched,
      tables: put.filter((p) => p.tokens.length).map((p) => p.key),
    });
    const all = [...problems, ...applied.refused.map((r) => r.reason), ...tables.flatMap((t) => t.problems)];
    if (all.length === 0) return;
    source.refused += all.length;
    source.complain(all[0]!, at);
  }

  private sendBytes(): void {
    for (const [key, parts] of this.unsent) this.hub.publish(bytesStream(key), [{ hex: hexOf(parts) }]);
    this.unsent.clear();
  }
}

/** True when two bundles listen to the same line and read it in the same way. */
function sameInput(a: SourceBundle, b: SourceBundle): boolean {
  const part = ({ source, map, document }: SourceBundle) =>
    JSON.stringify([source.transport, source.enabled, map, document]);
  return part(a) === part(b);
}

const hexOf = (parts: readonly Uint8Array[]) => Buffer.concat(parts).toString('hex');

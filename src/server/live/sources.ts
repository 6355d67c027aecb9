import type { Logger } from 'pino';
import type { Applied, Board, Change } from '../../core/board/board.ts';
import { isClock } from '../../core/board/values.ts';
import { Arbiter } from '../../core/patch/arbiter.ts';
import { Patch } from '../../core/patch/patch.ts';
import type { Reading } from '../../core/decode/reading.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import { ByteSource } from '../ingest/byte-source.ts';
import { serverNow, type Hub } from './hub.ts';

/** Bytes go to whoever looks at them in batches, this often, in ms. */
const BYTES_EVERY = 50;

export interface Feeding {
  bundle: SourceBundle;
  source: ByteSource;
  patch: Patch | null;
}

/** The name of the stream that carries a source's bytes as they come. */
export const bytesStream = (key: string) => `bytes:${key}`;

/** All connected inputs: their bytes become changes of the board, their silence stops their clocks. */
export class Sources {
  private readonly all = new Map<string, Feeding>();
  private readonly arbiter = new Arbiter();
  private readonly unsent = new Map<string, Uint8Array[]>();
  private readonly timer: NodeJS.Timeout;

  constructor(
    private readonly board: Board,
    private readonly hub: Hub,
    private readonly spread: (applied: Pick<Applied, 'changed' | 'touched'>) => void,
    private readonly logger: Logger,
  ) {
    this.timer = setInterval(() => this.sendBytes(), BYTES_EVERY);
  }

  /** Starts a source, or starts it anew with what changed. Until it speaks again its fields are not trusted. */
  put(bundle: SourceBundle): void {
    const { key } = bundle.source;
    const known = this.all.get(key);
    known?.source.stop();
    if (known) this.silence(known, 'lost');
    const patch = bundle.patch && new Patch(bundle.patch, (field) => this.board.def(field));
    const source: ByteSource = new ByteSource(
      bundle.source,
      bundle.map,
      (frame, at) => this.onFrame(source, patch, frame.readings, at),
      (bytes) => this.unsent.set(key, [...(this.unsent.get(key) ?? []), bytes]),
      this.logger,
    );
    this.apply(this.arbiter.remove(key));
    const links = bundle.source.enabled ? (bundle.patch?.links ?? []) : [];
    this.arbiter.put(
      key,
      bundle.source.back,
      links.map(({ field, priority = 1 }) => ({ field, priority })),
    );
    this.all.set(key, { bundle, source, patch });
    if (!known)
      this.hub.open(bytesStream(key), () => ({
        hex: hexOf([this.all.get(key)?.source.tail ?? new Uint8Array()]),
      }));
    source.start();
  }

  remove(key: string): void {
    const known = this.all.get(key);
    if (!known) return;
    known.source.stop();
    this.all.delete(key);
    this.silence(known, 'lost');
    this.apply(this.arbiter.remove(key));
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

  /** Gives a source back the fields that another holds since it was silent. */
  giveBack(key: string): void {
    this.apply(this.arbiter.giveBack(key, serverNow()));
  }

  /** Looks at every source's silence; gives true when the health of one changed. */
  look(): boolean {
    const now = serverNow();
    let changed = false;
    for (const feeding of this.all.values()) {
      if (!feeding.source.look(now)) continue;
      changed = true;
      const { health } = feeding.source;
      if (health === 'live')
        this.spread({ changed: [], touched: this.board.mark(feeding.source.doc.key, 'ok') });
      else this.silence(feeding, health === 'late' ? 'late' : 'lost');
    }
    const stopped = ![...this.board.fields].some(({ key }) => {
      const value = this.board.read(key);
      return isClock(value) && value.running;
    });
    const back = this.arbiter.tick(now, stopped);
    this.apply(back);
    return changed || back.length > 0;
  }

  stop(): void {
    clearInterval(this.timer);
    for (const { source } of this.all.values()) source.stop();
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
    const marked = this.board.mark(bundle.source.key, quality);
    this.spread({ changed, touched: [...new Set([...touched, ...marked])] });
  }

  private apply(changes: readonly Change[]): void {
    if (changes.length) this.spread(this.board.apply(changes, serverNow()));
  }

  private onFrame(source: ByteSource, patch: Patch | null, readings: readonly Reading[], at: number): void {
    if (!patch) return;
    const { changes, problems } = patch.changes(readings, at);
    const applied = this.board.apply(this.arbiter.offer(source.doc.key, changes, at), at);
    this.spread(applied);
    const trouble = problems[0] ?? applied.refused[0]?.reason;
    if (trouble === undefined) return;
    source.refused += problems.length + applied.refused.length;
    source.complain(trouble);
  }

  private sendBytes(): void {
    for (const [key, parts] of this.unsent) this.hub.publish(bytesStream(key), [{ hex: hexOf(parts) }]);
    this.unsent.clear();
  }
}

const hexOf = (parts: readonly Uint8Array[]) => Buffer.concat(parts).toString('hex');

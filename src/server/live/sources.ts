import { isByHand, readingName } from '../../core/source/source.ts';
import { own } from '../../core/board/own.ts';
import type { Board, Change } from '../../core/board/board.ts';
import { isClock, shifted } from '../../core/board/values.ts';
import { clockAt, stoppedClock } from '../../core/clock/clock.ts';
import { Arbiter } from '../../core/patch/arbiter.ts';
import { Patch } from '../../core/patch/patch.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { DocMap } from '../../core/tree/doc-map.ts';
import { sourceMemory, type IntakeMemory } from '../../core/tape/memory.ts';
import type { SourceEvent, TapeEntry } from '../../core/tape/tape.ts';
import type { DocumentRead } from '../../core/tree/read.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import type { ReadResult } from '../ingest/document/work.ts';
import type { SourceListener } from '../ingest/source-listener.ts';
import { openSource } from '../ingest/open-source.ts';
import type { Pad, RunningSource } from '../ingest/running-source.ts';
import { ByteStreams } from './byte-streams.ts';
import { endedClocks, handLinks, releaseFields, ownWords } from './hands.ts';
import type { SourceContext } from './source-context.ts';

type Word = Extract<Change, { value: unknown }>;

/** By how much a clock may differ and be taken over without a word, in ms. */
const LEAP = 1000;

/** A field that waits to go back to its source, as desks are told. */
const returning = ({ held, back }: { held: Word | null; back: Word }) => ({
  field: back.key,
  held: held?.value ?? null,
  back: back.value,
});

export interface Feeding {
  bundle: SourceBundle;
  source: RunningSource;
  patch: Patch | null;
}

/** All connected inputs: what they say becomes changes of the board, their silence stops their clocks. */
export class Sources {
  private readonly all = new Map<string, Feeding>();
  private readonly arbiter = new Arbiter((held, back, now) => this.jumps(held, back, now));
  private readonly bytes: ByteStreams;
  private readonly board: Board;

  /** The moment of a tape that is being replayed; null where time is that of the show. */
  private moment: number | null = null;
  private readonly now = () => this.moment ?? this.around.now();

  constructor(private readonly around: SourceContext) {
    this.board = around.board;
    this.bytes = new ByteStreams(around.hub, around.scheduler);
  }

  /** Adds what a recorder is to be told; it hears everything that sources say, in the order in which it counts. */
  recorder: ((source: string, said: SourceEvent, at: number) => void) | null = null;

  /** Starts a source, or starts it anew with what changed. Until it speaks again its fields are not trusted. */
  put(bundle: SourceBundle): void {
    this.during(this.now(), () => this.take(bundle));
  }

  private take(bundle: SourceBundle): void {
    const { key } = bundle.source;
    this.note(key, { kind: 'bundle', bundle });
    const known = this.all.get(key);
    const patch =
      bundle.patch &&
      new Patch(
        bundle.patch,
        (field) => this.board.def(field),
        (id) => readingName(bundle, id),
      );
    if (known && sameInput(known.bundle, bundle)) return this.goOn(known, bundle, patch);
    known?.source.stop();
    if (known) this.silence(known, 'lost');
    const source = this.make(bundle);
    this.apply(this.arbiter.remove(key));
    this.arbiter.put(key, bundle.source.back, bundle.source.enabled ? this.linksOf(bundle) : []);
    this.all.set(key, { bundle, source, patch });
    this.dropTables(key, bundle.document);
    this.bytes.open(key, () => this.all.get(key)?.source.frames?.tail ?? new Uint8Array());
    if (this.around.tape) return;
    if (source.pad && bundle.source.enabled) {
      const words = ownWords(source.pad, this.board);
      if (words.length) this.set(key, words);
    }
    source.start();
  }

  remove(key: string): void {
    this.during(this.now(), () => this.letGoOf(key));
  }

  private letGoOf(key: string): void {
    const known = this.all.get(key);
    if (!known) return;
    this.note(key, { kind: 'bundle', bundle: null });
    known.source.stop();
    this.all.delete(key);
    this.silence(known, 'lost');
    this.apply(this.arbiter.remove(key));
    this.dropTables(key, null);
    this.bytes.shut(key);
  }

  bundle(key: string): SourceBundle | undefined {
    return this.all.get(key)?.bundle;
  }

  get(key: string): RunningSource | undefined {
    return this.all.get(key)?.source;
  }

  bundles(): SourceBundle[] {
    return [...this.all.values()].map((f) => f.bundle);
  }

  states(): SourceState[] {
    return [...this.all].map(([key, f]) => f.source.state(this.arbiter.waiting(key).map(returning)));
  }

  /** The source that a field comes from, or would come from. */
  feeding(field: string): Feeding | undefined {
    const origin = this.board.state(field)?.origin;
    return this.all.get(origin ?? '') ?? [...this.all.values()].find((f) => f.patch?.linkTo(field));
  }

  /** The board has other fields than before, as another sport's: a pad is for those that there are now. */
  boardChanged(): void {
    for (const { bundle, source } of this.all.values()) {
      if (!source.pad || !bundle.source.enabled) continue;
      this.arbiter.change(bundle.source.key, bundle.source.back, this.linksOf(bundle));
      for (const field of source.pad.words) if (!this.board.def(field)) source.pad.words.delete(field);
    }
  }

  /** Gives a source back the fields that another holds since it was silent. */
  giveBack(key: string): void {
    this.during(this.now(), () => {
      this.note(key, { kind: 'give-back' });
      this.apply(this.arbiter.giveBack(key, this.now()));
      for (const hand of this.hands()) releaseFields(hand, this.arbiter);
    });
  }

  /** The live source whose word a hand's would not outweigh, by name; null where the hand may set the field. */
  aheadOf(hand: string, field: string): string | null {
    const ahead = this.arbiter.ahead(hand, field);
    return ahead === null ? null : (this.all.get(ahead)?.bundle.source.name ?? ahead);
  }

  /** Sets fields by hand. */
  press(key: string, changes: readonly Change[]): void {
    const set = changes.flatMap((c) => ('value' in c ? [{ field: c.key, value: c.value }] : []));
    this.during(this.now(), () => {
      this.note(key, { kind: 'press', set });
      this.set(key, changes);
    });
  }

  private set(key: string, changes: readonly Change[]): void {
    const hand = this.all.get(key)?.source.pad;
    if (!hand) return;
    const now = this.now();
    hand.press(
      changes.map((c) => c.key),
      now,
    );
    this.apply(this.arbiter.offer(key, changes, now));
  }

  /** Looks at a source's document at once; null for a source that has none. */
  async fetchNow(key: string): Promise<SourceState | null> {
    const found = this.all.get(key)?.source;
    if (!found?.documents) return null;
    await found.documents.fetchNow();
    found.look(this.now());
    return found.state([]);
  }

  /** The newest good document of a source, read by a map that is being made. Null where there is none. */
  tryMap(key: string, map: DocMap | null, most?: number): Promise<ReadResult> | null {
    return this.all.get(key)?.source.documents?.tryMap(map, most) ?? null;
  }

  /** Looks at every source's silence at `now`; gives true when that changed anything. */
  look(now: number): boolean {
    let changed = false;
    this.during(now, () => (changed = this.lookAt(now)));
    return changed;
  }

  private lookAt(now: number): boolean {
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
    let ended = false;
    for (const hand of this.hands()) {
      const over = endedClocks(hand, this.board, now);
      if (over.length) this.set(hand.doc.key, over);
      ended ||= over.length > 0;
    }
    const back = this.arbiter.tick(now, stopped);
    this.apply(back);
    for (const hand of this.hands()) releaseFields(hand, this.arbiter);
    return changed || ended || back.length > 0;
  }

  private note(source: string, said: SourceEvent): void {
    this.recorder?.(source, said, this.now());
  }

  /** Does something that has one time, `at`, whatever it calls. */
  private during(at: number, work: () => void): void {
    if (this.moment !== null) return work();
    this.moment = at;
    try {
      work();
    } finally {
      this.moment = null;
    }
  }

  /** All that is known of the sources and by them, with times counted from `zero`. */
  remember(zero: number): IntakeMemory {
    const sources = [...this.all].map(([key, { source, patch }]) => [
      key,
      { ...source.remember(zero), clocks: patch?.remember(zero) ?? [] },
    ]);
    return {
      board: this.board.remember(zero),
      arbiter: this.arbiter.remember(zero),
      sources: Object.fromEntries(sources) as IntakeMemory['sources'],
    };
  }

  /** The newest good document of each source that has one: with these a memory is whole. */
  newest(): { source: string; said: SourceEvent }[] {
    return [...this.all].flatMap(([key, { source }]) => {
      const said = source.documents?.newest;
      return said ? [{ source: key, said }] : [];
    });
  }

  /** Knows and shows what was known at a moment that now counts as `zero`. */
  recall(memory: IntakeMemory, zero: number): void {
    for (const [key, { source, patch }] of this.all) {
      const was = own(memory.sources, key);
      source.recall(was ?? sourceMemory(null, 'off', 0), zero);
      patch?.recall(was?.clocks ?? [], zero);
    }
    this.arbiter.recall(memory.arbiter, zero);
    this.around.spread(this.board.recall(memory.board, zero));
  }

  /**
   * Makes all that is known of the sources and by them something else, and what the game begins with where it is said:
   * sides exchanged, a new game, or what was before. Lines stay open; what they say next counts as ever.
   */
  reset(change: (memory: IntakeMemory) => IntakeMemory, zero = this.now()): void {
    const at = this.now();
    this.during(zero, () => this.recall(change(this.remember(zero)), zero));
    this.onReset?.(this.remember(at), at);
  }

  /** Is told when all that is known became something else, other than by what sources say. */
  onReset: ((memory: IntakeMemory, at: number) => void) | null = null;

  /** Takes what a tape says, as it was at its moment `at` (ms); a document is read first. */
  async replay(entry: Extract<TapeEntry, { kind: 'said' }>, at: number, zero: number): Promise<void> {
    const { said, source: key } = entry;
    const meanwhile = (work: () => void) => this.during(at, work);
    const source = this.all.get(key)?.source;
    if (said.kind === 'bundle')
      return meanwhile(() => (said.bundle ? this.put(said.bundle) : this.remove(key)));
    if (said.kind === 'give-back') return meanwhile(() => this.giveBack(key));
    if (said.kind === 'press') {
      const changes = said.set.map(({ field, value }) => ({
        key: field,
        value: shifted(value, zero),
        origin: key,
      }));
      return meanwhile(() => this.set(key, changes));
    }
    return source?.receive(said, meanwhile);
  }

  stop(): void {
    this.bytes.close();
    for (const { source } of this.all.values()) source.stop();
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
    const now = this.now();
    // A clock that nobody speaks for any more stands.
    const stopped = orphans.flatMap((field): Change[] => {
      const { value, origin } = this.board.state(field) ?? { value: null, origin: '' };
      if (!isClock(value) || !value.running) return [];
      return [{ key: field, value: stoppedClock(clockAt(value, now), value.direction, now), origin }];
    });
    this.apply([...changes, ...stopped]);
    this.around.spread({ changed: [], touched: this.board.orphan(orphans) });
    // A document speaks only when it changes: what it said holds for the new patch too.
    const last = known.source.documents && known.source.lastRead;
    if (last) this.onRead(known, { readings: last.readings, tables: [] }, this.now());
  }

  private make(bundle: SourceBundle): Feeding['source'] {
    const { source: doc } = bundle;
    const listener: SourceListener = {
      received: (said) => {
        this.note(doc.key, said);
        if (said.kind === 'bytes') this.bytes.push(doc.key, said.bytes);
      },
      read: (read, at) => {
        const feeding = this.all.get(doc.key);
        if (feeding?.source === source) this.onRead(feeding, read, at);
      },
      now: this.now,
      scheduler: this.around.scheduler,
      atOneTime: (work) => this.during(this.now(), work),
      log: this.around.logger,
    };
    const source = openSource(bundle, listener, this.around.reach, this.around.reader);
    return source;
  }

  private linksOf({ source, patch }: SourceBundle): { field: string; priority: number }[] {
    if (isByHand(source)) return handLinks(this.board);
    return (patch?.links ?? []).map(({ field, priority = 1 }) => ({ field, priority }));
  }

  private hands(): Pad[] {
    return [...this.all.values()].flatMap(({ source }) => source.pad ?? []);
  }

  /** A clock that is run by hand does not leap to what a controller says on its return: somebody chooses. */
  private jumps(held: Word, back: Word, now: number): boolean {
    if (!this.all.get(held.origin)?.source.pad) return false;
    const [a, b] = [held.value, back.value];
    if (!isClock(a) || !isClock(b)) return false;
    return a.running !== b.running || Math.abs(clockAt(a, now) - clockAt(b, now)) > LEAP;
  }

  /**
   * A clock may run only on its source's word: where no other source takes over, it stops at the last value that
   * was said.
   */
  private silence({ bundle, patch }: Feeding, quality: 'late' | 'lost'): void {
    const now = this.now();
    const { changed, touched } = this.board.apply(
      this.arbiter.silent(bundle.source.key, patch?.hold(now) ?? [], now),
      now,
    );
    this.around.spread({ changed, touched });
    this.mark(bundle.source.key, quality);
  }

  private mark(origin: string, quality: 'ok' | 'late' | 'lost'): void {
    const tables = this.board.tables.mark(origin, quality)
      ? this.board.tables.list().flatMap((t) => (t.origin === origin ? [t.key] : []))
      : [];
    this.around.spread({ changed: [], touched: this.board.mark(origin, quality), tables });
  }

  private dropTables(origin: string, map: DocMap | null): void {
    const kept = new Set(map?.tables.map((t) => t.key));
    const gone = this.board.tables.list().filter((t) => t.origin === origin && !kept.has(t.key));
    const changed = gone.flatMap((t) => this.board.tables.remove(t.key));
    if (gone.length) this.around.spread({ changed, touched: [], tables: gone.map((t) => t.key) });
  }

  private apply(changes: readonly Change[]): void {
    if (changes.length) this.around.spread(this.board.apply(changes, this.now()));
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
    this.around.spread({
      changed: [...applied.changed, ...put.flatMap((p) => p.tokens)],
      touched: applied.touched,
      tables: put.filter((p) => p.tokens.length).map((p) => p.key),
    });
    const all = [...problems, ...applied.refused.map((r) => r.reason), ...tables.flatMap((t) => t.problems)];
    if (all.length === 0) return;
    source.refused += all.length;
    source.report(all[0]!, at);
  }
}

/** True when two bundles listen to the same line and read it in the same way. */
function sameInput(a: SourceBundle, b: SourceBundle): boolean {
  const part = ({ source, map, document }: SourceBundle) =>
    // What silence is judged by says whether a silent connection is ended, so the line is opened anew for it.
    JSON.stringify([source.transport, source.enabled, source.limits.by ?? 'time', map, document]);
  return part(a) === part(b);
}

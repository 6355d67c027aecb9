import type { SourceBundle } from '../../core/source/source.ts';
import { eighth, type ShowTime } from '../../core/tape/show-time.ts';
import { lengthOf, type Part, type RehearsalState, type Tape, type TapeEntry } from '../../core/tape/tape.ts';
import type { Scheduler, Timer } from '../scheduler.ts';
import type { Sources } from '../live/sources.ts';
import type { BoardUpdate } from '../live/source-context.ts';
import { bundlesAt, replayEntry, stateBefore } from './replay.ts';

/** How often it is looked whether something is to be said, in ms. */
const LOOK_EVERY = 10;
/** After so many ms of a jump other work gets its turn. */
const TURN = 12;

/** What a rehearsal needs of the running Foothill. */
export interface RehearsalHost {
  scheduler: Scheduler;
  time: ShowTime;
  /** Sources that open no line, in place of those before; what they change goes to `spread`. */
  makeSources(spread: (s: BoardUpdate) => void): Sources;
  /** Sources of their own over a board that nobody sees; `close` ends them. */
  offAir(): { sources: Sources; close: () => void };
  /** Sends what changed to the pages; `jumped`: it did not happen one after the other. */
  spread(s: BoardUpdate, jumped?: boolean): void;
  /** Looks at the silence of the sources in use. */
  look(at: number): void;
  /** The sources as they are saved now. */
  bundles(): SourceBundle[];
  /** Something of the rehearsal itself changed. */
  told(): void;
}

/** Plays a tape in place of the real sources: at any speed, from anywhere, again and again. */
export class Rehearsal {
  sources: Sources;
  private zero = 0;
  private next = 0;
  private wanted: number | null = 0;
  private busy = false;
  private over = false;
  private gathered: { changed: Set<string>; touched: Set<string>; tables: Set<string> } | null = null;
  private readonly timer: Timer;
  private readonly length: number;
  private playing = true;
  private speed = 1;
  private loop: Part | null = null;

  constructor(
    readonly tape: Tape,
    private readonly key: string,
    private readonly maps: 'tape' | 'today',
    private readonly host: RehearsalHost,
  ) {
    this.length = lengthOf(tape);
    host.time.run(0);
    this.zero = host.time.now();
    this.sources = this.make(0);
    this.timer = host.scheduler.setInterval(() => void this.pump(), LOOK_EVERY);
    void this.pump();
  }

  get state(): RehearsalState {
    const { key, zero, speed, playing, loop, maps, length } = this;
    const { name } = this.tape.head;
    const seeking = this.wanted !== null;
    const position = this.wanted ?? Math.min(length, this.position);
    return { tape: key, name, length, zero, position, speed, playing, seeking, loop, maps };
  }

  play(): void {
    this.playing = true;
    if (this.wanted === null && this.next >= this.tape.entries.length) this.wanted = this.loop?.from ?? 0;
    this.run();
  }

  pause(): void {
    this.playing = false;
    this.run();
  }

  setSpeed(speed: number): void {
    this.speed = speed;
    this.run();
  }

  setLoop(part: Part | null): void {
    this.loop = part;
    this.host.told();
  }

  jump(to: number): void {
    this.wanted = Math.min(to, this.length);
    void this.pump();
  }

  stop(): void {
    this.over = true;
    this.host.scheduler.clear(this.timer);
    this.sources.stop();
    this.sendGathered();
    this.host.time.end();
  }

  private run(): void {
    this.host.time.run(this.playing && this.wanted === null ? this.speed : 0);
    this.host.told();
  }

  private get position(): number {
    return this.host.time.now() - this.zero;
  }

  /** The tape's sources as they are just before an entry. */
  private make(before: number): Sources {
    const sources = this.host.makeSources((s) => (this.gathered ? this.gather(s) : this.host.spread(s)));
    for (const bundle of this.bundles(before)) sources.put(bundle);
    return sources;
  }

  private bundles(before: number): SourceBundle[] {
    const own = bundlesAt(this.tape, before);
    if (this.maps === 'tape') return own;
    const today = this.host.bundles();
    const known = new Set(today.map((b) => b.source.key));
    return [...today, ...own.filter((b) => !known.has(b.source.key))];
  }

  private gather({ changed, touched, tables = [] }: BoardUpdate): void {
    for (const key of changed) this.gathered!.changed.add(key);
    for (const key of touched) this.gathered!.touched.add(key);
    for (const key of tables) this.gathered!.tables.add(key);
  }

  private sendGathered(): void {
    if (!this.gathered) return;
    const { changed, touched, tables } = this.gathered;
    this.gathered = null;
    this.host.spread({ changed: [...changed], touched: [...touched], tables: [...tables] }, true);
  }

  /** Says what is due, one entry after another: a document is read before what came after it is said. */
  private async pump(): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    try {
      while (!this.over) {
        if (this.wanted !== null) {
          await this.seek(this.wanted);
          continue;
        }
        if (!this.playing) break;
        const entry = this.tape.entries[this.next];
        const { position, loop } = this;
        if (entry && entry.at <= position && (!loop || entry.at < loop.to)) await this.say();
        else if (loop && position >= loop.to) this.wanted = loop.from;
        else if (!entry && position >= this.length) this.pause();
        else break;
      }
    } finally {
      this.busy = false;
    }
  }

  /** By today's maps, what was saved while the tape was recorded changes nothing. */
  private isSavedToday(entry: TapeEntry): boolean {
    return this.maps === 'today' && entry.kind === 'said' && entry.said.kind === 'bundle';
  }

  private async say(): Promise<void> {
    const entry = this.tape.entries[this.next++]!;
    if (!this.isSavedToday(entry))
      await replayEntry(entry, this.zero, this.sources, (at) => this.host.look(at));
  }

  /**
   * Goes to a moment: what was said until then is said where nobody sees it, and the board becomes what that led to in
   * one step.
   */
  private async seek(to: number): Promise<void> {
    const { time } = this.host;
    time.run(0);
    const { entries } = this.tape;
    const from = stateBefore(entries, to);
    this.host.told();
    const unseen = this.host.offAir();
    try {
      for (const bundle of this.bundles(from)) unseen.sources.put(bundle);
      let next = from;
      let since = performance.now();
      while (!this.over && next < entries.length && entries[next]!.at <= to) {
        const entry = entries[next++]!;
        if (!this.isSavedToday(entry))
          await replayEntry(entry, 0, unseen.sources, (at) => unseen.sources.look(at));
        if (performance.now() - since < TURN) continue;
        await new Promise((go) => setImmediate(go));
        since = performance.now();
        // Whoever drags the position along does not wait for where it was.
        if (this.wanted !== to) return;
      }
      if (this.over) return;
      this.show(to, next, unseen.sources);
      for (const { source, said } of unseen.sources.newest())
        await replayEntry({ kind: 'said', source, said, at: to }, this.zero, this.sources, () => {});
    } finally {
      unseen.close();
    }
    if (this.wanted === to) this.wanted = null;
    this.run();
  }

  /** Puts what is known of unseen sources at a moment on the board, all at once. */
  private show(to: number, next: number, unseen: Sources): void {
    const gathered = { changed: new Set<string>(), touched: new Set<string>(), tables: new Set<string>() };
    this.gathered = gathered;
    this.zero = eighth(this.host.time.now() - to);
    this.next = next;
    this.sources.stop();
    this.sources = this.make(next);
    this.sources.recall(unseen.remember(to), this.zero + to);
    this.sendGathered();
  }
}

import { LOOKED_AT } from '../../../core/tree/node.ts';
import { LRUCache } from 'lru-cache';
import type { Reading } from '../../../core/decode/reading.ts';
import { healthOf, retryWait, type Health } from '../../../core/source/health.ts';
import type { DocumentTransport, SourceDoc } from '../../../core/source/source.ts';
import { tracedKey, type CellAt } from '../../../core/trace/traced.ts';
import type { DocMap } from '../../../core/tree/doc-map.ts';
import type { TableRead } from '../../../core/tree/read.ts';
import type { SourceState } from '../../../core/wire/wire.ts';
import type { SourceMemory } from '../../../core/tape/memory.ts';
import type { SourceEvent } from '../../../core/tape/tape.ts';
import type { SourceListener } from '../source-listener.ts';
import type { Timer } from '../../scheduler.ts';
import { Overdue } from '../overdue.ts';
import { SourceStatus } from '../source-status.ts';
import type { DocumentReader } from './reader.ts';
import type { ReadResult } from './work.ts';
import type { LastRead, RunningSource, Whereabouts } from '../running-source.ts';

export interface Fetched {
  bytes: Uint8Array;
  /** Its media type as the sender names it. */
  type: string;
}

/** Looks at where documents come from. `fetch` gives null where nothing changed, and throws a DocumentProblem. */
export interface Fetcher {
  fetch(): Promise<Fetched | null>;
  /** The next fetch gives the document whether it changed or not. */
  forget(): void;
  /** Ends a fetch that is under way, which then throws. */
  abandon?(): void;
}

/** Its rate is counted over so many ms. */
const RATE_SPAN = 10_000;

/** How many cells are remembered as sought. */
const MOST_SOUGHT = 20;

/** The longest that a look may take beside the time that an address has, in ms: the reader's own, four times over. */
const LONGEST_READ = 60_000;

/** The longest wait between two tries at what fails, in ms. */
const LONGEST_WAIT = 30_000;

/** Whole documents, fetched or watched: what they say by their map, again whenever they change. */
export class DocumentSource implements RunningSource {
  readonly frames = null;
  readonly documents = this;
  readonly pad = null;
  private timer: Timer | null = null;
  private stopped = false;
  private looking = false;
  /** Which look it is: what comes of one that was given up counts no more. */
  private turn = 0;
  private readonly overdue: Overdue;
  private again = false;
  private tries = 0;
  private readonly status: SourceStatus;
  private good = 0;
  private bad = 0;
  private failing = false;
  private changedAt: number | null = null;
  refused = 0;
  /** The newest good document and its readings. */
  last: { fetched: Fetched; readings: Reading[]; at: number; format: string } | null = null;

  constructor(
    public doc: SourceDoc,
    readonly map: DocMap | null,
    private readonly fetcher: Fetcher,
    private readonly reader: DocumentReader,
    private readonly listener: SourceListener,
  ) {
    this.status = new SourceStatus(this, listener, RATE_SPAN);
    this.overdue = new Overdue(listener.scheduler);
  }

  start(): void {
    if (this.doc.enabled) void this.fetchNow();
  }

  stop(): void {
    this.stopped = true;
    this.fetcher.abandon?.();
    this.overdue.end();
    this.listener.scheduler.clear(this.timer);
  }

  /** The longest that a look may take, in ms: the time to fetch, and to be read after others. */
  private longest(): number {
    const { transport } = this.doc;
    return ('timeout' in transport ? transport.timeout : 0) + LONGEST_READ;
  }

  /** Looks at once, and waits for what comes of it. What is being asked already is asked anew: it may never answer. */
  async fetchNow(): Promise<void> {
    if (this.stopped) return;
    if (this.looking) {
      this.again = true;
      this.fetcher.abandon?.();
      return;
    }
    this.looking = true;
    const turn = ++this.turn;
    this.listener.scheduler.clear(this.timer);
    this.overdue.begin(this.longest(), () => {
      this.fetcher.abandon?.();
      void this.receive({ kind: 'trouble', text: 'The last look did not end; it is looked at again' });
      this.next();
    });
    try {
      const fetched = await this.fetcher.fetch();
      if (turn === this.turn)
        await this.receive(fetched ? { kind: 'document', ...fetched } : { kind: 'same' });
    } catch (error) {
      // What was abandoned for a new try is no trouble; if there is any, the new one meets it.
      if (turn === this.turn && !this.again)
        await this.receive({ kind: 'trouble', text: (error as Error).message });
    }
    if (turn === this.turn) this.next();
  }

  /** A look is over: the next one comes in its time. */
  private next(): void {
    this.turn++;
    this.overdue.end();
    this.looking = false;
    const { every } = this.doc.transport as DocumentTransport;
    const wait = this.again
      ? 0
      : this.failing
        ? Math.min(LONGEST_WAIT, Math.max(every, retryWait(this.tries)))
        : every;
    this.again = false;
    if (!this.stopped) this.timer = this.listener.scheduler.setTimeout(() => void this.fetchNow(), wait);
  }

  /**
   * Takes what was fetched, or what a tape says instead. A document is read first: `atMoment` then says when it counts,
   * by running what takes it in.
   */
  async receive(
    said: SourceEvent,
    atMoment: (take: () => void) => void = this.listener.atOneTime,
  ): Promise<void> {
    const read = said.kind === 'document' ? await this.read(said) : null;
    if (this.stopped) return;
    atMoment(() => {
      this.listener.received(said);
      if (said.kind === 'same') this.heard(0);
      else if (said.kind === 'trouble') this.failed(said.text);
      else if (typeof read === 'string') this.failed(read);
      else if (read && said.kind === 'document') this.take(said, read);
    });
  }

  /** The newest good document, as it was fetched. */
  get newest(): SourceEvent | null {
    return this.last && { kind: 'document', ...this.last.fetched };
  }

  get lastRead(): LastRead | null {
    return this.last;
  }

  remember(zero: number): SourceMemory {
    return this.status.remember(zero);
  }

  recall(memory: SourceMemory, zero: number): void {
    this.status.recall(memory, zero);
    this.failing = false;
  }

  get health(): Health {
    return this.status.health;
  }

  look(now: number): boolean {
    return this.status.look(now, () => healthOf(this.status.lastWord, now, this.limits()));
  }

  report(text: string): void {
    this.status.report(text);
  }

  /** The cells that were sought: in which document, and what was found; `busy` while the reader looks. */
  private readonly sought = new LRUCache<
    string,
    { of: object | null; found: Whereabouts | null; busy: boolean }
  >({ max: MOST_SOUGHT });

  /**
   * Where a cell of its tables stands in the newest document. It is sought in the reader's thread: until it is found the
   * answer is the one of the document before, or null.
   */
  whereIs(cell: CellAt): Whereabouts | null {
    const { last } = this;
    if (!last) return null;
    const key = tracedKey({ cell });
    const known = this.sought.get(key) ?? { of: null, found: null, busy: false };
    // Once for each document, and never twice at a time, however fast documents follow one another.
    if (known.of !== last && !known.busy) {
      this.sought.set(key, known);
      Object.assign(known, { of: last, busy: true });
      void this.reader
        .read({ ...last.fetched, map: this.map, look: 0, find: cell }, this.doc.key)
        .then(({ found }) => (known.found = found ? { ...found, format: last.format, at: last.at } : null))
        .catch(() => (known.found = null))
        .finally(() => (known.busy = false));
    }
    return known.found;
  }

  /** Reads the newest good document by another map, to be looked at while the map is made: so many of what repeats. */
  tryMap(map: DocMap | null, most = LOOKED_AT): Promise<ReadResult> | null {
    if (!this.last) return null;
    return this.reader.read({ ...this.last.fetched, map, look: most }, `${this.doc.key} looked at`);
  }

  state(waiting: SourceState['waiting'] = []): SourceState {
    return this.status.state({
      connected: !this.failing && this.status.lastWord !== null,
      changedAt: this.changedAt,
      counts: { good: this.good, badChecks: this.bad, skipped: 0, refused: this.refused },
      waiting,
    });
  }

  /** A document is silent when it was not fetched; one interval and its patience always belong to its limits. */
  private limits() {
    const { every } = this.doc.transport as DocumentTransport;
    const { late, lost } = this.doc.limits;
    return { late: late + every, lost: lost + every };
  }

  private async read({ bytes, type }: Fetched): Promise<ReadResult | string> {
    try {
      return await this.reader.read({ bytes, type, map: this.map, look: 0 }, this.doc.key);
    } catch (error) {
      return (error as Error).message;
    }
  }

  private take({ bytes, type }: Fetched, done: ReadResult): void {
    const now = this.listener.now();
    this.good++;
    this.changedAt = now;
    this.last = { fetched: { bytes, type }, readings: done.readings, at: now, format: done.format };
    this.listener.read({ readings: done.readings, tables: this.told(done.tables) }, now);
    this.heard(1);
  }

  /** How many rows each table had when it had any. */
  private readonly rows = new Map<string, number>();

  /** The tables as they count: one that is empty all at once says so, and keeps its last rows where that is wanted. */
  private told(tables: readonly TableRead[]): TableRead[] {
    return tables.flatMap((table) => {
      const before = this.rows.get(table.key) ?? 0;
      if (table.rows.length > 0) this.rows.set(table.key, table.rows.length);
      if (table.rows.length > 0 || before === 0) return [table];
      const def = this.map?.tables.find((t) => t.key === table.key);
      const problems = [`${def?.name ?? table.key}: 0 rows, ${before} before`, ...table.problems];
      if (def?.whenEmpty !== 'keep') return [{ ...table, problems }];
      this.report(`${problems[0]}; the last rows are kept`);
      return [];
    });
  }

  private failed(text: string): void {
    this.bad++;
    this.tries++;
    this.failing = true;
    // What could not be read is fetched anew: it may be the half of what is now whole.
    this.fetcher.forget();
    this.report(text);
  }

  /** `times`: how many documents were new. */
  private heard(times: number): void {
    this.tries = 0;
    this.failing = false;
    this.status.spoke(this.listener.now(), times);
  }
}

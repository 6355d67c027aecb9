import { LRUCache } from 'lru-cache';
import { FrameDecoder, newestOf, type Frame } from '../../core/decode/decoder.ts';
import { LineSplitter } from '../../core/decode/lines.ts';
import type { FrameMap, ReadingDef } from '../../core/decode/frame-map.ts';
import { asciiText } from '../../core/decode/reading.ts';
import { Heartbeat, lineHealth, retryWait, type Health } from '../../core/source/health.ts';
import {
  addressOf,
  type ByteTransport,
  type SourceBundle,
  type SourceDoc,
} from '../../core/source/source.ts';
import type { DocMap } from '../../core/tree/doc-map.ts';
import { findCell } from '../../core/tree/find.ts';
import { fromJson } from '../../core/tree/json.ts';
import type { TreeNode } from '../../core/tree/node.ts';
import { readDocument } from '../../core/tree/read.ts';
import { tracedKey, type CellAt } from '../../core/trace/traced.ts';
import type { SourceState } from '../../core/wire/wire.ts';
import type { SourceMemory } from '../../core/tape/memory.ts';
import type { SourceEvent } from '../../core/tape/tape.ts';
import type { SourceListener } from './source-listener.ts';
import type { Timer } from '../scheduler.ts';
import { openLine, type OpenLine } from './transport.ts';
import { Overdue } from './overdue.ts';
import { SourceStatus } from './source-status.ts';
import { LineScheduler } from './turns.ts';
import type { LastRead, RunningSource, Whereabouts } from './running-source.ts';

/** How much of what a source said last is kept for whoever looks at it, in bytes. */
const TAIL = 8192;

/** As many frames or lines that came together are shown one after another; of more the newest state counts. */
const ONE_BY_ONE = 8;
const MOST_LINES = 50;
/** Its rate is counted over so many ms. */
const RATE_SPAN = 2000;
/** A line that is not there within so many ms is given up and opened anew. */
const OPENING = 15_000;
const turns = new LineScheduler();

/** Turns a device's bytes into frames, over any transport, and opens the line again with growing waits. */
export class ByteSource implements RunningSource {
  readonly frames = this;
  readonly documents = null;
  readonly pad = null;
  private line: OpenLine | null = null;
  connected = false;
  readonly beat = new Heartbeat();
  private timer: Timer | null = null;
  private readonly overdue: Overdue;
  private tries = 0;
  private stopped = false;
  private readonly decoder: FrameDecoder | null;
  private readonly lines = new LineSplitter();
  private readonly map: FrameMap | null;
  private readonly document: DocMap | null;
  /** The addresses of messages that its readings are in. */
  private readonly addresses: ReadonlySet<string>;
  private goodLines = 0;
  private badLines = 0;
  private readonly status: SourceStatus;
  private badChecks = 0;
  /** Frames and lines that were overtaken by newer ones, and bytes that were let go unread. */
  private overtaken = 0;
  private dropped = 0;
  private readonly turn = turns.line(
    (bytes) => this.receive({ kind: 'bytes', bytes }),
    (bytes) => (this.dropped += bytes),
  );
  refused = 0;
  /** The newest good frame and when it came. */
  last: { frame: Frame; at: number } | null = null;
  /** The same for each address, where each message speaks of one thing. */
  private readonly lastOf = new Map<string, { frame: Frame; at: number }>();
  /** The newest line of JSON, where it speaks in such. */
  lastLine: (LastRead & { text: string; root: TreeNode }) | null = null;
  doc: SourceDoc;
  /** The newest bytes as they came, good or not. */
  tail = new Uint8Array(0);

  constructor(
    { source, map, document }: SourceBundle,
    private readonly listener: SourceListener,
    private readonly open = openLine,
  ) {
    this.doc = source;
    this.status = new SourceStatus(this, listener, RATE_SPAN);
    this.overdue = new Overdue(listener.scheduler);
    this.map = map;
    this.document = document;
    this.addresses = new Set(map?.readings.flatMap((r) => r.address ?? []) ?? []);
    // A serial line is overheard in the middle of whatever it says; a connection begins with it.
    this.decoder = map && new FrameDecoder(map, source.transport.kind === 'serial');
  }

  start(): void {
    if (!this.doc.enabled) return;
    const { key, transport, limits } = this.doc;
    // A line whose silence says nothing is not closed for it; the network's own keep-alive tells whether it stands.
    const silentAfter = limits.by && limits.by !== 'time' ? 0 : Math.max(5000, limits.lost * 2);
    const down = (reason: string | null) => {
      this.overdue.end();
      this.turn.drop();
      this.receive({ kind: 'line', up: false, ...(reason ? { text: reason } : {}) });
      this.openAgain(reason);
    };
    // Whoever is waited for to call may come at any time.
    if (!('mode' in transport && transport.mode === 'listen'))
      this.overdue.begin(OPENING, () =>
        down(`No connection to ${addressOf(transport)} within ${OPENING / 1000} s`),
      );
    this.line = this.open(transport as ByteTransport, silentAfter, {
      up: () => {
        this.overdue.end();
        this.receive({ kind: 'line', up: true });
        this.listener.log.info({ source: key, address: addressOf(transport) }, 'source connected');
      },
      bytes: (bytes) => this.turn.push(bytes),
      down,
    });
  }

  /** Takes what its line, or a tape in its place, says. */
  receive(said: SourceEvent, atMoment: (accept: () => void) => void = this.listener.atOneTime): void {
    atMoment(() => this.take(said));
  }

  get lastRead(): LastRead | null {
    return this.lastLine;
  }

  private take(said: SourceEvent): void {
    this.listener.received(said);
    if (said.kind === 'bytes') return this.receiveBytes(said.bytes);
    if (said.kind !== 'line') return;
    this.connected = said.up;
    if (said.up) return;
    if (said.text) this.report(said.text);
    this.decoder?.reset();
    this.lines.reset();
  }

  /** What it knows of what it hlistener, with times counted from `zero`. */
  remember(zero: number): SourceMemory {
    const held = Buffer.from((this.decoder ?? this.lines).held).toString('base64');
    return { ...this.status.remember(zero), held };
  }

  recall(memory: SourceMemory, zero: number): void {
    this.status.recall(memory, zero);
    this.connected = this.health === 'live';
    this.decoder?.reset();
    this.lines.reset();
    (this.decoder ?? this.lines).push(Buffer.from(memory.held, 'base64'));
  }

  /** The cells that were sought, and where they stand in the line that was the newest then. */
  private readonly sought = new LRUCache<string, { of: object; found: Whereabouts | null }>({ max: 20 });

  /** Where a cell of its tables stands in the newest line. */
  whereIs(cell: CellAt): Whereabouts | null {
    const line = this.lastLine;
    if (!line || !this.document) return null;
    const key = tracedKey({ cell });
    const known = this.sought.get(key);
    if (known?.of === line) return known.found;
    const found = findCell(line.root, this.document, cell);
    const whereabouts = found && { ...found, format: line.format, at: line.at };
    this.sought.set(key, { of: line, found: whereabouts });
    return whereabouts;
  }

  stop(): void {
    this.stopped = true;
    this.listener.scheduler.clear(this.timer);
    this.overdue.end();
    this.line?.close();
    this.turn.drop();
  }

  get health(): Health {
    return this.status.health;
  }

  get lastWord(): number | null {
    return this.status.lastWord;
  }

  look(now: number): boolean {
    return this.status.look(now, () => lineHealth(this, now, this.doc.limits));
  }

  report(text: string): void {
    this.status.report(text);
  }

  state(waiting: SourceState['waiting'] = []): SourceState {
    return this.status.state({
      connected: this.connected,
      counts: {
        ...(this.decoder?.counts ?? { good: this.goodLines, badChecks: this.badLines, skipped: 0 }),
        refused: this.refused,
        overtaken: this.overtaken,
        dropped: this.dropped,
      },
      waiting,
    });
  }

  private openAgain(reason: string | null): void {
    this.line?.close();
    this.line = null;
    if (this.stopped) return;
    const wait = retryWait(this.tries++);
    this.listener.log.warn({ source: this.doc.key, wait, reason }, 'source disconnected');
    this.timer = this.listener.scheduler.setTimeout(() => this.start(), wait);
  }

  private receiveBytes(bytes: Uint8Array): void {
    const now = this.listener.now();
    if (this.document) {
      const lines = this.lines.push(bytes);
      const late = Math.max(0, lines.length - MOST_LINES);
      this.overtaken += late;
      for (const line of lines.slice(late)) this.readLine(line, this.document, now);
    } else if (!this.decoder) {
      // Nothing reads these bytes yet; that they come is a word all the same.
      this.heard(now);
    } else {
      const frames = this.decoder.push(bytes);
      const newest = frames.at(-1);
      if (newest) {
        this.heard(now, frames.length);
        this.last = { frame: newest, at: now };
        this.keepByAddress(frames, now);
      }
      if (frames.length > ONE_BY_ONE) {
        this.overtaken += frames.length - 1;
        this.listener.read({ readings: newestOf(frames, this.map!), tables: [] }, now);
      } else for (const { readings } of frames) this.listener.read({ readings, tables: [] }, now);
      const { badChecks } = this.decoder.counts;
      const { lastBad } = this.decoder;
      if (badChecks > this.badChecks && lastBad)
        this.report(`A frame failed its check and was thrown away: ${asciiText(lastBad, 0, lastBad.length)}`);
      this.badChecks = badChecks;
    }
    this.keep(bytes);
  }

  private keepByAddress(frames: readonly Frame[], at: number): void {
    if (this.addresses.size === 0) return;
    for (const frame of frames) {
      const { address } = frame.parts;
      if (address !== null && this.addresses.has(address)) this.lastOf.set(address, { frame, at });
    }
  }

  /** The newest frame that could carry a reading, and when it came; null where none has come. */
  lastFor({ address }: ReadingDef): { frame: Frame; at: number } | null {
    return address === undefined ? this.last : (this.lastOf.get(address) ?? null);
  }

  private readLine(text: string, map: DocMap, now: number): void {
    try {
      const root = fromJson(JSON.parse(text));
      const read = readDocument(root, map);
      this.goodLines++;
      this.heard(now);
      this.lastLine = {
        text: text.slice(0, 4000),
        root,
        readings: read.readings,
        at: now,
        format: 'JSON line',
      };
      this.listener.read(read, now);
    } catch {
      this.badLines++;
      this.report(`A line is no JSON: ${text.slice(0, 60)}`);
    }
  }

  private heard(now: number, times = 1): void {
    this.tries = 0;
    this.status.spoke(now, times);
    this.beat.note(now);
  }

  private keep(bytes: Uint8Array): void {
    const joined = new Uint8Array(this.tail.length + bytes.length);
    joined.set(this.tail);
    joined.set(bytes, this.tail.length);
    this.tail = joined.slice(-TAIL);
  }
}

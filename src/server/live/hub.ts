import { readTraced } from '../../core/trace/read-traced.ts';
import { tracedKey, type Traced } from '../../core/trace/traced.ts';
import type { WebSocket } from 'ws';
import { machineTime, type Scheduler, type Timer } from '../scheduler.ts';
import {
  GonePages,
  LOOKS_ON,
  openPage,
  readFault,
  type Following,
  type Joiner,
  type SamePage,
} from './open-pages.ts';
import type { ClientMessage, OpenPage, Outcome, ShownRehearsal, Trace } from '../../core/wire/wire.ts';

/**
 * Above this many bytes waiting for one client, its newest snapshot not counted, it is skipped ahead: it gets a
 * snapshot once it has drained.
 */
const BEHIND = 512 * 1024;
const DRAIN_LOOK = 100;
/** For so long a snapshot is that of one moment, in ms, if nothing was told since. */
const SAME_MOMENT = 100;
/**
 * So long after the pages of outputs the desks are told, in ms: where they run on one machine, the audience's picture is drawn
 * first; and what comes of one action reaches a desk as one.
 */
const DESKS_AFTER = 10;
/** How often a client may ask in a second, and how much in advance; one that asks more is let go. */
const ASKS_A_SECOND = 50;
const ASKS_AT_ONCE = 200;

/**
 * A page that hears from the server within so many ms has a line on which packing costs more time than it saves. One of its last
 * answers is enough: a machine that is busy is late for that, and its line as fast as before.
 */
const NEAR = 3;
const LAST_ANSWERS = 4;

/** Does an action that a desk asks for; never throws. */
type Act = (action: unknown) => Promise<Outcome>;

const NOBODY: Joiner = { from: 'unknown', as: 'page' };
/** Whoever says nothing sensible within so many ms of joining is no page: each of ours asks for the time at once. */
const SPEAKS_WITHIN = 10_000;
/** What takes longer there and back is not believed, in ms. */
const LONGEST_TRIP = 60_000;

const AIR = 'air:';
/** The stream that the pages of an output follow. */
export const airStream = (output: string) => `${AIR}${output}`;
/** The stream that desks follow. */
export const DESK = 'desk';

interface Client extends Following {
  socket: WebSocket;
  /** How many bytes may wait for it. */
  most: number;
  watching: Traced | null;
  /** The trace that it was sent last, as text. */
  traced: string | null;
  /** It was not told by which time the show runs, since it was behind. */
  untold: boolean;
  /** How often it may still ask, as of when (ms). */
  asks: { left: number; at: number };
  /** How long its last questions took there and back, ms. */
  lately: number[];
  act: Act | undefined;
  /** Runs until it has said something sensible. */
  silence: Timer | null;
}

interface Stream {
  seq: number;
  clients: Set<Client>;
  snapshot: () => unknown;
  /** The snapshot of this moment, as text. */
  made: { text: string; length: number; at: number } | null;
  /** What desks are told in a moment: as one delta, which has its number already; and deltas for those that look on. */
  waiting: { ops: unknown[]; deltas: Buffer[] };
}

/** It has a fast line, and nothing waits for it. */
const isNear = ({ lately, socket }: Client): boolean =>
  socket.bufferedAmount === 0 && lately.some((rtt) => rtt < NEAR);

/** It is a desk that shows what the pages of an output show. */
const looksOn = ({ joiner }: Client): boolean => joiner.as === LOOKS_ON;

const noneWaits = (): Stream['waiting'] => ({ ops: [], deltas: [] });

const deltaOf = (seq: number, ops: readonly unknown[], at?: number): Buffer =>
  Buffer.from(JSON.stringify({ t: 'delta', seq, ops, at }));

/**
 * Sends what changed to the pages that follow. Each stream numbers its deltas without gaps; a client that asks
 * gets a snapshot; a slow one is never queued for without bound.
 */
export class Hub {
  private readonly streams = new Map<string, Stream>();
  private readonly drain: Timer;
  /** How many have joined so far. */
  private readonly gone = new GonePages();
  private clientCount = 0;
  /** Runs while something waits for the desks. */
  private soon: Timer | null = null;

  private rehearsal: ShownRehearsal | null = null;
  /** What is watched, by what it is of, and whether it would still be the same if it was made again. */
  private readonly traces = new Map<string, { text: string; isCurrent: () => boolean }>();

  constructor(private readonly scheduler: Scheduler = machineTime) {
    this.drain = scheduler.setInterval(() => this.catchUp(), DRAIN_LOOK);
  }

  /**
   * Opens a stream; `snapshot` must give the state that all deltas up to now led to. One that is open keeps its pages
   * and its number.
   */
  open(name: string, snapshot: () => unknown): void {
    const known = this.streams.get(name);
    if (known) known.snapshot = snapshot;
    else this.streams.set(name, { seq: 0, clients: new Set(), snapshot, made: null, waiting: noneWaits() });
  }

  /** Ends a stream and lets its pages go. */
  shut(name: string): void {
    const stream = this.streams.get(name);
    this.streams.delete(name);
    for (const { socket } of stream?.clients ?? []) socket.close(1001);
  }

  /** How many pages follow. */
  get size(): number {
    let size = 0;
    for (const { clients } of this.streams.values()) size += clients.size;
    return size;
  }

  has(name: string): boolean {
    return this.streams.has(name);
  }

  /** The number of the newest delta of a stream. */
  numberOf(name: string): number {
    return this.streams.get(name)?.seq ?? 0;
  }

  /** Tells a stream what changed; pages do it at a moment to come, server ms, where one is given. */
  publish(name: string, ops: readonly unknown[], at?: number): void {
    const stream = this.streams.get(name);
    if (!stream || ops.length === 0) return;
    const { waiting, clients } = stream;
    stream.made = null;
    if (waiting.ops.length === 0) stream.seq++;
    if (clients.size === 0) return;
    if (name === DESK) {
      for (const op of ops) waiting.ops.push(op);
      return this.tellDesksSoon();
    }
    // Made into bytes once, however many follow.
    const bytes = deltaOf(stream.seq, ops, at);
    let looking = false;
    for (const client of clients) {
      if (looksOn(client)) looking = true;
      else this.send(client, bytes);
    }
    if (!looking) return;
    waiting.deltas.push(bytes);
    this.tellDesksSoon();
  }

  private send(client: Client, bytes: Buffer): void {
    if (client.behind) return;
    if (client.socket.bufferedAmount > client.most) client.behind = true;
    else client.socket.send(bytes, { binary: false, compress: !isNear(client) });
  }

  private tellDesksSoon(): void {
    this.soon ??= this.scheduler.setTimeout(this.tellDesks, DESKS_AFTER);
  }

  /** Tells the desks all that waits for them, now. */
  tellDesks = (): void => {
    this.scheduler.clear(this.soon);
    this.soon = null;
    for (const stream of this.streams.values()) this.tellWaiting(stream);
  };

  /** Tells the desks what waits for them. */
  private tellWaiting(stream: Stream): void {
    const { ops, deltas } = stream.waiting;
    if (ops.length === 0 && deltas.length === 0) return;
    stream.waiting = noneWaits();
    if (ops.length) deltas.push(deltaOf(stream.seq, ops));
    for (const client of stream.clients)
      if (ops.length || looksOn(client)) for (const bytes of deltas) this.send(client, bytes);
  }

  /** Sends all pages of a stream its snapshot anew: after what is too large for a delta. */
  refresh(name: string): void {
    const stream = this.streams.get(name);
    if (!stream) return;
    stream.seq++;
    stream.made = null;
    // It is all in the snapshot.
    stream.waiting = noneWaits();
    for (const client of stream.clients) {
      if (client.socket.bufferedAmount > client.most) client.behind = true;
      else this.sendSnapshot(stream, client);
    }
  }

  /** Tells every page by which time the show runs. */
  setTime(rehearsal: ShownRehearsal | null): void {
    this.rehearsal = rehearsal;
    for (const stream of this.streams.values()) {
      this.tellWaiting(stream);
      for (const client of stream.clients) {
        client.untold = client.behind;
        if (!client.behind) client.socket.send(JSON.stringify({ t: 'time', rehearsal }));
      }
    }
  }

  /** The pages of outputs that are open, those that only look on at a desk not counted. */
  openPages(now: number): OpenPage[] {
    return [...this.streams].flatMap(([name, { clients }]) =>
      name.startsWith(AIR)
        ? [...clients].flatMap((c) =>
            c.joiner.as === LOOKS_ON ? [] : [openPage(name.slice(AIR.length), c, now)],
          )
        : [],
    );
  }

  /** The pages of outputs: those that are open, and those that were and are not any more. */
  pages = (now: number): { pages: OpenPage[]; gone: OpenPage[] } => ({
    pages: this.openPages(now),
    gone: this.gone.missed(now),
  });

  /** Every page that should be open: those that are, and those that were. */
  wanted = (now: number): SamePage[] => [...this.openPages(now), ...this.gone.absent];

  /** These pages were open before a restart: each is missed if it is not back soon. Those of outputs that went are not. */
  expect(pages: readonly SamePage[]): void {
    this.gone.expect(
      pages.filter((p) => this.streams.has(AIR + p.output)),
      this.scheduler.now(),
    );
  }

  /**
   * Lets a page follow a stream.
   * @param act what does the actions that a desk asks for
   */
  join(name: string, socket: WebSocket, joiner: Joiner = NOBODY, act?: Act): void {
    const stream = this.streams.get(name);
    if (!stream) return socket.close(1008, 'no such stream');
    const asks = { left: ASKS_AT_ONCE, at: this.scheduler.now() };
    const now = this.scheduler.now();
    const client: Client = {
      ...{ id: ++this.clientCount, joiner, since: now, asked: now, rtt: null, fault: null },
      socket,
      behind: false,
      most: BEHIND,
      watching: null,
      traced: null,
      untold: false,
      asks,
      lately: [],
      act: name === DESK ? act : undefined,
      silence: this.scheduler.setTimeout(() => socket.terminate(), SPEAKS_WITHIN),
    };
    const output = name.startsWith(AIR) && joiner.as !== LOOKS_ON ? name.slice(AIR.length) : null;
    if (output !== null) this.gone.came({ output, ...joiner });
    if (this.rehearsal) socket.send(JSON.stringify({ t: 'time', rehearsal: this.rehearsal }));
    // What waited for others is in its snapshot: it follows from then on.
    this.sendSnapshot(stream, client);
    stream.clients.add(client);
    socket.on('message', (data) => this.receive(name, stream, client, String(data)));
    socket.on('close', () => {
      stream.clients.delete(client);
      this.scheduler.clear(client.silence);
      const at = this.scheduler.now();
      if (output !== null && this.streams.has(name)) this.gone.left(openPage(output, client, at), at);
    });
    socket.on('error', () => socket.terminate());
  }

  /**
   * Tells those that watch what they watch: worked out once for all who watch the same thing, again only when something that
   * it read is another, and told only where it says something else than before.
   */
  tellWatchers(traceOf: (of: Traced) => { trace: Trace; isCurrent: () => boolean }): void {
    const watched = new Set<string>();
    for (const { clients } of this.streams.values())
      for (const client of clients) {
        const { watching, behind } = client;
        if (!watching) continue;
        const key = tracedKey(watching);
        if (!watched.has(key) && !this.traces.get(key)?.isCurrent()) {
          const { trace, isCurrent } = traceOf(watching);
          this.traces.set(key, { text: JSON.stringify({ t: 'trace', trace }), isCurrent });
        }
        watched.add(key);
        const { text } = this.traces.get(key)!;
        if (behind || client.traced === text) continue;
        client.traced = text;
        client.socket.send(text);
      }
    for (const key of this.traces.keys()) if (!watched.has(key)) this.traces.delete(key);
  }

  close(): void {
    this.scheduler.clear(this.drain);
    this.scheduler.clear(this.soon);
    for (const { clients } of this.streams.values()) for (const { socket } of clients) socket.close(1001);
  }

  private sendSnapshot(stream: Stream, client: Client): void {
    this.tellWaiting(stream);
    client.behind = false;
    const { text, length } = this.snapshotOf(stream);
    client.most = BEHIND + length;
    client.socket.send(text);
  }

  /** A stream's snapshot as text: made once for all who ask in the same moment, unless something is told in between. */
  private snapshotOf(stream: Stream): { text: string; length: number } {
    const now = this.scheduler.now();
    if (!stream.made || now - stream.made.at > SAME_MOMENT) {
      const text = JSON.stringify({ t: 'snapshot', seq: stream.seq, body: stream.snapshot() });
      stream.made = { text, length: Buffer.byteLength(text), at: now };
    }
    return stream.made;
  }

  /** Takes one of a client's asks away; false where it has none left. */
  private mayAsk({ asks }: Client): boolean {
    const now = this.scheduler.now();
    asks.left = Math.min(ASKS_AT_ONCE, asks.left + ((now - asks.at) * ASKS_A_SECOND) / 1000);
    asks.at = now;
    return --asks.left >= 0;
  }

  private receive(name: string, stream: Stream, client: Client, text: string): void {
    if (!this.mayAsk(client)) return client.socket.terminate();
    let message: ClientMessage;
    try {
      message = JSON.parse(text) as ClientMessage;
    } catch {
      return;
    }
    if (message?.t === 'snapshot') {
      // One that has not taken what it got before gets no more until it has.
      if (client.socket.bufferedAmount > 0) client.behind = true;
      else this.sendSnapshot(stream, client);
    } else if (message?.t === 'act') {
      const { action } = message;
      void client.act?.(action).then((outcome) => {
        client.socket.send(JSON.stringify({ t: 'acted', id: action?.id, outcome }), { compress: false });
      });
    } else if (message?.t === 'fault') {
      client.fault = readFault(message.fault, this.scheduler.now()) ?? client.fault;
    } else if (message?.t === 'watch') {
      // A trace says what sources say, which is for desks alone.
      if (name === DESK) Object.assign(client, { watching: readTraced(message.of), traced: null });
    } else if (message?.t === 'ping') {
      const now = this.scheduler.now();
      client.asked = now;
      const { rtt } = message;
      if (typeof rtt === 'number' && rtt >= 0 && rtt < LONGEST_TRIP) {
        client.rtt = rtt;
        client.lately = [...client.lately, rtt].slice(-LAST_ANSWERS);
      }
      if (client.socket.bufferedAmount <= client.most)
        client.socket.send(JSON.stringify({ t: 'pong', at: message.at, now }));
    } else return;
    // It said something sensible: it is a page.
    this.scheduler.clear(client.silence);
  }

  private catchUp(): void {
    for (const stream of this.streams.values()) {
      for (const client of stream.clients) {
        if (!client.behind || client.socket.bufferedAmount > 0) continue;
        if (client.untold) client.socket.send(JSON.stringify({ t: 'time', rehearsal: this.rehearsal }));
        client.untold = false;
        this.sendSnapshot(stream, client);
      }
    }
  }
}

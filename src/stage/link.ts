import { showTime } from '../core/tape/show-time.ts';
import type { ClientMessage, Outcome, ServerMessage, ShownRehearsal } from '../core/wire/wire.ts';

export interface LinkHandlers<Body, Op> {
  onSnapshot(body: Body): void;
  onOps(ops: Op[]): void;
  /** The server was lost (false) or is there again (true, after its snapshot was handed on). */
  onHere(here: boolean): void;
  /** A tape speaks in place of the sources; null: all is real. */
  onRehearsal?(rehearsal: ShownRehearsal | null): void;
  onOther?(message: Extract<ServerMessage<Body, Op>, { t: 'trace' }>): void;
}

export interface Link {
  /**
   * The time of the show now, in ms since the epoch, by the offset measured against the server: server time, or that
   * of a rehearsal.
   */
  serverNow(): number;
  /** Real server time now, whatever the show's. */
  realNow(): number;
  /** How late what the server sends is here, in ms: half of the last way there and back; null before that is known. */
  delay(): number | null;
  send(message: ClientMessage): void;
  /**
   * Asks for an action on the line that is open: it is there sooner than a request of its own. Null where there is no such
   * line or it is too long for one, or where the line ends before the answer: whether it was done is not known then, and the same
   * may be asked for again, under the same id.
   */
  act(action: { id: string }): Promise<Outcome | null>;
  /** Resolves once the stream has come to `number`, or after a second at most. */
  reached(number: number): Promise<void>;
  close(): void;
}

const PING_EVERY = 1000;
/** How long it is waited at most between two tries to connect, in ms: a picture should not wait for a server that is back. */
const SLOWEST_TRY = 400;
/**
 * Without a word for this long, in ms, the connection is taken for dead even if nobody closed it. On a slow line one long
 * message may take longer: three times as long as the last snapshot took is waited, and the most before any has come.
 */
const DEAD_AFTER = 3000;
const DEAD_AFTER_MOST = 20_000;
/** As many characters an action may have to go by the line, which takes no message above 8 kB. */
const SHORT = 2000;
/** Nothing waits longer for its moment, in ms, whatever the clocks say. */
const LATEST = 1500;

/**
 * Follows one stream of the server: a snapshot, then deltas numbered without gaps. A gap asks for a new
 * snapshot; a lost connection is made again, for as long as the page lives.
 * @param as what the page shows of an output: `page`, `key`, a colour behind it as `rrggbb`; `desk` where it only looks on
 */
export function openLink<Body, Op>(stream: string, handlers: LinkHandlers<Body, Op>, as = 'desk'): Link {
  const url = `${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/socket?stream=${encodeURIComponent(stream)}&as=${as}`;
  const epoch = () => performance.timeOrigin + performance.now();
  const offsets: { rtt: number; offset: number }[] = [];
  let offset = 0;
  let rtt: number | undefined;
  let rehearsal: ShownRehearsal | null = null;
  let told = false;
  let socket: WebSocket | null = null;
  let seq = -1;
  let tries = 0;
  let heard = 0;
  let begun = 0;
  let deadAfter = DEAD_AFTER_MOST;
  let closed = false;
  let here: boolean | null = null;
  let later: { ops: Op[]; at: number }[] = [];
  let waiting: { number: number; done: () => void }[] = [];
  /** By their ids, what the actions that are under way on this line wait for. */
  const acting = new Map<string, (outcome: Outcome | null) => void>();

  const setHere = (is: boolean) => {
    if (here !== is) handlers.onHere((here = is));
  };
  const send = (message: ClientMessage) => {
    if (socket?.readyState === WebSocket.OPEN) socket.send(JSON.stringify(message));
  };
  const realNow = () => epoch() + offset;
  const due = (at: number) => rtt === undefined || at <= realNow();
  /** Does what was told, at its moment and in the order in which it was told. */
  const perform = (ops: Op[], at: number) => {
    if (later.length === 0 && due(at)) return handlers.onOps(ops);
    later.push({ ops, at: Math.min(at, realNow() + LATEST) });
    if (later.length === 1) wait();
  };
  const wait = () =>
    setTimeout(() => {
      while (later[0] && due(later[0].at)) handlers.onOps(later.shift()!.ops);
      if (later[0]) wait();
    }, later[0]!.at - realNow());
  const receive = (event: MessageEvent<string>) => {
    heard = epoch();
    const message = JSON.parse(event.data) as ServerMessage<Body, Op>;
    if (message.t === 'delta') {
      if (seq < 0 || message.seq <= seq) return;
      if (message.seq !== seq + 1) {
        seq = -1;
        return send({ t: 'snapshot' });
      }
      seq = message.seq;
      perform(message.ops, message.at ?? 0);
    } else if (message.t === 'snapshot') {
      if (seq < 0)
        deadAfter = Math.min(DEAD_AFTER_MOST, Math.max(DEAD_AFTER, 3 * (performance.now() - begun)));
      seq = message.seq;
      // It has all that was told, also what was to be done later.
      later = [];
      // A server that says nothing of a rehearsal has none, whatever the one before said.
      if (!told && rehearsal) handlers.onRehearsal?.((rehearsal = null));
      handlers.onSnapshot(message.body);
      setHere(true);
    } else if (message.t === 'pong') {
      const now = epoch();
      rtt = now - message.at;
      offsets.push({ rtt, offset: message.now - (message.at + now) / 2 });
      if (offsets.length > 8) offsets.shift();
      offset = offsets.reduce((best, o) => (o.rtt < best.rtt ? o : best)).offset;
    } else if (message.t === 'time') {
      told = true;
      handlers.onRehearsal?.((rehearsal = message.rehearsal));
    } else if (message.t === 'acted') {
      acting.get(message.id)?.(message.outcome);
      acting.delete(message.id);
    } else handlers.onOther?.(message);
    for (const w of waiting) if (w.number <= seq) w.done();
    waiting = waiting.filter((w) => w.number > seq);
  };
  const connect = () => {
    if (closed) return;
    const mine = new WebSocket(url);
    socket = mine;
    seq = -1;
    told = false;
    heard = epoch();
    begun = performance.now();
    mine.onopen = () => {
      tries = 0;
      send({ t: 'ping', at: epoch() });
    };
    mine.onmessage = receive;
    mine.onclose = () => {
      if (socket !== mine) return;
      socket = null;
      for (const done of acting.values()) done(null);
      acting.clear();
      setHere(false);
      setTimeout(connect, Math.min(SLOWEST_TRY, 100 * 2 ** tries++));
    };
  };
  const beat = setInterval(() => {
    if (socket && epoch() - heard > deadAfter) socket.onclose?.(new CloseEvent('close'));
    else send({ t: 'ping', at: epoch(), ...(rtt === undefined ? {} : { rtt }) });
  }, PING_EVERY);
  connect();

  return {
    serverNow: () => showTime(rehearsal, epoch() + offset),
    realNow,
    delay: () => (rtt === undefined ? null : rtt / 2),
    send,
    act: (action) => {
      const text = JSON.stringify({ t: 'act', action });
      if (socket?.readyState !== WebSocket.OPEN || text.length > SHORT) return Promise.resolve(null);
      socket.send(text);
      return new Promise((done) => acting.set(action.id, done));
    },
    reached: (number) =>
      new Promise((done) => {
        if (seq >= number) return done();
        waiting.push({ number, done });
        setTimeout(done, 1000);
      }),
    close: () => {
      closed = true;
      clearInterval(beat);
      socket?.close();
    },
  };
}

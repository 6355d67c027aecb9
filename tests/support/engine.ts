import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { pino } from 'pino';
import { afterEach } from 'vitest';
import type { WebSocket } from 'ws';
import { encodeFrame } from '../../src/sim/frame.ts';
import { newGame, type GameState } from '../../src/sim/game.ts';
import type { Answered, Memory, Saved, Store, Version } from '../../src/server/store/store.ts';
import { emptyLane } from '../../src/core/show/show.ts';
import type { TapeInfo } from '../../src/core/tape/tape.ts';
import { readBytes } from '../../src/server/ingest/document/work.ts';
import type { DocumentReader } from '../../src/server/ingest/document/reader.ts';
import { shrunk } from '../../src/server/media/small.ts';
import { inspect } from '../../src/server/media/inspect.ts';
import { Engine } from '../../src/server/live/engine.ts';
import { loadWorld, type Shipped } from '../../src/server/live/world.ts';
import { readHostPolicy } from '../../src/server/ingest/document/hosts.ts';
import type { FakeTime } from './fake-time.ts';
import { CONTROLLER, MemoryLine } from './memory-line.ts';

export const read = (path: string) =>
  JSON.parse(readFileSync(new URL(`../../data/${path}`, import.meta.url), 'utf8')) as unknown;
/** The documents of a folder; none where there is no such folder. */
export const folder = (path: string) =>
  (existsSync(new URL(`../../data/${path}`, import.meta.url))
    ? readdirSync(new URL(`../../data/${path}`, import.meta.url))
    : []
  ).map((f) => read(`${path}/${f}`));
const show = {
  lanes: (read('demo/show.json') as Pick<Saved, 'lanes'>).lanes.map((l) => ({ ...emptyLane(l), ...l })),
};
/** When a source that says nothing more is late and lost, in ms: soon, for tests of just that. */
export const SOON = { late: 300, lost: 600 };
/** Never within a test: on a busy machine between two words of a source more passes than on any that is not. */
const NEVER = { late: 60_000, lost: 120_000 };

interface Kept {
  key: string;
  text: string;
}

/** A store that keeps nothing and fails when told to. */
export class FakeStore {
  ok = true;
  full = false;
  readonly room = { left: null };
  answer: 'done' | Answered | Error = 'done';
  answered: Answered[] = [];
  committed: unknown[] = [];
  board: Saved['board'] = [];
  constructor(
    private readonly port: number,
    private readonly extra: Record<string, unknown[]> = {},
    private readonly limits = NEVER,
  ) {}
  /** The documents of a kind, as they are kept. */
  documents(kind: string): Promise<unknown[]> {
    const demo: Record<string, () => unknown[]> = {
      profile: () => [read('basic/profile/box-lacrosse.json')],
      setting: () => [],
      output: () => folder('basic/output'),
      source: () =>
        [read('demo/source/controller.json')].map((s) => ({
          ...(s as object),
          limits: this.limits,
          transport: { kind: 'tcp', host: '127.0.0.1', port: this.port },
        })),
    };
    return Promise.resolve([...(demo[kind]?.() ?? folder(`demo/${kind}`)), ...(this.extra[kind] ?? [])]);
  }
  /** What is extra and a text is kept as just that. */
  async kept(kind: string): Promise<Kept[]> {
    const cut = this.spoilt.has(kind)
      ? ({ key, text }: Kept) => ({ key, text: text.slice(0, -9) })
      : undefined;
    const kept = await this.whole(kind);
    return cut ? kept.map(cut) : kept;
  }
  /** The kinds of which all documents are cut off. */
  readonly spoilt = new Set<string>();
  private async whole(kind: string): Promise<Kept[]> {
    return (await this.documents(kind)).map((doc, i) =>
      typeof doc === 'string'
        ? { key: `text-${i}`, text: doc }
        : { key: (doc as { key?: string }).key ?? '', text: JSON.stringify(doc) },
    );
  }
  readonly tapeInfos = new Map<string, TapeInfo>();
  readonly tapeBytes = new Map<string, Uint8Array[]>();
  tapes = () => Promise.resolve([...this.tapeInfos.values()]);
  putTapePart = (tape: string, { part, bytes }: { part: number; bytes: Uint8Array }) => {
    const parts = this.tapeBytes.get(tape) ?? [];
    parts[part] = bytes;
    this.tapeBytes.set(tape, parts);
    return Promise.resolve();
  };
  putTape = (info: TapeInfo, part?: { part: number; bytes: Uint8Array }) => {
    this.tapeInfos.set(info.key, info);
    return part ? this.putTapePart(info.key, part) : Promise.resolve();
  };
  async *tapeParts(tape: string) {
    yield* this.tapeBytes.get(tape) ?? [];
    await Promise.resolve();
  }
  purgeTapes = () => Promise.resolve();
  media = () => Promise.resolve([]);
  content = () => Promise.resolve(null);
  putContent = () => Promise.resolve();
  load(): Promise<Saved> {
    return Promise.resolve({
      ...structuredClone(show),
      ...{ pins: [], board: [], log: [], past: this.past },
      ...this.remembered(),
      answered: this.answered,
    });
  }
  private readonly memory = new Map<string, Memory>();
  /** What the board remembers beside its values. */
  protected remembered(): Pick<Saved, 'tables' | 'rotations'> {
    const all = structuredClone([...this.memory.values()]);
    return {
      tables: all.flatMap((m) => (m.kind === 'table' && m.body) || []),
      rotations: new Map(all.flatMap((m) => (m.kind === 'rotation' && m.body ? [[m.key, m.body]] : []))),
    };
  }
  past: Saved['past'] = [];
  readonly versions: Version[] = [];
  revisions = () => Promise.resolve(new Map<string, number>());
  version = (kind: string, key: string, revision: number) => {
    // As a database that is asked for nothing in particular.
    if (typeof key !== 'string') throw new Error('WHERE parameter "key" has invalid "undefined" value');
    const is = (v: Version) => v.kind === kind && v.key === key && v.revision === revision;
    return Promise.resolve(this.versions.findLast(is)?.body ?? null);
  };
  commit(
    action: unknown,
    change: unknown,
    undo: unknown,
    versions: readonly Version[],
  ): Promise<'done' | Answered> {
    if (this.answer instanceof Error) return Promise.reject(this.answer);
    this.committed.push({ action, change, undo });
    this.versions.push(...structuredClone(versions));
    return Promise.resolve(this.answer);
  }
  saveBoard(rows: Saved['board'], memory: readonly Memory[] = []): Promise<void> {
    this.board.push(...rows);
    for (const m of structuredClone(memory)) this.memory.set(`${m.kind}/${m.key}`, m);
    return Promise.resolve();
  }
}

export class FakePage {
  bufferedAmount = 0;
  private readonly got: { t: string; seq: number; body?: unknown; ops?: unknown[]; trace?: unknown }[] = [];
  private handler: (data: string) => void = () => {};
  /** What waits for desks is told before it is looked at. */
  constructor(private readonly tellDesks = () => {}) {}
  get messages() {
    this.tellDesks();
    return this.got;
  }
  send(text: string) {
    this.got.push(JSON.parse(text) as FakePage['messages'][0]);
  }
  on(event: string, handler: (data: string) => void) {
    if (event === 'message') this.handler = handler;
  }
  say(message: object) {
    this.handler(JSON.stringify(message));
  }
  close() {}
  terminate() {}
  ops<T>(): T[] {
    return this.messages.flatMap((m) => (m.ops ?? []) as T[]);
  }
}

let closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.reverse()) await close();
  closing = [];
});

/** What ships, as a start reads it. */
const shipped: Shipped = (kind) => Promise.resolve(folder(`basic/${kind}`) as never);

/** An engine that is started on a store; it is stopped when the test is over. */
export async function engineOn(
  store: FakeStore,
  { line = new MemoryLine(), time }: { line?: MemoryLine; time?: FakeTime } = {},
): Promise<Engine> {
  const engine = new Engine(
    await loadWorld(store as unknown as Store, shipped),
    store as unknown as Store,
    pino({ level: 'silent' }),
    { hosts: readHostPolicy(undefined), folders: [], openLine: line.open },
    // Threads are of the built engine; here all is read in this one.
    { read: readBytes, close: () => {} } as unknown as DocumentReader,
    { inspect, shrunk, close: () => {} },
    time,
  );
  await engine.start();
  closing.push(() => engine.stop());
  return engine;
}

/**
 * An engine with a controller that speaks when told to; `limits` says from when on its silence counts. With a `time` of its own
 * nothing passes but what the test lets pass.
 */
export async function setUp(extra: Record<string, unknown[]> = {}, limits = NEVER, time?: FakeTime) {
  const line = new MemoryLine();
  const store = new FakeStore(CONTROLLER, extra, limits);
  const engine = await engineOn(store, { line, ...(time && { time }) });
  const page = (stream: string) => {
    const fake = new FakePage(engine.hub.tellDesks);
    engine.hub.join(stream, fake as unknown as WebSocket);
    return fake;
  };
  const state = newGame();
  const frame = (change: (s: GameState) => void = () => {}) => {
    change(state);
    line.say(encodeFrame(state));
  };
  let n = 0;
  const act = (action: object) => engine.act({ id: `action-${n++}`, ...action });
  return { engine, store, line, page, frame, act, air: page('air:broadcast'), desk: page('desk') };
}

import type { Logger } from 'pino';
import { Board } from '../../core/board/board.ts';
import { MEDIA_TOKEN } from '../../core/media/media.ts';
import { Resolver } from '../../core/resolve/resolver.ts';
import { applyShow, Refusal, type Item, type Lane, type Show } from '../../core/show/show.ts';
import { Derivations } from '../../core/derive/derivations.ts';
import type {
  AirItem,
  AirOp,
  AirSnapshot,
  BoardField,
  DeskOp,
  DeskSnapshot,
  LogLine,
} from '../../core/wire/wire.ts';
import { readAction, type AnyRequest } from '../http/requests.ts';
import { StoreDown, type Store, type StoreChange } from '../store/store.ts';
import { readHostPolicy, type HostPolicy } from '../ingest/document/hosts.ts';
import { Library } from '../media/library.ts';
import { Hub, serverNow } from './hub.ts';
import { deskTables } from './tables.ts';
import { BoardSaver } from './board-saver.ts';
import { decideRequest } from './decisions.ts';
import { carryOutDocuments, playGame, type Living } from './documents.ts';
import { describe } from './describe.ts';
import { Sources, type Spread } from './sources.ts';
import { traceOf } from './trace.ts';
import type { World } from './world.ts';

/**
 * What came of an action: done, with the number of the desks' stream that has it; or a sentence that says why not.
 */
export type Outcome = { ok: true; text: string; seq: number } | { ok: false; status: number; reason: string };

const HEALTH_LOOK = 100;
const SOURCES_EVERY = 500;
const TRACE_EVERY = 200;
const SAVE_EVERY = 1000;
const LOG_LENGTH = 40;
const DESK = 'desk';

/**
 * The running Foothill: sources feed the board, the board feeds what is on air and what operators see, and
 * operators' actions go through the database first. One way: bytes, readings, changes, layers, pages.
 */
export class Engine {
  readonly hub = new Hub();
  readonly board: Board;
  readonly startedAt = serverNow();
  readonly library: Library;
  private readonly picture = (path: string) => this.library.index.address(path);
  private readonly resolver: Resolver;
  private readonly show: Show = { items: new Map(), lanes: new Map() };
  private readonly sources: Sources;
  private readonly derivations: Derivations;
  private readonly log: LogLine[] = [];
  private readonly saver: BoardSaver;
  private readonly timers: NodeJS.Timeout[] = [];
  private queue: Promise<unknown> = Promise.resolve();

  constructor(
    readonly world: World,
    private readonly store: Store,
    private readonly logger: Logger,
    hosts: HostPolicy = readHostPolicy(undefined),
  ) {
    this.library = new Library(store);
    this.board = new Board(world.profile.fields);
    this.resolver = new Resolver(this.board, this.picture);
    this.saver = new BoardSaver(this.board, store, logger);
    this.derivations = new Derivations(this.board, this.picture);
    world.takenTables = () =>
      this.board.tables.list().flatMap((t) => (t.origin === 'derived' ? [] : [t.key]));
    for (const zone of world.output.zones)
      this.show.lanes.set(zone.key, { zone: zone.key, next: null, onAir: null });
    this.sources = new Sources(this.board, this.hub, (spread) => this.spread(spread), hosts, logger);
    this.hub.open(DESK, () => this.deskSnapshot());
    this.hub.open(this.airStream, () => this.airSnapshot());
    for (const text of world.problems) logger.error(text);
  }

  /** Brings back what was on air, what was pinned and what the board last said, then opens the sources. */
  async start(): Promise<void> {
    const saved = await this.store.load();
    await this.library.load();
    for (const item of saved.items) this.show.items.set(item.id, item);
    for (const lane of saved.lanes) if (this.show.lanes.has(lane.zone)) this.show.lanes.set(lane.zone, lane);
    this.log.push(...saved.log);
    const now = serverNow();
    this.board.apply(
      saved.board.map(({ field, value, origin }) => ({ key: field, value, origin })),
      now,
    );
    for (const origin of new Set(saved.board.map((b) => b.origin))) this.board.mark(origin, 'lost');
    if (this.world.game) playGame(this.living, this.world.game, now);
    for (const derived of [...this.world.profile.derived, ...this.world.derivedDocs]) {
      const refused = this.derivations.refuse(derived);
      if (refused) this.logger.error(refused);
      else this.derivations.put(derived, now);
    }
    this.board.apply(
      saved.pins.map(({ field, value }) => ({ key: field, pin: value })),
      now,
    );
    for (const lane of this.show.lanes.values()) this.mount(lane);
    for (const bundle of this.world.bundles) this.sources.put(bundle);
    this.every(HEALTH_LOOK, () => {
      if (this.sources.look()) this.desk({ op: 'sources', sources: this.sourceStates() });
    });
    this.every(HEALTH_LOOK, () => this.spread(this.derivations.tick(serverNow())));
    this.every(SOURCES_EVERY, () => this.desk({ op: 'sources', sources: this.sourceStates() }));
    this.every(TRACE_EVERY, () => this.sendTraces());
    this.every(SAVE_EVERY, () => void this.saver.save());
  }

  async stop(): Promise<void> {
    for (const timer of this.timers) clearInterval(timer);
    this.sources.stop();
    this.hub.close();
    await this.queue;
    await this.saver.save();
  }

  get airStream(): string {
    return `air:${this.world.output.key}`;
  }

  /** What comes in: for the endpoints that look at it. */
  get incoming(): Pick<Sources, 'fetchNow' | 'tryMap' | 'bundle'> {
    return this.sources;
  }

  get databaseOk(): boolean {
    return this.store.ok;
  }

  sourceStates() {
    return this.sources.states();
  }

  /** Tells the desks that the database was lost or is back. */
  databaseChanged(ok: boolean): void {
    this.desk({ op: 'database', ok });
  }

  /** Does one action as a page sent it, after those that came before it. Never throws. */
  act(body: unknown): Promise<Outcome> {
    const request = readAction(body);
    if (typeof request === 'string') return Promise.resolve({ ok: false, status: 400, reason: request });
    const outcome = this.queue.then(() => this.perform(request));
    this.queue = outcome;
    return outcome;
  }

  private async perform(request: AnyRequest): Promise<Outcome> {
    const at = serverNow();
    try {
      const { show, board, world, sources, derivations, library } = this;
      const now = { show, board, world, sources, derivations, library };
      if (request.kind === 'media') await this.refuseLostContent(request.entry);
      const { change, undo } = decideRequest(now, request, at);
      const text = describe(request, this.show, this.board);
      const { id, kind, ...body } = request;
      // What is set by hand is committed with its values: no older batch may be written over them.
      const commit = () => this.store.commit({ id, kind, body, text, at }, change, undo);
      const done = await (change.hand ? this.saver.alone(commit) : commit());
      if (done === 'again') return { ok: true, text, seq: 0 };
      this.carryOut(change);
      const line = { at, text };
      this.log.push(line);
      if (this.log.length > LOG_LENGTH) this.log.shift();
      this.desk({ op: 'log', line });
      this.logger.info({ action: kind, id, ...body }, text);
      return { ok: true, text, seq: this.hub.numberOf(DESK) };
    } catch (error) {
      if (error instanceof Refusal) return { ok: false, status: 409, reason: error.message };
      if (error instanceof StoreDown) {
        return {
          ok: false,
          status: 503,
          reason:
            'The database is not answering, so nothing was changed. What is on air goes on. Try again when it is back.',
        };
      }
      this.logger.error({ err: error }, 'an action failed');
      return {
        ok: false,
        status: 500,
        reason: 'Something went wrong on the server, so nothing was changed.',
      };
    }
  }

  /** An entry of the library must name a content that is there. */
  private async refuseLostContent(entry: object | null | undefined): Promise<void> {
    const { hash } = (entry ?? {}) as { hash?: string };
    if (hash !== undefined && !(await this.library.has(hash)))
      throw new Refusal('Its content is not in the library; bring the file in again.');
  }

  private carryOut(change: StoreChange): void {
    applyShow(this.show, change);
    if (change.item) this.desk({ op: 'item', item: change.item });
    if (change.lane) {
      const { lane } = change;
      const item = this.mount(lane);
      if (item) this.air({ op: 'take', item });
      else if (!lane.onAir) this.air({ op: 'clear', zone: lane.zone });
      this.desk({ op: 'lane', lane });
    }
    if (change.source && 'put' in change.source) {
      const bundle = change.source.put;
      this.sources.put(bundle);
      this.desk({ op: 'source', bundle });
    } else if (change.source) {
      const { key } = change.source.remove.source;
      this.sources.remove(key);
      this.desk({ op: 'source-gone', key });
    }
    if (change.media) {
      this.library.put(change.media.path, change.media.entry);
      this.spread({ changed: [MEDIA_TOKEN], touched: [] });
      this.hub.refresh(DESK);
    }
    if (change.documents) {
      this.spread(carryOutDocuments(this.living, change.documents, serverNow()));
      this.sources.boardChanged();
      this.hub.refresh(DESK);
    }
    if (change.hand) this.sources.press(change.hand.source, change.hand.changes);
    if (change.giveBack) this.sources.giveBack(change.giveBack);
    if (change.source || change.giveBack || change.hand)
      this.desk({ op: 'sources', sources: this.sourceStates() });
    if (change.pin) {
      const { pin } = change;
      const key = pin.field;
      this.spread(
        this.board.apply(['release' in pin ? { key, release: true } : { key, pin: pin.value }], serverNow()),
      );
    }
  }

  /** What is mounted in each zone, with when it was taken: a lane that only changed its next is not taken anew. */
  private readonly mounted = new Map<string, number>();

  /** Follows what a lane has on air; gives what an air page needs when that is new there. */
  private mount(lane: Lane): AirItem | null {
    const { zone, onAir } = lane;
    if (!onAir) {
      this.resolver.unmount(zone);
      this.mounted.delete(zone);
      return null;
    }
    if (this.mounted.get(zone) === onAir.takenAt) return null;
    this.mounted.set(zone, onAir.takenAt);
    return this.airItem(lane);
  }

  private airItem({ zone, onAir }: Lane): AirItem | null {
    const item = onAir && this.show.items.get(onAir.item);
    const template = item && this.world.templates.get(item.template);
    const box = this.world.output.zones.find((z) => z.key === zone);
    if (!onAir || !item || !template || !box) return null;
    const layout = template.layouts[0]!;
    const states = this.resolver.mount(zone, layout, onAir.inputs);
    const { x, y, width, height } = box;
    return {
      mount: zone,
      zone,
      box: { x, y, width, height },
      item: item.id,
      template: template.key,
      layout,
      states,
    };
  }

  /** Sends what an apply changed: to the pages on air first, then to the desks. */
  private spread(first: Spread): void {
    const more = this.derivations.react(first.changed, serverNow());
    const changed = [...first.changed, ...more.changed];
    const touched = [...first.touched, ...more.touched];
    const tables = [...(first.tables ?? []), ...more.tables];
    this.tellProblems();
    const deltas = this.resolver.touch(changed);
    if (deltas.length) this.air({ op: 'layers', deltas });
    if (tables.length) this.desk({ op: 'tables', ...deskTables(this.board, tables) });
    if (touched.length === 0) return;
    this.desk({ op: 'fields', fields: touched.map((key) => this.boardField(key)) });
    this.saver.note(touched);
  }

  private told = '{}';

  /** Tells the desks what went wrong in what is derived, when that is news. */
  private tellProblems(): void {
    const problems = Object.fromEntries(this.derivations.problems);
    const text = JSON.stringify(problems);
    if (text === this.told) return;
    this.told = text;
    this.desk({ op: 'problems', problems });
  }

  private get living(): Living {
    const { board, world, derivations } = this;
    return { board, world, derivations };
  }

  private sendTraces(): void {
    for (const { key, send } of this.hub.watchers()) send({ t: 'trace', trace: this.trace(key) });
  }

  trace(key: string) {
    const nameOf = (of: string) => ({
      name: this.board.def(of)?.label ?? this.board.tables.get(of)?.name ?? of,
      table: this.board.tables.get(of) !== undefined,
    });
    const derived = this.derivations.get(key);
    const feeding = this.sources.feeding(key);
    return traceOf(key, this.resolver.usesOf(key), this.show, feeding, derived, nameOf);
  }

  private airSnapshot(): AirSnapshot {
    const { key, width, height } = this.world.output;
    const items = [...this.show.lanes.values()].map((lane) => this.airItem(lane));
    return { output: { key, width, height }, items: items.filter((i) => i !== null) };
  }

  private deskSnapshot(): DeskSnapshot {
    const { game, output, templates, games, profiles, derived, maps } = this.world;
    return {
      game: {
        title: game ? `${game.home.name} v ${game.away.name}` : 'No game chosen',
        competition: game?.competition ?? '',
        venue: game?.venue ?? '',
      },
      output,
      playing: game?.key ?? null,
      games: [...games.values()],
      profiles: [...profiles.values()],
      derived: this.derivations.list().map((doc) => ({ doc, own: derived.has(doc.key) })),
      problems: Object.fromEntries(this.derivations.problems),
      maps,
      media: this.library.index.list(),
      defs: [...this.board.fields],
      fields: [...this.board.fields].map((d) => this.boardField(d.key)),
      tables: deskTables(
        this.board,
        this.board.tables.list().map((t) => t.key),
      ).tables,
      items: [...this.show.items.values()] satisfies Item[],
      lanes: [...this.show.lanes.values()],
      templates: [...templates.values()],
      sources: this.sourceStates(),
      bundles: this.sources.bundles(),
      database: { ok: this.store.ok },
      log: this.log,
    };
  }

  private boardField(key: string): BoardField {
    return { key, ...this.board.state(key)! };
  }

  private air(op: AirOp): void {
    this.hub.publish(this.airStream, [op]);
  }

  private desk(op: DeskOp): void {
    this.hub.publish(DESK, [op]);
  }

  private every(ms: number, what: () => void): void {
    this.timers.push(setInterval(what, ms));
  }
}

import type { Logger } from 'pino';
import { Board } from '../../core/board/board.ts';
import { MEDIA_TOKEN } from '../../core/media/media.ts';
import { Resolver } from '../../core/resolve/resolver.ts';
import { applyShow, Refusal, type Lane, type Show } from '../../core/show/show.ts';
import { Derivations } from '../../core/derive/derivations.ts';
import type { AirOp, BoardField, DeskOp, DeskSnapshot, LogLine, Trace } from '../../core/wire/wire.ts';
import { readAction, type AnyRequest } from '../http/requests.ts';
import { lanesOf, pinsOf, whyNotWritten, type Store, type StoreChange } from '../store/store.ts';
import { readHostPolicy } from '../ingest/document/hosts.ts';
import type { Reach } from '../ingest/open-source.ts';
import { Library } from '../media/library.ts';
import { Deck, type DeckHost } from '../tape/deck.ts';
import { DocumentReader } from '../ingest/document/reader.ts';
import { unseenSources } from '../tape/replay.ts';
import { ShowTime } from '../../core/tape/show-time.ts';
import type { Traced } from '../../core/trace/traced.ts';
import { withoutSecret, type SourceBundle } from '../../core/source/source.ts';
import { DESK, Hub, serverNow } from './hub.ts';
import { Trials } from './trials.ts';
import { ToldTables } from './tables.ts';
import { BoardSaver } from './board-saver.ts';
import { becomeOf, begun } from './become.ts';
import { refuseLate } from './late.ts';
import { deskSnapshotOf } from './desk-snapshot.ts';
import { takenIn } from './take-in.ts';
import { START } from './game-decisions.ts';
import { decideRequest } from './decisions.ts';
import { carryOutDocuments, playGame, type Living } from './documents.ts';
import { describe } from './describe.ts';
import { Secrets } from './secrets.ts';
import { Sources } from './sources.ts';
import type { Spread } from './surroundings.ts';
import { OnAir } from './on-air.ts';
import { traceOf } from './trace.ts';
import { Latest } from './latest.ts';
import { takeMended } from './unread.ts';
import type { World } from './world.ts';

/**
 * What came of an action: done, with the number of the desks' stream that has it; or a sentence that says why not.
 */
export type Outcome = { ok: true; text: string; seq: number } | { ok: false; status: number; reason: string };

/** What several steps changed, to be told as one. */
type Gathered = { changed: string[]; touched: string[]; tables: string[] };

const HEALTH_LOOK = 100;
const SOURCES_EVERY = 500;
const TRACE_EVERY = 200;
const SAVE_EVERY = 1000;
const LOG_LENGTH = 40;

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
  private readonly onAir: OnAir;
  /** The time of the show: the real one, or that of a rehearsal. */
  readonly time = new ShowTime(serverNow);
  readonly deck: Deck;
  /** Lines that are looked at before they are saved. */
  readonly trials: Trials;
  private lines: Sources;
  /** The sources as they are saved. */
  private readonly bundles: Map<string, SourceBundle>;
  private readonly secrets = new Secrets();
  /** What takes the latest ten choices of a game back, by the action's id. */
  private readonly before = new Latest<StoreChange>(10);
  private readonly derivations: Derivations;
  private readonly tables: ToldTables;
  private readonly log: LogLine[] = [];
  private readonly saver: BoardSaver;
  private readonly timers: NodeJS.Timeout[] = [];
  private queue: Promise<unknown> = Promise.resolve();

  constructor(
    readonly world: World,
    private readonly store: Store,
    private readonly logger: Logger,
    readonly reach: Reach = { hosts: readHostPolicy(undefined), folders: [] },
    private readonly reader = new DocumentReader(new URL('./worker.js', import.meta.url)),
  ) {
    this.library = new Library(store, (bytes, name) => this.reader.inspect(bytes, name));
    this.board = new Board(world.profile.fields);
    this.tables = new ToldTables(this.board);
    this.resolver = new Resolver(this.board, this.picture);
    this.onAir = new OnAir(this.show, world, this.resolver);
    this.saver = new BoardSaver(this.board, store, logger);
    this.derivations = new Derivations(this.board, this.picture);
    world.takenTables = () =>
      this.board.tables.list().flatMap((t) => (t.origin === 'derived' ? [] : [t.key]));
    for (const zone of world.output.zones)
      this.show.lanes.set(zone.key, { zone: zone.key, next: null, onAir: null });
    this.bundles = new Map(world.bundles.map((b) => [b.source.key, b]));
    for (const bundle of world.bundles) this.secrets.note(bundle);
    this.lines = this.makeSources((s) => this.spread(s), false);
    this.deck = new Deck(this.deckHost(), store, logger);
    this.trials = new Trials({ hub: this.hub, reach, reader, logger });
    this.hub.open(DESK, () => this.deskSnapshot());
    this.hub.open(this.airStream, () => this.onAir.snapshot());
    world.problems.forEach((text) => logger.error(text));
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
    // What a game begins with is no source's word that could be lost.
    for (const origin of new Set(saved.board.map((b) => b.origin)))
      if (origin !== START) this.board.mark(origin, 'lost');
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
    for (const lane of this.show.lanes.values()) this.onAir.mount(lane);
    await this.deck.load();
    for (const bundle of this.bundles.values()) this.lines.put(bundle);
    // A tape says itself when it was looked at, so that it always leads to the same board.
    this.every(HEALTH_LOOK, () => this.deck.playing || this.look(this.time.now()));
    this.every(SOURCES_EVERY, () => this.desk({ op: 'sources', sources: this.sourceStates() }));
    this.every(TRACE_EVERY, () => this.sendTraces());
    this.every(SAVE_EVERY, () => this.deck.playing || void this.saver.save());
  }

  /** Looks at how long sources are silent and what turns with time. */
  private look(at: number): void {
    const told = this.sources.look(at);
    const worked = this.derivations.tick(at);
    if (told || worked.changed.length) this.deck.looked(at);
    this.spread(worked);
    if (told) this.desk({ op: 'sources', sources: this.sourceStates() });
  }

  private makeSources(spread: (s: Spread) => void, tape: boolean): Sources {
    const { board, hub, reach, logger, reader, time } = this;
    return new Sources({ board, hub, reach, logger, reader, spread, now: time.now, tape });
  }

  /** The sources in use: the real ones, or those of a tape in their place. */
  private get sources() {
    return this.deck.sources ?? this.lines;
  }

  private deckHost(): DeckHost {
    const { board, time, reader } = this;
    return {
      board,
      time,
      reader,
      sources: () => this.lines,
      bundles: () => [...this.bundles.values()],
      makeSources: (spread) => this.makeSources(spread, true),
      offAir: () => unseenSources(this.world.profile, reader),
      shutLines: () => this.lines.stop(),
      openLines: () => {
        this.lines = this.makeSources((s) => this.spread(s), false);
        for (const bundle of this.bundles.values()) this.lines.put(bundle);
        this.hub.refresh(DESK);
      },
      spread: (s) => this.spread(s),
      look: (at) => this.look(at),
      profile: (key) => this.world.profiles.get(key ?? '') ?? this.world.profile,
      told: () => {
        const { tapes, playing } = this.deck;
        const { stretch } = this.time;
        this.hub.setTime(playing && stretch && { tape: playing.name, ...stretch });
        this.desk({ op: 'deck', tapes, rehearsal: playing });
      },
      began: () => this.hub.refresh(DESK),
    };
  }

  async stop(): Promise<void> {
    for (const timer of this.timers) clearInterval(timer);
    await this.deck.stop();
    this.lines.stop();
    this.trials.stop();
    this.reader.close();
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

  /** Notes what failed where nobody is told otherwise. */
  complain(error: unknown, text: string): void {
    this.logger.error({ err: error }, text);
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
    const at = this.time.now();
    try {
      refuseLate(request.until);
      const { show, board, world, sources, derivations, library, deck, secrets, before } = this;
      const now = { show, board, world, sources, derivations, library, deck, secrets, before };
      if (request.kind === 'tape' || request.kind === 'rehearse') await deck.prepare(request);
      if (request.kind === 'media' || request.kind === 'arrange-media') await library.trueEntries(request);
      const { change, undo } = decideRequest(now, request, at);
      const text = describe(request, now);
      const { id, kind, until, ...asked } = request;
      // What is written down of an action holds no secret.
      const saved = kind === 'source' && change.source && 'put' in change.source ? change.source.put : null;
      const body = saved ? { bundle: withoutSecret(saved) } : asked;
      const real = serverNow();
      // What is set on a rehearsal's board is not the game's. What is set by hand is committed with its values: no older batch may be written over them.
      const kept = deck.playing ? { ...change, hand: undefined } : change;
      const commit = () => {
        refuseLate(until);
        return this.store.commit({ id, kind, body, text, at: real }, kept, undo);
      };
      if ((await (kept.hand ? this.saver.alone(commit) : commit())) === 'again')
        return { ok: true, text, seq: 0 };
      try {
        this.carryOut(change);
      } catch (error) {
        // It is in the database and cannot be called undone: said is what stands.
        this.complain(error, 'an action that was saved could not be carried out whole');
        this.hub.refresh(DESK);
        return { ok: true, text: `${text}. It is saved, but not all of it shows yet`, seq: 0 };
      }
      if (kind === 'choose-game') this.before.keep(id, undo);
      const line = { at: real, text };
      this.log.push(line);
      if (this.log.length > LOG_LENGTH) this.log.shift();
      this.desk({ op: 'log', line });
      this.logger.info({ action: kind, id, ...body }, text);
      return { ok: true, text, seq: this.hub.numberOf(DESK) };
    } catch (error) {
      if (error instanceof Refusal) return { ok: false, status: 409, reason: error.message };
      const why = whyNotWritten(error);
      if (why.status !== 503) this.logger.error({ err: error }, 'an action failed');
      return { ok: false, ...why };
    }
  }

  /** Takes a picture, a loop or a tape in; gives what it is, or why it was not taken. */
  takeIn<T>(work: () => Promise<T>): Promise<T | { status: number; reason: string }> {
    return takenIn(this.store, this.logger, work);
  }

  private carryOut(change: StoreChange): void {
    applyShow(this.show, change);
    if (change.item) this.desk({ op: 'item', item: change.item });
    if (change.source && 'remove' in change.source) this.dropSource(change.source.remove.source.key);
    // All of it shows at once: no page sees the new names beside the old scores.
    this.together(() => {
      const { become } = change;
      const before = become === 'swapped' ? this.sources.remember(this.time.now()) : null;
      for (const one of [...(change.source ? [change.source] : []), ...(change.sources ?? [])])
        if ('put' in one) this.putSource(one.put);
      if (become === 'swapped' || become === 'fresh')
        becomeOf(this.sources, this.world.profile, become, before);
      for (const bundle of takeMended(this.world, change.documents ?? [])) this.putSource(bundle);
      if (change.documents) {
        this.spread(carryOutDocuments(this.living, change.documents, this.time.now()));
        this.sources.boardChanged();
      }
      // The fields of the sport that is played now are there by now.
      if (become === 'fresh') this.spread(begun(this.board, change.values ?? [], this.time.now()));
      else if (typeof become === 'object') becomeOf(this.sources, this.world.profile, become, null);
      for (const pin of pinsOf(change)) {
        const key = pin.field;
        this.spread(
          this.board.apply(
            ['release' in pin ? { key, release: true } : { key, pin: pin.value }],
            this.time.now(),
          ),
        );
      }
    });
    for (const lane of lanesOf(change)) this.putLane(lane);
    if (change.media) {
      for (const { path, entry } of change.media) this.library.put(path, entry);
      this.spread({ changed: [MEDIA_TOKEN], touched: [] });
    }
    if (change.media || change.documents) this.hub.refresh(DESK);
    if (change.deck) this.deck.carryOut(change.deck, change.tape);
    if (change.hand) this.sources.press(change.hand.source, change.hand.changes);
    if (change.giveBack) this.sources.giveBack(change.giveBack);
    if (change.source || change.sources?.length || change.giveBack || change.hand)
      this.desk({ op: 'sources', sources: this.sourceStates() });
  }

  private putLane(lane: Lane): void {
    this.show.lanes.set(lane.zone, lane);
    const item = this.onAir.mount(lane);
    if (item) this.air({ op: 'take', item });
    else if (!lane.onAir) this.air({ op: 'clear', zone: lane.zone });
    this.desk({ op: 'lane', lane });
  }

  private putSource(bundle: SourceBundle): void {
    this.bundles.set(bundle.source.key, bundle);
    this.secrets.note(bundle);
    this.sources.put(bundle);
    this.desk({ op: 'source', bundle: withoutSecret(bundle) });
  }

  private dropSource(key: string): void {
    this.bundles.delete(key);
    this.sources.remove(key);
    this.desk({ op: 'source-gone', key });
  }

  private gathered: Gathered | null = null;

  /** Does work that changes the board in several steps, and tells of them as one. */
  private together(work: () => void): void {
    if (this.gathered) return work();
    const gathered: Gathered = { changed: [], touched: [], tables: [] };
    this.gathered = gathered;
    try {
      work();
    } finally {
      this.gathered = null;
      if (gathered.changed.length || gathered.touched.length || gathered.tables.length) this.spread(gathered);
    }
  }

  /** Sends what an apply changed: to the pages on air first, then to the desks. */
  private spread(first: Spread): void {
    if (this.gathered) {
      this.gathered.changed.push(...first.changed);
      this.gathered.touched.push(...first.touched);
      this.gathered.tables.push(...(first.tables ?? []));
      return;
    }
    const more = this.derivations.react([...new Set(first.changed)], this.time.now());
    const changed = [...first.changed, ...more.changed];
    const touched = [...first.touched, ...more.touched];
    const tables = [...(first.tables ?? []), ...more.tables];
    this.tellProblems();
    const deltas = this.resolver.touch(changed);
    if (deltas.length) this.air({ op: 'layers', deltas });
    if (tables.length) this.desk(this.tables.changes(tables));
    if (touched.length === 0) return;
    this.desk({ op: 'fields', fields: touched.map((key) => this.boardField(key)) });
    if (!this.deck.playing) this.saver.note(touched);
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
    for (const { of, send } of this.hub.watchers()) send({ t: 'trace', trace: this.trace(of) });
  }

  trace(of: Traced): Trace {
    const { board, derivations, resolver, show, sources, time } = this;
    return traceOf(of, { board, derivations, resolver, show, sources, time });
  }

  private deskSnapshot(): DeskSnapshot {
    const { world, derivations, library, board, tables, show, sources, reach, deck, store, log } = this;
    const parts = { world, derivations, library, board, tables, show, sources, reach, deck, store, log };
    return deskSnapshotOf(parts);
  }

  private boardField(key: string): BoardField {
    return { key, ...this.board.state(key)! };
  }

  private air = (op: AirOp) => this.hub.publish(this.airStream, [op]);

  private desk = (op: DeskOp) => this.hub.publish(DESK, [op]);

  private every(ms: number, what: () => void): void {
    this.timers.push(setInterval(what, ms));
  }
}

import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import { Board } from '../../core/board/board.ts';
import { Resolver } from '../../core/resolve/resolver.ts';
import { laneKey, type Show } from '../../core/show/show.ts';
import { Derivations } from '../../core/derive/derivations.ts';
import type { Change } from '../../core/actions/change.ts';
import type { UndoState } from '../../core/actions/past.ts';
import type { BoardField, DeskOp, DeskSnapshot, LogLine, Outcome, Trace } from '../../core/wire/wire.ts';
import type { Store, Version } from '../store/store.ts';
import { readHostPolicy } from '../ingest/document/hosts.ts';
import type { Reach } from '../ingest/open-source.ts';
import { Library, type Looking } from '../media/library.ts';
import { Pictures } from '../media/pictures.ts';
import { Deck, type DeckHost } from '../tape/deck.ts';
import { DocumentReader } from '../ingest/document/reader.ts';
import { unseenSources } from '../tape/replay.ts';
import { ShowTime } from '../../core/tape/show-time.ts';
import type { Traced } from '../../core/trace/traced.ts';
import { machineTime, type Scheduler, type Timer } from '../scheduler.ts';
import { DESK, Hub } from './hub.ts';
import { Trials } from './trials.ts';
import { ToldTables } from './tables.ts';
import { Air } from './air.ts';
import { BoardSaver } from './board-saver.ts';
import { ActionRunner } from './action-runner.ts';
import { deskSnapshotOf } from './desk-snapshot.ts';
import { importing } from './importing.ts';
import { TimedActions, FOOTHILL } from './timed-actions.ts';
import { carryOut, type Running } from './carrying.ts';
import { beginWith } from './documents.ts';
import { Rules } from './rules.ts';
import { Secrets } from './secrets.ts';
import { Sources } from './sources.ts';
import type { BoardUpdate } from './source-context.ts';
import { ReadLog } from './read-log.ts';
import { traceOf } from './trace.ts';
import { bundlesOf, type World } from '../../core/actions/world.ts';
import { START } from '../../core/actions/choose-game.ts';

/** What several steps changed, to be told as one. */
type Gathered = { changed: string[]; touched: string[]; tables: string[] };

const HEALTH_LOOK = 100;
const SOURCES_EVERY = 500;
const TRACE_EVERY = 200;
const PAGES_EVERY = 1000;
const SAVE_EVERY = 1000;
const LOG_LENGTH = 40;

/**
 * The running Foothill: sources feed the board, the board feeds what is on air and what operators see, and
 * operators' actions go through the database first. One way: bytes, readings, changes, layers, pages.
 */
export class Engine {
  readonly hub: Hub;
  private pagesTold = '[]';
  readonly board: Board;
  private readonly startedAt: number;
  readonly library: Library;
  private readonly picture = (path: string, keyed: boolean) => this.library.index.address(path, keyed);
  private readonly resolver: Resolver;
  private readonly show: Show;
  private readonly air: Air;
  /** The time of the show: the real one, or that of a rehearsal. */
  readonly time: ShowTime;
  readonly deck: Deck;
  /** Lines that are looked at before they are saved. */
  readonly trials: Trials;
  private lines: Sources;
  private readonly secrets = new Secrets();
  private readonly actions: ActionRunner;
  private readonly timedActions: TimedActions;
  private readonly rules: Rules;
  private readonly derivations: Derivations;
  private readonly tables: ToldTables;
  private readonly log: LogLine[] = [];
  private readonly saver: BoardSaver;
  private readonly timers: Timer[] = [];

  constructor(
    readonly world: World,
    private readonly store: Store,
    private readonly logger: Logger,
    readonly reach: Reach = { hosts: readHostPolicy(undefined), folders: [] },
    private readonly reader = new DocumentReader(new URL('./worker.js', import.meta.url)),
    private readonly pictures: Looking = new Pictures(new URL('./pictures.js', import.meta.url)),
    private readonly scheduler: Scheduler = machineTime,
  ) {
    this.hub = new Hub(scheduler);
    this.time = new ShowTime(scheduler.now);
    this.startedAt = scheduler.now();
    this.show = { items: world.documents.item, lanes: new Map(), cards: new Set(), quiet: null };
    this.library = new Library(store, pictures);
    this.board = new Board(world.profile.fields);
    this.tables = new ToldTables(this.board);
    this.resolver = new Resolver(this.board, this.picture);
    this.derivations = new Derivations(this.board, this.picture);
    this.saver = new BoardSaver(this.board, store, logger, scheduler, (key) =>
      this.derivations.rotation(key),
    );
    world.takenTables = () =>
      this.board.tables.list().flatMap((t) => (t.origin === 'derived' ? [] : [t.key]));
    for (const source of world.documents.source.values()) this.secrets.note(source);
    this.lines = this.makeSources((s) => this.spread(s), false);
    this.deck = new Deck(this.deckHost(), store, logger);
    this.trials = new Trials({ hub: this.hub, scheduler, reach, reader, logger });
    this.actions = new ActionRunner(this.stage());
    this.timedActions = new TimedActions({
      show: this.show,
      scheduler,
      now: this.time.now,
      act: async (action) => (await this.byFoothill(action)).ok,
    });
    this.hub.open(DESK, () => this.deskSnapshot());
    this.rules = new Rules({
      board: this.board,
      scheduler,
      world,
      fire: (trigger) => void this.byFoothill({ kind: 'fire', trigger }),
      quiet: (why) => this.desk(this.air.setQuiet(why)),
    });
    const { show, hub, resolver, library } = this;
    this.air = new Air({ show, world, resolver, library, hub });
    world.problems.forEach((text) => logger.error(text));
  }

  /** Brings back what was on air, what was pinned and what the board last said, then opens the sources. */
  async start(): Promise<void> {
    const saved = await this.store.load();
    await this.library.load();
    for (const lane of saved.lanes)
      if (this.show.lanes.has(laneKey(lane))) this.show.lanes.set(laneKey(lane), lane);
    this.log.push(...saved.log);
    this.actions.load(saved.past, saved.answered);
    const now = this.scheduler.now();
    this.board.apply(
      saved.board.map(({ field, value, origin }) => ({ key: field, value, origin })),
      now,
    );
    // What a game begins with is no source's word that could be lost.
    for (const origin of new Set(saved.board.map((b) => b.origin)))
      if (origin !== START) this.board.mark(origin, 'lost');
    // Rows are kept of sources that there still are; what they are worth now, their sources say.
    for (const table of saved.tables) {
      if (!this.world.documents.source.has(table.origin) || this.board.tables.get(table.key)) continue;
      this.board.tables.put(table, table.origin, table.at);
      this.board.tables.mark(table.origin, 'lost');
    }
    beginWith(this.running, now);
    for (const derived of [
      ...this.world.profile.derived,
      ...[...this.world.documents.derived.values()].map((d) => d.derived),
    ]) {
      const refused = this.derivations.refuse(derived);
      if (refused) this.logger.error(refused);
      else this.derivations.put(derived, now, saved.rotations.get(derived.key));
    }
    this.board.apply(
      saved.pins.map(({ field, value }) => ({ key: field, pin: value })),
      now,
    );
    this.air.begin();
    this.rules.begin();
    this.timedActions.look();
    await this.deck.load();
    for (const bundle of bundlesOf(this.world)) this.lines.put(bundle);
    // A tape says itself when it was looked at, so that it always leads to the same board.
    this.every(HEALTH_LOOK, () => this.deck.playing || this.look(this.time.now()));
    this.every(SOURCES_EVERY, () => {
      // What is said of a source is of one moment: its health and how long it is silent.
      if (!this.deck.playing) this.look(this.time.now());
      this.desk({ op: 'sources', sources: this.sourceStates() });
    });
    this.every(PAGES_EVERY, () => this.tellPages());
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

  private makeSources(spread: (s: BoardUpdate) => void, tape: boolean): Sources {
    const { board, hub, reach, logger, reader, time, scheduler } = this;
    return new Sources({ board, hub, scheduler, reach, logger, reader, spread, now: time.now, tape });
  }

  /** The sources in use: the real ones, or those of a tape in their place. */
  private get sources() {
    return this.deck.sources ?? this.lines;
  }

  private deckHost(): DeckHost {
    const { board, time, reader, scheduler } = this;
    return {
      board,
      scheduler,
      time,
      reader,
      sources: () => this.lines,
      bundles: () => bundlesOf(this.world),
      makeSources: (spread) => this.makeSources(spread, true),
      offAir: () => unseenSources(this.world.profile, reader, scheduler),
      shutLines: () => this.lines.stop(),
      openLines: () => {
        this.lines = this.makeSources((s) => this.spread(s), false);
        for (const bundle of bundlesOf(this.world)) this.lines.put(bundle);
        this.hub.refresh(DESK);
      },
      // Nothing is taken because somebody jumped in a tape, or left it.
      spread: (s, jumped) => (jumped ? this.rules.unmoved(() => this.spread(s)) : this.spread(s)),
      look: (at) => this.look(at),
      profile: (key) => this.world.documents.profile.get(key ?? '') ?? this.world.profile,
      told: () => {
        const { tapes, playing } = this.deck;
        const { stretch } = this.time;
        this.hub.setTime(playing && stretch && { tape: playing.name, ...stretch });
        this.desk({ op: 'deck', tapes, rehearsal: playing });
        this.timedActions.look();
      },
      began: () => this.hub.refresh(DESK),
    };
  }

  async stop(): Promise<void> {
    this.timedActions.stop();
    this.rules.stop();
    for (const timer of this.timers) this.scheduler.clear(timer);
    await this.deck.stop();
    this.lines.stop();
    this.trials.stop();
    this.reader.close();
    this.pictures.close();
    this.hub.close();
    await this.actions.settled;
    await this.saver.save();
  }

  /** What comes in: for the endpoints that look at it. */
  get incoming(): Pick<Sources, 'fetchNow' | 'tryMap' | 'bundle'> {
    return this.sources;
  }

  /** The versions of a document, the newest first. */
  versions(kind: string, key: string): Promise<Omit<Version, 'body'>[]> {
    return this.store.versions(kind, key);
  }

  /** What a document was in one of its versions; null where there is none. */
  version(kind: string, key: string, revision: number): Promise<object | null> {
    return Number.isInteger(revision) ? this.store.version(kind, key, revision) : Promise.resolve(null);
  }

  /** Notes what failed where nobody is told otherwise. */
  logError(error: unknown, text: string): void {
    this.logger.error({ err: error }, text);
  }

  /** For how long it runs, in whole seconds. */
  get uptime(): number {
    return Math.round((this.scheduler.now() - this.startedAt) / 1000);
  }

  /** Whether the database answers, and what is left of its disk, in bytes; null where that cannot be told. */
  get database(): { ok: boolean; left: number | null } {
    return { ok: this.store.ok, left: this.store.room.left };
  }

  sourceStates() {
    return this.sources.states();
  }

  /** Tells the desks that the database was lost or is back, or that its disk is full or has room again. */
  databaseChanged(): void {
    const { ok, full } = this.store;
    this.desk({ op: 'database', ok, full });
  }

  /** Does one action as a page sent it, after those that came before it. Never throws. */
  act(body: unknown): Promise<Outcome> {
    return this.actions.act(body);
  }

  private byFoothill = (action: object): Promise<Outcome> =>
    this.act({ id: randomUUID(), who: FOOTHILL, ...action });

  /** What actions are decided from, committed to and carried out in. */
  private stage() {
    const { show, board, world, derivations, library, secrets, store, saver, logger, time, log } = this;
    return {
      situation: () => {
        const { sources, deck } = this;
        return { show, board, world, sources, derivations, library, deck, secrets };
      },
      preparation: { deck: this.deck, library },
      store,
      saver,
      logger,
      scheduler: this.scheduler,
      now: time.now,
      rehearsing: () => this.deck.playing !== null,
      carryOut: (change: Change) => {
        // A press on a pad is a source's word; all else that somebody does corrects what is so.
        if (change.press) carryOut(this.running, change);
        else this.rules.unmoved(() => carryOut(this.running, change));
        if (change.edits.some((e) => e.kind === 'trigger' || e.kind === 'quiet')) this.rules.begin();
        this.timedActions.look();
      },
      told: (line: LogLine, replaces: boolean, states: UndoState[]) => {
        if (replaces) log.pop();
        log.push(line);
        if (log.length > LOG_LENGTH) log.shift();
        this.desk({ op: 'undo', states });
        this.desk({ op: 'log', line, replaces });
        return this.hub.numberOf(DESK);
      },
      refresh: () => this.hub.refresh(DESK),
    };
  }

  /** Imports a picture, a loop or a tape; gives what it is, or why it was not taken. */
  runImport<T>(work: () => Promise<T>): Promise<T | { status: number; reason: string }> {
    return importing(this.store, this.logger, work);
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
  private spread(first: BoardUpdate): void {
    if (this.gathered) {
      this.gathered.changed.push(...first.changed);
      this.gathered.touched.push(...first.touched);
      this.gathered.tables.push(...(first.tables ?? []));
      return;
    }
    const now = this.time.now();
    const more = this.derivations.react([...new Set(first.changed)], now);
    const changed = [...first.changed, ...more.changed];
    const touched = [...first.touched, ...more.touched];
    const tables = [...(first.tables ?? []), ...more.tables];
    this.tellProblems();
    const deltas = this.resolver.touch(changed, now);
    if (deltas.length) this.air.tellLayers(deltas);
    if (tables.length) this.desk(this.tables.changes(tables));
    this.rules.react(changed, touched);
    if (!this.deck.playing) this.saver.note(touched, tables);
    if (touched.length) this.desk({ op: 'fields', fields: touched.map((key) => this.boardField(key)) });
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

  private get running(): Running {
    const { board, world, derivations, show, library, deck, secrets, time, scheduler } = this;
    return {
      ...{ board, world, derivations, show, library, deck, secrets, scheduler },
      sources: () => this.sources,
      now: time.now,
      spread: (s) => this.spread(s),
      together: (work) => this.together(work),
      air: this.air,
      desk: this.desk,
    };
  }

  private sendTraces(): void {
    this.hub.tellWatchers((of) => {
      const noted = new ReadLog();
      const trace = this.trace(of, noted);
      return { trace, isCurrent: () => noted.isCurrent };
    });
  }

  trace(of: Traced, noted = new ReadLog()): Trace {
    const { board, derivations, resolver, show, sources, time } = this;
    return traceOf(of, { board, derivations, resolver, show, sources, time, noted });
  }

  private deskSnapshot(): DeskSnapshot {
    const { world, derivations, library, board, tables, show, sources, reach, deck, store, log } = this;
    const parts = { world, derivations, library, board, tables, show, sources, reach, deck, store, log };
    return deskSnapshotOf({
      ...parts,
      ...this.hub.pages(this.scheduler.now()),
      undos: this.actions.undoStates(),
    });
  }

  /** Tells the desks which pages are open, where that is other than they know. */
  private tellPages(): void {
    const pages = this.hub.pages(this.scheduler.now());
    const text = JSON.stringify(pages);
    if (text === this.pagesTold) return;
    this.pagesTold = text;
    this.desk({ op: 'pages', ...pages });
  }

  private boardField(key: string): BoardField {
    return { key, ...this.board.state(key)! };
  }

  private desk = (op: DeskOp) => this.hub.publish(DESK, [op]);

  private every(ms: number, what: () => void): void {
    this.timers.push(this.scheduler.setInterval(what, ms));
  }
}

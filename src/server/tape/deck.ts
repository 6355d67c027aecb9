import type { Logger } from 'pino';
import { isRecord } from '../../core/board/own.ts';
import type { Board, BoardMemory } from '../../core/board/board.ts';
import { Refusal } from '../../core/show/show.ts';
import type { SportProfile } from '../../core/sport/profile.ts';
import { SPEEDS } from '../../core/tape/show-time.ts';
import {
  cut,
  type Part,
  type RehearsalState,
  type Tape,
  type TapeInfo,
  type TapeOverview,
} from '../../core/tape/tape.ts';
import type { Decision } from '../../core/actions/change.ts';
import { edit } from '../../core/actions/change.ts';
import type { RehearseRequest } from '../../core/actions/deck-requests.ts';
import type { DeckRequest } from '../../core/actions/deck-requests.ts';
import type { TapeRequest } from '../../core/actions/deck-requests.ts';
import type { DocumentReader } from '../ingest/document/reader.ts';
import type { Sources } from '../live/sources.ts';
import type { Store } from '../store/store.ts';
import { keepTape, newTapeKey } from './keep.ts';
import { named, readTape, readTapeFile, TapeProblem } from './lines.ts';
import { overviewOf } from './overview.ts';
import { Recorder } from './recorder.ts';
import { Rehearsal, type RehearsalHost } from './rehearsal.ts';
import { bundlesAt, knownAt } from './replay.ts';

/** What the deck needs of the running Foothill. */
export interface DeckHost extends RehearsalHost {
  board: Board;
  /** The sources in use. */
  sources(): Sources;
  /** The lines of the real sources are shut, or opened anew. */
  shutLines(): void;
  openLines(): void;
  /** A tape has taken the place of the sources. */
  began(): void;
  reader: DocumentReader;
  profile(key?: string): SportProfile;
}

type DeckStore = Pick<Store, 'tapes' | 'putTape' | 'putTapePart' | 'tapeParts' | 'purgeTapes'>;

/** Records what sources say, keeps the tapes, and plays one in place of the sources. */
export class Deck {
  private readonly infos = new Map<string, TapeInfo>();
  private recorder: Recorder | null = null;
  private rehearsal: Rehearsal | null = null;
  /** The tape that was read last: it is played, cut and looked at again. */
  private read: { key: string; tape: Tape } | null = null;
  private readonly overviews = new Map<string, TapeOverview>();
  /** What the board said before the rehearsal. */
  private before: BoardMemory | null = null;
  private prepared: { tape: Tape; key: string } | null = null;

  constructor(
    private readonly host: DeckHost,
    private readonly store: DeckStore,
    private readonly logger: Logger,
  ) {}

  /** Reads the list. A recording that a stop of the server broke off is a tape as far as it came. */
  async load(): Promise<void> {
    for (const info of await this.store.tapes()) {
      const broken = info.recording
        ? { recording: false, problem: 'The server stopped while it was recorded.' }
        : {};
      this.infos.set(info.key, { ...info, ...broken });
    }
    await this.store.purgeTapes();
  }

  get tapes(): TapeInfo[] {
    const now = this.recorder?.info;
    return [...this.infos.values()].map((i) => (i.key === now?.key ? now : i));
  }

  get playing(): RehearsalState | null {
    return this.rehearsal?.state ?? null;
  }

  /** The tape's sources where one is played. */
  get sources(): Sources | null {
    return this.rehearsal?.sources ?? null;
  }

  /** The silence of the sources was looked at, with an effect. */
  looked(at: number): void {
    this.recorder?.looked(at);
  }

  /** What takes its time is done before the action is decided: a tape is read, a cut is made. Throws a Refusal. */
  async prepare(request: DeckRequest): Promise<void> {
    this.prepared = null;
    if (request.kind === 'tape' && request.do === 'cut') {
      const info = this.known(request.tape);
      const parts = readParts(request.parts, info.length);
      const tape = await this.tape(info.key);
      const known = (before: number, from: number) =>
        knownAt(tape, before, from, this.host.profile(tape.head.profile), this.host.reader);
      const entries = await cut(tape.entries, parts, known);
      const name = request.name?.trim() || `${info.name}, cut`;
      const recorded = new Date(Date.parse(tape.head.recorded) + parts[0]!.from).toISOString();
      const first = tape.entries.findIndex((e) => e.at >= parts[0]!.from);
      const sources = bundlesAt(tape, first);
      this.fresh = await keepTape(this.store, {
        head: { ...tape.head, name, recorded, sources },
        entries,
      });
    }
    if (request.kind === 'rehearse' && request.do === 'start') {
      const { key } = this.known(request.tape);
      this.prepared = { key, tape: await this.tape(key) };
    }
  }

  /** Decides what a request changes. Throws a Refusal, a sentence, where it cannot be done. */
  decide(request: DeckRequest, at: number): Decision {
    return request.kind === 'tape' ? this.decideTape(request, at) : this.decideRehearsal(request);
  }

  private decideTape(request: TapeRequest, at: number): Decision {
    const deck = request;
    switch (request.do) {
      case 'record': {
        if (this.rehearsal) throw new Refusal('A tape is played; end the rehearsal before you record.');
        if (this.recorder) throw new Refusal(`${this.recorder.info.name} is being recorded already.`);
        const key = newTapeKey();
        const name = request.name?.trim() || `Recording of ${stamp(new Date(at))}`;
        const put: TapeInfo = {
          key,
          name,
          recorded: new Date(at).toISOString(),
          length: 0,
          size: 0,
          entries: 0,
          profile: this.host.profile().key,
          sources: this.host.bundles().map((b) => b.source.name),
          recording: true,
          problem: null,
        };
        return { change: { edits: [edit('tape', key, null, put)], deck } };
      }
      case 'stop':
        if (!this.recorder) throw new Refusal('Nothing is being recorded.');
        return { change: { edits: [], deck } };
      case 'rename': {
        const info = this.known(request.tape);
        const name = request.name?.trim();
        if (!name) throw new Refusal('A tape needs a name.');
        if (this.recorder?.info.key === info.key) throw new Refusal('It is being recorded; stop that first.');
        return { change: { edits: [edit('tape', info.key, info, { ...info, name })], deck } };
      }
      case 'delete': {
        const info = this.known(request.tape);
        if (this.recorder?.info.key === info.key) throw new Refusal('It is being recorded; stop that first.');
        if (this.rehearsal?.state.tape === info.key)
          throw new Refusal('It is being played; end the rehearsal first.');
        return { change: { edits: [edit('tape', info.key, info, null)], deck } };
      }
      case 'cut': {
        const put = this.fresh;
        if (!put) throw new Refusal('The cut could not be made.');
        return { change: { edits: [edit('tape', put.key, null, put)], deck } };
      }
    }
  }

  private decideRehearsal(request: RehearseRequest): Decision {
    const { rehearsal } = this;
    if (request.do === 'start') {
      if (this.recorder) throw new Refusal('The sources are being recorded; stop that before you rehearse.');
      if (rehearsal) throw new Refusal(`${rehearsal.state.name} is being played; end that rehearsal first.`);
    } else if (!rehearsal) throw new Refusal('No tape is being played.');
    if (request.do === 'speed' && !(request.to! >= SPEEDS[0] && request.to! <= SPEEDS.at(-1)!))
      throw new Refusal(`A tape runs at ${SPEEDS[0]} to ${SPEEDS.at(-1)} times its speed.`);
    if (request.do === 'jump' && request.to === undefined)
      throw new Refusal('It is not said where to jump to.');
    if (request.do === 'loop' && request.part) readParts([request.part], rehearsal!.state.length);
    return { change: { edits: [], deck: request } };
  }

  /** Puts a tape on the list, or takes it off. */
  put(key: string, info: TapeInfo | null): void {
    if (info) this.infos.set(key, info);
    else {
      this.infos.delete(key);
      void this.store
        .purgeTapes()
        .catch((err: unknown) => this.logger.warn({ err }, 'tapes were not purged'));
    }
    this.host.told();
  }

  /** Does what was decided and committed, once the list is as it says. */
  carryOut(request: DeckRequest, info: TapeInfo | null): void {
    if (request.kind === 'rehearse') return this.steer(request);
    if (request.do === 'record' && info) this.record(info);
    if (request.do === 'stop') void this.stopRecording();
    this.fresh = null;
    this.host.told();
  }

  private steer(request: RehearseRequest): void {
    const { rehearsal } = this;
    if (request.do === 'start') this.start(request.maps ?? 'tape');
    else if (request.do === 'end') this.end();
    else if (request.do === 'play') rehearsal?.play();
    else if (request.do === 'pause') rehearsal?.pause();
    else if (request.do === 'jump') rehearsal?.jump(request.to!);
    else if (request.do === 'speed') rehearsal?.setSpeed(request.to!);
    else rehearsal?.setLoop(request.part ?? null);
  }

  /** Ends what runs, as at the end of the server: what was recorded is whole, the board says what was true. */
  async stop(): Promise<void> {
    this.end();
    await this.stopRecording();
  }

  /** The parts of a tape as one gzip file, under the name that it has now; null where there is no such tape. */
  file(key: string): { info: TapeInfo; parts: AsyncIterable<Uint8Array> } | null {
    const info = this.tapes.find((t) => t.key === key);
    return info ? { info, parts: named(this.store.tapeParts(key), info.name) } : null;
  }

  /** What is on a tape; a sentence where that cannot be had. */
  async overview(key: string): Promise<TapeOverview | string> {
    const known = this.overviews.get(key);
    if (known && known.length === this.tapes.find((t) => t.key === key)?.length) return known;
    const tape = await orProblem(this.tape(key));
    if (typeof tape === 'string') return tape;
    const found = await overviewOf(tape, this.host.profile(tape.head.profile), this.host.reader);
    this.overviews.set(key, found);
    return found;
  }

  /** Takes a tape in that was exported; gives a sentence where it is none. */
  async bring(bytes: Uint8Array): Promise<TapeInfo | string> {
    const tape = await orProblem(readTapeFile(bytes));
    if (typeof tape === 'string') return tape;
    const info = await keepTape(this.store, tape);
    await this.store.putTape(info);
    this.infos.set(info.key, info);
    this.host.told();
    return info;
  }

  /** The cut that was made just now. */
  private fresh: TapeInfo | null = null;

  private known(key: string | undefined): TapeInfo {
    const info = this.tapes.find((t) => t.key === key);
    if (!info) throw new Refusal(`There is no tape "${key ?? ''}"; it may have been deleted.`);
    return info;
  }

  private async tape(key: string): Promise<Tape> {
    this.known(key);
    if (this.recorder?.info.key === key) throw new Refusal('It is being recorded; stop that first.');
    if (this.read?.key === key) return this.read.tape;
    try {
      const tape = await readTape(this.store.tapeParts(key));
      this.read = { key, tape };
      return tape;
    } catch (error) {
      if (error instanceof TapeProblem) throw new Refusal(`This tape cannot be used. ${error.message}.`);
      throw error;
    }
  }

  private record(info: TapeInfo): void {
    const zero = Date.parse(info.recorded);
    const head = {
      tape: 1 as const,
      name: info.name,
      recorded: info.recorded,
      profile: info.profile,
      sources: this.host.bundles(),
    };
    const { store, logger } = this;
    this.recorder = new Recorder(
      info,
      head,
      zero,
      this.host.sources(),
      store,
      logger,
      this.host.scheduler,
      () => {
        const { recorder } = this;
        if (recorder && !recorder.info.recording) {
          this.infos.set(recorder.info.key, recorder.info);
          this.recorder = null;
        }
        this.host.told();
      },
    );
  }

  private async stopRecording(): Promise<void> {
    const { recorder } = this;
    if (!recorder) return;
    // Its end is a moment of the tape, too.
    const at = this.host.time.now();
    this.host.look(at);
    recorder.looked(at);
    await recorder.stop();
  }

  private start(maps: 'tape' | 'today'): void {
    const { prepared, host } = this;
    if (!prepared) return;
    this.before = host.board.remember(0);
    host.shutLines();
    const named = { ...prepared.tape, head: { ...prepared.tape.head, name: this.known(prepared.key).name } };
    this.rehearsal = new Rehearsal(named, prepared.key, maps, host);
    host.told();
    host.began();
  }

  private end(): void {
    const { rehearsal, before, host } = this;
    if (!rehearsal || !before) return;
    rehearsal.stop();
    this.rehearsal = null;
    host.spread(host.board.recall(before, 0), true);
    for (const origin of new Set([...before.fields, ...before.tables].map((f) => f.origin))) {
      const tables = host.board.tables.mark(origin, 'lost') ? before.tables.map((t) => t.key) : [];
      host.spread({ changed: [], touched: host.board.mark(origin, 'lost'), tables });
    }
    host.openLines();
    host.told();
  }
}

/** What comes of it, or the sentence why nothing does. */
function orProblem<T>(work: Promise<T>): Promise<T | string> {
  return work.catch((error: unknown) => {
    if (error instanceof TapeProblem) return `${error.message}.`;
    if (error instanceof Refusal) return error.message;
    throw error;
  });
}

/** The parts that a cut keeps; throws a Refusal where they make no sense. */
function readParts(given: readonly unknown[] | undefined, length: number): Part[] {
  const parts = (given ?? []).map((p): Partial<Part> => (isRecord(p) ? p : {}));
  let last = 0;
  for (const { from, to } of parts) {
    if (
      typeof from !== 'number' ||
      typeof to !== 'number' ||
      !(from >= last) ||
      !(to > from) ||
      from > length
    )
      throw new Refusal('Parts lie one after another on the tape, and each ends later than it begins.');
    last = to;
  }
  if (parts.length === 0) throw new Refusal('It is not said which part is kept.');
  return parts as Part[];
}

const stamp = (at: Date) =>
  `${at.toISOString().slice(0, 10)} ${String(at.getHours()).padStart(2, '0')}:${String(at.getMinutes()).padStart(2, '0')}`;

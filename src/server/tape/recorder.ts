import type { Logger } from 'pino';
import { shifted } from '../../core/board/values.ts';
import {
  writeEntry,
  writeHead,
  type SourceEvent,
  type TapeEntry,
  type TapeHead,
  type TapeInfo,
} from '../../core/tape/tape.ts';
import type { Scheduler, Timer } from '../scheduler.ts';
import type { Sources } from '../live/sources.ts';
import { DiskFull, type Store } from '../store/store.ts';
import { LARGEST_TAPE, pack } from './lines.ts';

/** How often what was said is written to the database, in ms. */
const WRITE_EVERY = 1000;
/** How much may wait for a database that is away, in characters; beyond it the recording ends. */
const PATIENCE = 64_000_000;

/** Writes everything that sources say to a tape in the database, as they go on. */
export class Recorder {
  private lines: string[] = [];
  private waiting = 0;
  private total = 0;
  private part = 0;
  private over = false;
  private problem: string | null = null;
  /** What waits does so because the disk is full. */
  private full = false;
  private writing: Promise<void> = Promise.resolve();
  private readonly timer: Timer;

  /** Begins at server time `zero` (ms, in whole eighths). */
  constructor(
    public info: TapeInfo,
    head: TapeHead,
    readonly zero: number,
    private readonly sources: Sources,
    private readonly store: Pick<Store, 'putTape'>,
    private readonly logger: Logger,
    private readonly scheduler: Scheduler,
    private readonly onTold: () => void,
  ) {
    this.write(writeHead(head));
    this.note({ at: 0, kind: 'state', memory: sources.remember(zero) });
    for (const { source, said } of sources.newest()) this.note({ at: 0, kind: 'said', source, said });
    sources.recorder = (source, said, at) => this.receive(source, said, at);
    sources.onReset = (memory, at) => this.note({ at: at - zero, kind: 'state', memory });
    this.timer = scheduler.setInterval(() => void this.flush(), WRITE_EVERY);
  }

  /** The silence of the sources was looked at, with an effect, at server time `at`. */
  looked(at: number): void {
    this.note({ at: at - this.zero, kind: 'look' });
  }

  /** Writes what is left; the tape is whole then. */
  async stop(): Promise<void> {
    this.end(null);
    await this.flush();
  }

  private receive(source: string, said: SourceEvent, at: number): void {
    const moved: SourceEvent =
      said.kind === 'press'
        ? { ...said, set: said.set.map((s) => ({ ...s, value: shifted(s.value, -this.zero) })) }
        : said;
    this.note({ at: at - this.zero, kind: 'said', source, said: moved });
  }

  private note(entry: TapeEntry): void {
    if (this.over) return;
    this.write(writeEntry(entry));
    this.info = { ...this.info, entries: this.info.entries + 1, length: entry.at };
    if (this.total > LARGEST_TAPE) this.end(`It came to ${LARGEST_TAPE / 1e6} MB, which is the limit.`);
    else if (this.waiting > PATIENCE)
      this.end(this.full ? 'The disk was full for too long.' : 'The database was away for too long.');
  }

  private write(line: string): void {
    this.lines.push(line);
    this.waiting += line.length;
    this.total += line.length;
  }

  private end(problem: string | null): void {
    if (this.over) return;
    this.over = true;
    this.scheduler.clear(this.timer);
    this.sources.recorder = null;
    this.sources.onReset = null;
    this.problem = problem;
    if (problem) void this.flush();
  }

  /** Writes what has come since the last time; what cannot be written now is tried again with the next. */
  private flush(): Promise<void> {
    return (this.writing = this.writing.then(async () => {
      const { lines, over } = this;
      if (lines.length === 0 && (!over || !this.info.recording)) return;
      // It is being recorded until its last word is written.
      const ended = over ? { recording: false, problem: this.problem } : {};
      const { entries, length } = this.info;
      this.lines = [];
      try {
        const bytes = lines.length ? await pack(lines) : null;
        const size = this.info.size + (bytes?.length ?? 0);
        const info = { ...this.info, entries, length, size, problem: null, ...ended };
        await this.store.putTape(info, bytes ? { part: this.part, bytes } : undefined);
        if (bytes) this.part++;
        this.full = false;
        this.info = { ...this.info, problem: null, size, ...ended };
        this.waiting = this.lines.reduce((sum, line) => sum + line.length, 0);
      } catch (error) {
        this.lines = [...lines, ...this.lines];
        this.full = error instanceof DiskFull;
        this.info = {
          ...this.info,
          problem: this.full ? 'The disk is full; what comes waits until there is room.' : null,
        };
        this.logger.warn({ err: error }, 'a tape could not be written; it will be tried again');
        if (this.over) this.scheduler.setTimeout(() => void this.flush(), WRITE_EVERY);
      }
      this.onTold();
    }));
  }
}

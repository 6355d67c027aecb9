import { fork, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { DocumentProblem } from '../ingest/document/limits.ts';
import type { Inspected } from './inspect.ts';

/** How long one picture may take, in ms. */
const PATIENCE = 15_000;
/** As many pictures may wait. */
const MOST_WAITING = 64;
/** How much memory the process may take for scripts, in MB. */
const MEMORY = 512;

type Work = { inspect: { bytes: Uint8Array; name: string } } | { shrink: Uint8Array };
export type Asked = { id: number } & Work;
export type Told = { id: number } & ({ result: Inspected | Uint8Array | null } | { problem: string });

interface Waiting {
  work: Work;
  done: (result: never) => void;
  failed: (error: Error) => void;
}

/**
 * Looks at pictures in a process of its own, one after another. One that takes too long, or brings the process down, costs
 * itself alone: the process is begun anew for the next.
 */
export class Pictures {
  private child: ChildProcess | null = null;
  private readonly queue: Waiting[] = [];
  private busy: { waiting: Waiting; id: number; timer: NodeJS.Timeout } | null = null;
  private count = 0;
  private closed = false;

  /** `patience` is how long one picture may take, in ms. */
  constructor(
    private readonly file: URL,
    private readonly patience = PATIENCE,
  ) {}

  inspect(bytes: Uint8Array, name: string): Promise<Inspected> {
    return this.do({ inspect: { bytes, name } });
  }

  /** The picture as a small one; null where it cannot be decoded. */
  shrunk(bytes: Uint8Array): Promise<Uint8Array | null> {
    return this.do({ shrink: bytes });
  }

  close(): void {
    this.closed = true;
    this.child?.kill('SIGKILL');
  }

  private do<T>(work: Work): Promise<T> {
    if (this.queue.length >= MOST_WAITING)
      return Promise.reject(new DocumentProblem('Too many pictures wait to be looked at already'));
    return new Promise<T>((done, failed) => {
      this.queue.push({ work, done: done as Waiting['done'], failed });
      this.next();
    });
  }

  private next(): void {
    if (this.busy || this.closed) return;
    const waiting = this.queue.shift();
    if (!waiting) return;
    const child = (this.child ??= this.started());
    const id = ++this.count;
    const timer = setTimeout(
      () => this.giveUp(child, `Looking at it took longer than ${this.patience / 1000} s`),
      this.patience,
    );
    this.busy = { waiting, id, timer };
    child.send({ id, ...waiting.work } satisfies Asked, (error) => {
      if (error) this.giveUp(child, 'It could not be looked at');
    });
  }

  private started(): ChildProcess {
    const child = fork(fileURLToPath(this.file), [], {
      serialization: 'advanced',
      execArgv: [`--max-old-space-size=${MEMORY}`],
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    });
    child.on('message', (told: Told) => {
      if (this.busy?.id !== told.id) return;
      this.settle((w) =>
        'problem' in told
          ? w.failed(new DocumentProblem(`It cannot be read (${told.problem})`))
          : w.done(told.result as never),
      );
    });
    child.on('error', () => this.giveUp(child, 'It could not be looked at'));
    child.on('exit', () => this.giveUp(child, 'It cannot be read: what looked at it broke down'));
    child.unref();
    child.channel?.unref();
    return child;
  }

  /** Ends the process; what it was at is given up, what waits is for the next. */
  private giveUp(child: ChildProcess, reason: string): void {
    if (this.child !== child) return;
    this.child = null;
    child.kill('SIGKILL');
    this.settle((w) => w.failed(new DocumentProblem(reason)));
  }

  private settle(how: (waiting: Waiting) => void): void {
    if (!this.busy) return;
    const { waiting, timer } = this.busy;
    clearTimeout(timer);
    this.busy = null;
    how(waiting);
    this.next();
  }
}

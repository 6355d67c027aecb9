import { Worker } from 'node:worker_threads';
import { DocumentProblem } from './limits.ts';
import type { ReadResult, ReadJob } from './work.ts';

/** How long one piece of work may take, in ms, and how much memory its thread may take, in MB. */
const PATIENCE = 15_000;
const MEMORY = 512;
/** As many threads work at a time, and as many of them stay when there is nothing to do. */
const MOST = 4;
const IDLE = 1;
/** As many pieces of work may wait for one owner. */
const MOST_WAITING = 16;

interface Waiting {
  owner: string;
  job: ReadJob;
  done: (done: ReadResult) => void;
  failed: (error: Error) => void;
}

interface Thread {
  worker: Worker;
  busy: { waiting: Waiting; timer: NodeJS.Timeout } | null;
}

/**
 * Reads documents off the main thread. Each owner, a source say, has one piece of work under way
 * at a time, and owners take turns, so that a slow one holds up nobody else. What takes too long or too much memory
 * costs itself and nothing else: its thread is ended.
 */
export class DocumentReader {
  private readonly threads = new Set<Thread>();
  private readonly queue: Waiting[] = [];
  private closed = false;

  constructor(private readonly file: URL) {}

  read(job: ReadJob, owner = ''): Promise<ReadResult> {
    if (this.queue.filter((w) => w.owner === owner).length >= MOST_WAITING)
      return Promise.reject(new DocumentProblem('Too much waits to be read already'));
    return new Promise((done, failed) => {
      this.queue.push({ owner, job, done, failed });
      this.next();
    });
  }

  close(): void {
    this.closed = true;
    for (const thread of this.threads) void thread.worker.terminate();
    this.threads.clear();
  }

  private next(): void {
    const busy = new Set([...this.threads].map((t) => t.busy?.waiting.owner));
    for (let at = 0; at < this.queue.length && !this.closed;) {
      const waiting = this.queue[at]!;
      const thread = busy.has(waiting.owner) ? null : this.idle();
      if (!thread) {
        at++;
        continue;
      }
      this.queue.splice(at, 1);
      busy.add(waiting.owner);
      const timer = setTimeout(
        () => this.giveUp(thread, `Reading it took longer than ${PATIENCE / 1000} s`),
        PATIENCE,
      );
      thread.busy = { waiting, timer };
      thread.worker.postMessage(waiting.job);
    }
    const idle = [...this.threads].filter((t) => !t.busy);
    for (const thread of idle.slice(IDLE)) this.end(thread);
  }

  /** A thread that has nothing to do, a new one where there may be one more; null where all are busy. */
  private idle(): Thread | null {
    for (const thread of this.threads) if (!thread.busy) return thread;
    if (this.threads.size >= MOST) return null;
    const worker = new Worker(this.file, { resourceLimits: { maxOldGenerationSizeMb: MEMORY } });
    const thread: Thread = { worker, busy: null };
    worker.on('message', (answer: { done?: ReadResult; problem?: string }) => {
      if (answer.done) this.settle(thread, (w) => w.done(answer.done!));
      else this.settle(thread, (w) => w.failed(new DocumentProblem(answer.problem ?? 'It cannot be read')));
    });
    worker.on('error', (error: NodeJS.ErrnoException) =>
      this.giveUp(
        thread,
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? 'Reading it took more memory than it may take'
          : `It could not be read (${error.message})`,
      ),
    );
    worker.unref();
    this.threads.add(thread);
    return thread;
  }

  private end(thread: Thread): void {
    this.threads.delete(thread);
    void thread.worker.terminate();
  }

  private giveUp(thread: Thread, reason: string): void {
    this.end(thread);
    this.settle(thread, (w) => w.failed(new DocumentProblem(reason)));
  }

  private settle(thread: Thread, how: (waiting: Waiting) => void): void {
    if (!thread.busy) return;
    const { waiting, timer } = thread.busy;
    clearTimeout(timer);
    thread.busy = null;
    how(waiting);
    this.next();
  }
}

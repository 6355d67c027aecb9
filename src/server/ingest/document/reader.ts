import { Worker } from 'node:worker_threads';
import { DocumentProblem } from './parse.ts';
import type { Done, Job } from './work.ts';

/** How long reading one document may take, in ms, and how much memory its thread may take, in MB. */
const PATIENCE = 15_000;
const MEMORY = 768;

interface Waiting {
  job: Job;
  done: (done: Done) => void;
  failed: (error: Error) => void;
}

/**
 * Reads documents off the main thread, one after another. A document that takes too long or too much memory costs
 * its own reading and nothing else: the thread is ended and the next document gets a new one.
 */
export class DocumentReader {
  private worker: Worker | null = null;
  private readonly queue: Waiting[] = [];
  private busy: { id: number; waiting: Waiting; timer: NodeJS.Timeout } | null = null;
  private number = 0;

  constructor(private readonly file: URL) {}

  read(job: Job): Promise<Done> {
    return new Promise((done, failed) => {
      this.queue.push({ job, done, failed });
      this.next();
    });
  }

  close(): void {
    void this.worker?.terminate();
    this.worker = null;
  }

  private next(): void {
    if (this.busy) return;
    const waiting = this.queue.shift();
    if (!waiting) return;
    const id = ++this.number;
    const timer = setTimeout(
      () => this.giveUp(`Reading the document took longer than ${PATIENCE / 1000} s`),
      PATIENCE,
    );
    this.busy = { id, waiting, timer };
    this.thread().postMessage({ id, job: waiting.job });
  }

  private thread(): Worker {
    if (this.worker) return this.worker;
    const worker = new Worker(this.file, { resourceLimits: { maxOldGenerationSizeMb: MEMORY } });
    worker.on('message', (answer: { id: number; done?: Done; problem?: string }) => {
      if (answer.id !== this.busy?.id) return;
      if (answer.done) this.settle((w) => w.done(answer.done!));
      else this.settle((w) => w.failed(new DocumentProblem(answer.problem ?? 'The document cannot be read')));
    });
    worker.on('error', () => this.giveUp('Reading the document took more memory than one may take'));
    worker.unref();
    this.worker = worker;
    return worker;
  }

  private giveUp(reason: string): void {
    void this.worker?.terminate();
    this.worker = null;
    if (this.busy) this.settle((w) => w.failed(new DocumentProblem(reason)));
  }

  private settle(how: (waiting: Waiting) => void): void {
    const { waiting, timer } = this.busy!;
    clearTimeout(timer);
    this.busy = null;
    how(waiting);
    this.next();
  }
}

import { parentPort } from 'node:worker_threads';
import { readBytes, type Job } from './work.ts';

/** The thread in which documents are read, so that a large one never holds up a score. */
parentPort!.on('message', ({ id, job }: { id: number; job: Job }) => {
  readBytes(job).then(
    (done) => parentPort!.postMessage({ id, done }),
    (error: unknown) => parentPort!.postMessage({ id, problem: (error as Error).message }),
  );
});

import { parentPort } from 'node:worker_threads';
import { readBytes, type ReadJob } from './work.ts';

/** A thread in which documents are read, so that a large one never holds up a score. */
parentPort!.on('message', (job: ReadJob) => {
  readBytes(job).then(
    (done) => parentPort!.postMessage({ done }),
    (error: unknown) => parentPort!.postMessage({ problem: (error as Error).message }),
  );
});

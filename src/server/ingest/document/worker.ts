import { parentPort } from 'node:worker_threads';
import { inspect } from '../../media/inspect.ts';
import type { Work } from './reader.ts';
import { readBytes } from './work.ts';

/** A thread in which documents are read and pictures looked at, so that a large one never holds up a score. */
parentPort!.on('message', (work: Work) => {
  const result = 'read' in work ? readBytes(work.read) : inspect(work.inspect.bytes, work.inspect.name);
  result.then(
    (done) => parentPort!.postMessage({ done }),
    (error: unknown) => parentPort!.postMessage({ problem: (error as Error).message }),
  );
});

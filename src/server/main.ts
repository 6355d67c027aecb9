import { dirname, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { readConfig, type Config } from './config.ts';
import { startFoothill } from './foothill.ts';

const home = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
// A log that cannot be written, on a disk that is full say, is no reason to end.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => {});
const out = pino.destination({ sync: true });
out.on('error', () => {});
const log = pino(
  {
    level: process.env['FOOTHILL_LOG'] || 'info',
    base: undefined,
    timestamp: pino.stdTimeFunctions.isoTime,
  },
  out,
);

/** Says why on the log and to whoever started us, and ends. */
function giveUp(text: string, error?: unknown): void {
  log.fatal({ err: error }, text);
  if (process.send) process.send({ failed: text }, () => process.exit(1));
  else process.exit(1);
}

async function start(config: Config): Promise<void> {
  let end: () => Promise<void> = async () => {};
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    void end().finally(() => process.exit(0));
    setTimeout(() => process.exit(0), 4000).unref();
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  // Started by the start command, it must not outlive it.
  if (process.send) process.on('disconnect', stop);
  end = await startFoothill(config, log);
  process.send?.({ ready: true });
}

process.on('unhandledRejection', (error) =>
  log.error({ err: error }, 'a promise was rejected and nobody looked'),
);
process.on('uncaughtException', (error: NodeJS.ErrnoException) => {
  // What a system call says of a line, a file or a connection is for whoever works with it and leaves all else as it is;
  // anything else may have left things half done, so the engine starts anew.
  if (error.syscall !== undefined) log.error({ err: error }, 'a connection or file failed and nobody looked');
  else giveUp(`it met what it does not know: ${error.message}`, error);
});
try {
  await start(readConfig(process.env, home));
} catch (error) {
  giveUp(error instanceof Error ? error.message : 'The server could not start.', error);
}

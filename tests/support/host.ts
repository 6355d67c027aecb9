// Runs one engine after another in one process, each with what it is told of its world: to read the program takes most of an
// engine's start. It is the whole program but for its own process (src/server/main.ts), which other tests start and kill.
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { readConfig } from '../../src/server/config.ts';
import { startFoothill } from '../../src/server/foothill.ts';

const home = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
let end: () => Promise<void> = async () => {};

async function take(message: { begin: Record<string, string> } | 'end'): Promise<void> {
  try {
    if (message === 'end') {
      await end();
      end = async () => {};
    } else {
      Object.assign(process.env, message.begin);
      const config = readConfig(process.env, home);
      const to = pino.destination({ dest: join(config.data, 'engine.log'), mkdir: true, sync: true });
      end = await startFoothill(
        config,
        pino({ base: undefined, timestamp: pino.stdTimeFunctions.isoTime }, to),
      );
    }
    process.send!({ done: true });
  } catch (error) {
    process.send!({ failed: (error as Error).message });
  }
}

process.on('message', (message) => void take(message as Parameters<typeof take>[0]));
process.on('disconnect', () => process.exit());
process.send!({ ready: true });

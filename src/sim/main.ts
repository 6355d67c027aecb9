import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { startSimulators } from './simulators.ts';

// A log that cannot be written, on a disk that is full say, is no reason to end.
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => {});

const { env } = process;
try {
  const end = await startSimulators({
    port: Number(env['FOOTHILL_SIM_PORT'] || 4320),
    pages: join(dirname(fileURLToPath(import.meta.url)), 'console'),
    // Made when the demo starts it; a simulator that runs alone only serves what it would write.
    files: env['FOOTHILL_DATA'] ? join(env['FOOTHILL_DATA'], 'inbox') : null,
    serial: env['FOOTHILL_SIM_SERIAL'] || null,
    autopilot: env['FOOTHILL_SIM_AUTOPILOT'] === '1' ? Number(env['FOOTHILL_SIM_SEED'] || 7) : null,
  });
  const stop = () => {
    end();
    process.exit(0);
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  if (process.send) process.on('disconnect', stop);
  process.send?.({ ready: true });
} catch (error) {
  console.error((error as Error).message);
  process.exit(1);
}

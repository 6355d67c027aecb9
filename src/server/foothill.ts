import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import type { Logger } from 'pino';
import type { Config } from './config.ts';
import { createFoothillServer, pagesOf } from './http/server.ts';
import { Engine } from './live/engine.ts';
import { keepPages } from './live/kept-pages.ts';
import { loadWorld } from './live/world.ts';
import { seedBasics, seedDemo } from './store/seed.ts';
import { Store } from './store/store.ts';

/**
 * Opens the database, starts the engine and serves it; gives what ends it all again. Rejects with a sentence where the database
 * cannot be opened or the port is in use.
 */
export async function startFoothill(config: Config, log: Logger): Promise<() => Promise<void>> {
  let engine: Engine | null = null;
  pagesOf(config).catch(() => {});
  const store = await Store.open(config, log, () => engine?.databaseChanged());
  store.room.onFull = () => engine?.databaseChanged();
  if (config.demo) await seedDemo(store, config);
  else await seedBasics(store, config);
  // Where other programs put files for sources to read.
  for (const folder of config.reach.folders) mkdirSync(folder, { recursive: true });
  engine = new Engine(await loadWorld(store), store, log, config.reach);
  await engine.start();
  store.begun();
  const endKeeping = keepPages(engine.hub, join(config.data, 'open-pages.json'));
  const server = await createFoothillServer(config, engine);
  const running = engine;
  await new Promise<void>((done, failed) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      const text =
        error.code === 'EADDRINUSE'
          ? `Port ${config.port} is in use by another program. Stop it, or set FOOTHILL_PORT to a free port.`
          : `The server cannot listen on ${config.host}:${config.port}: ${error.message}`;
      failed(new Error(text));
    });
    server.listen(config.port, config.host, done);
  });
  log.info({ host: config.host, port: config.port }, 'listening');
  return async () => {
    log.info('stopping');
    endKeeping();
    server.close();
    server.closeAllConnections();
    await running.stop();
    await store.close();
  };
}

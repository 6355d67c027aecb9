import { join } from 'node:path';
import type { Logger } from 'pino';
import { makeFolder } from '../../scripts/lib/folder.mjs';
import type { Config } from './config.ts';
import { createFoothillServer, pagesOf } from './http/server.ts';
import { Engine } from './live/engine.ts';
import { keepPages } from './live/kept-pages.ts';
import { loadWorld } from './live/world.ts';
import { seedBasics, seedDemo, shippedWith } from './store/seed.ts';
import { Store } from './store/store.ts';
import { damagedTable } from './store/trouble.ts';

/**
 * Opens the database, starts the engine and serves it; gives what ends it all again. Rejects with a sentence where the database
 * cannot be opened or the port is in use.
 */
export async function startFoothill(config: Config, log: Logger): Promise<() => Promise<void>> {
  try {
    return await started(config, log);
  } catch (error) {
    const table = damagedTable(error);
    if (table === null) throw error;
    const db = join(config.data, 'db');
    throw new Error(
      `The table "${table}" of the database is damaged, so Foothill does not start. Nothing was changed. Put back a copy of ${db}; or keep it and begin with an empty one: mv ${db} ${db}.damaged`,
      { cause: error },
    );
  }
}

async function started(config: Config, log: Logger): Promise<() => Promise<void>> {
  let engine: Engine | null = null;
  pagesOf(config).catch(() => {});
  const store = await Store.open(config, log, () => engine?.databaseChanged());
  store.room.onFull = () => engine?.databaseChanged();
  if (config.demo) await seedDemo(store, config);
  else await seedBasics(store, config);
  // Where other programs put files for sources to read.
  for (const folder of config.reach.folders)
    try {
      makeFolder(folder);
    } catch (error) {
      const { code } = error as NodeJS.ErrnoException;
      throw new Error(
        `The folder ${folder}, where sources read files, cannot be made (${code}). Set FOOTHILL_FILES to folders that can.`,
        { cause: error },
      );
    }
  engine = new Engine(await loadWorld(store, shippedWith(config)), store, log, config.reach);
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

// Kills, garbage, floods, a full disk and a database that is away, at random: npm run torture. FOOTHILL_SEED repeats a run.
import { ensureDebian, ensureNpm } from './lib/packages.mjs';

ensureDebian(['mariadb-server']);
ensureNpm();
const { build } = await import('./build.mjs');
await build();
const { loadTool, withDatabase } = await import('./lib/tool.mjs');
process.exit(
  await withDatabase(
    24312,
    async (database) => (await loadTool(['bench/torture.ts'], 'dist/bench')).torture(database),
    700,
  ),
);

// Measures what Foothill claims, against floors in the same run. Prints a table, then JSON.
import { ensureDebian, ensureNpm } from './lib/packages.mjs';

ensureDebian(['mariadb-server', 'chromium-headless-shell', 'socat']);
ensureNpm();
const { build } = await import('./build.mjs');
await build();
const { loadTool, withDatabase } = await import('./lib/tool.mjs');
// Measures that are named are taken alone: `npm run bench -- killed`.
const only = process.argv.slice(2);
process.exit(
  await withDatabase(24311, async () =>
    (await loadTool(['bench/run.ts', 'bench/floor.ts', 'bench/floor-action.ts'], 'dist/bench')).run(only),
  ),
);

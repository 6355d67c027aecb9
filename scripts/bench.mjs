// Measures what Foothill claims, against floors in the same run. Prints a table, then JSON.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ensureDebian, ensureNpm } from './lib/packages.mjs';
import { home } from './lib/settings.mjs';

ensureDebian(['mariadb-server', 'chromium']);
ensureNpm();
const { build } = await import('./build.mjs');
await build();
const { build: bundle } = await import('esbuild');
const outfile = join(home, 'dist/bench/run.js');
await bundle({
  entryPoints: [join(home, 'bench/run.ts'), join(home, 'bench/floor.ts')],
  outdir: join(home, 'dist/bench'),
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  logLevel: 'error',
});
const { startDatabase } = await import('./lib/database.mjs');
const { endProcess } = await import('./lib/processes.mjs');
const data = mkdtempSync(join(tmpdir(), 'foothill-bench-'));
const port = 24311;
const { child, password } = await startDatabase({ data, port });
process.env.FOOTHILL_TEST_DB = JSON.stringify({ port, password });
let code = 1;
try {
  const { run } = await import(pathToFileURL(outfile).href);
  code = await run();
} finally {
  await endProcess(child.pid);
  rmSync(data, { recursive: true, force: true });
}
process.exit(code);

// Kills, garbage, floods and a database that is away, at random: npm run torture. FOOTHILL_SEED repeats a run.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ensureDebian, ensureNpm } from './lib/packages.mjs';
import { home } from './lib/settings.mjs';

ensureDebian(['mariadb-server']);
ensureNpm();
const { build } = await import('./build.mjs');
await build();
const { build: bundle } = await import('esbuild');
const outfile = join(home, 'dist/bench/torture.js');
await bundle({
  entryPoints: [join(home, 'bench/torture.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  logLevel: 'error',
});
const { startDatabase } = await import('./lib/database.mjs');
const { endProcess } = await import('./lib/processes.mjs');
const data = mkdtempSync(join(tmpdir(), 'foothill-torture-'));
const port = 24312;
const { child, password } = await startDatabase({ data, port });
let code = 1;
try {
  const { torture } = await import(pathToFileURL(outfile).href);
  code = await torture({ port, password, pid: child.pid });
} finally {
  await endProcess(child.pid);
  rmSync(data, { recursive: true, force: true });
}
process.exit(code);

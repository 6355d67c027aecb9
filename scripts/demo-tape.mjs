// Makes the demo's tape anew: a whole game, played by the simulators in no time, cut to its key minutes.
// `node scripts/demo-tape.mjs`, after a build, writes data/demo/tapes/key-minutes.jsonl.gz.
import { build } from 'esbuild';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { home } from './lib/settings.mjs';

const outfile = join(home, 'dist/demo-tape.js');
await build({
  entryPoints: [join(home, 'scripts/demo-tape/make.ts')],
  outfile,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  packages: 'external',
  logLevel: 'error',
});
const { make } = await import(pathToFileURL(outfile).href);
console.log(await make(home));
process.exit(0);

// Builds what changed: the engine, the simulators and the pages, each only when its sources did.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { pathToFileURL } from 'node:url';
import { brotliCompressSync, constants } from 'node:zlib';
import { home } from './lib/settings.mjs';
import { fail, say } from './lib/say.mjs';

function* filesIn(path) {
  if (!existsSync(path)) return;
  if (statSync(path).isFile()) return void (yield path);
  for (const name of readdirSync(path).sort()) yield* filesIn(join(path, name));
}

/** A hash over the contents of all sources; tests are none. */
function stampOf(paths) {
  const hash = createHash('sha1');
  for (const path of paths) {
    for (const file of filesIn(join(home, path))) {
      if (/\.test\.tsx?$/.test(file)) continue;
      hash.update(relative(home, file)).update('\0').update(readFileSync(file)).update('\0');
    }
  }
  return hash.digest('hex');
}

/** Packs what never changes once and as well as can be, so that a slow line carries the least. */
function packAhead(folder) {
  for (const file of filesIn(folder)) {
    if (!/\.(js|css|svg)$/.test(file)) continue;
    const text = readFileSync(file);
    const params = { [constants.BROTLI_PARAM_QUALITY]: 11, [constants.BROTLI_PARAM_SIZE_HINT]: text.length };
    if (text.length > 400) writeFileSync(`${file}.br`, brotliCompressSync(text, { params }));
  }
}

// Packages are within: an engine that was killed is back in half the time when it reads one file, not two thousand. For the
// same reason there are no source maps: what is read here is not minified and names its files.
const node = {
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  // Those that load machine code or files of their own, and what only another database would want.
  external: ['sharp', 'serialport', 'jsdom', 'pg-hstore'],
  mainFields: ['module', 'main'],
  // What packages of the older kind take for given.
  banner: {
    js: [
      `import { createRequire as requireFor } from 'node:module';`,
      `const require = requireFor(import.meta.url);`,
      `const { filename: __filename, dirname: __dirname } = import.meta;`,
    ].join('\n'),
  },
  plugins: [
    {
      // What packages read at the start of all that is never used here: an engine that was killed is back the sooner.
      name: 'never used',
      setup: (it) => {
        // Migrations are run by the engine, not from a command line.
        it.onLoad({ filter: /node_modules\/umzug\/lib\/cli\.js$/ }, () => ({
          contents: 'exports.UmzugCLI = null',
        }));
        // The database has times as UTC: the time zones of the world are not needed to read them.
        it.onLoad({ filter: /node_modules\/moment-timezone\/index\.js$/ }, () => ({
          contents: "module.exports = require('./moment-timezone')",
        }));
      },
    },
  ],
  absWorkingDir: home,
  logLevel: 'error',
};

/** The programs that are made of TypeScript, as esbuild is told: the engine with its processes, the simulators, their console. */
export const programs = [
  {
    ...node,
    entryPoints: {
      main: 'src/server/main.ts',
      worker: 'src/server/ingest/document/worker.ts',
      pictures: 'src/server/media/picture-process.ts',
    },
    outdir: 'dist/engine',
  },
  { ...node, entryPoints: ['src/sim/main.ts'], outfile: 'dist/sim/main.js' },
  {
    bundle: true,
    minify: true,
    format: 'esm',
    target: 'es2022',
    absWorkingDir: home,
    logLevel: 'error',
    entryPoints: ['src/sim/console/console.ts', 'src/sim/console/console.css'],
    loader: { '.woff2': 'file', '.woff': 'empty' },
    outdir: 'dist/sim/console',
  },
];

export async function build({ force = false } = {}) {
  const stamp = stampOf([
    'src',
    'public',
    'astro.config.ts',
    'tsconfig.json',
    'package-lock.json',
    'scripts/build.mjs',
  ]);
  const stampFile = join(home, 'dist/stamp');
  if (!force && existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return false;
  say('building');
  rmSync(stampFile, { force: true });
  const { build: bundle } = await import('esbuild');
  try {
    await Promise.all(programs.map((program) => bundle(program)));
    mkdirSync(join(home, 'dist/sim/console'), { recursive: true });
    writeFileSync(
      join(home, 'dist/sim/console/index.html'),
      readFileSync(join(home, 'src/sim/console/index.html')),
    );
  } catch {
    fail('the engine could not be built; the errors are above.');
  }
  const astro = spawnSync(
    process.execPath,
    [join(home, 'node_modules/astro/astro.js'), 'build', '--silent'],
    {
      cwd: home,
      encoding: 'utf8',
      env: { ...process.env, ASTRO_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' },
    },
  );
  if (astro.status !== 0) fail(`the pages could not be built:\n${astro.stdout}${astro.stderr}`);
  packAhead(join(home, 'dist/astro/client'));
  writeFileSync(stampFile, stamp);
  return true;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href)
  await build({ force: process.argv.includes('--force') });

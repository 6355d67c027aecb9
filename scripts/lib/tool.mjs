import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { startDatabase } from './database.mjs';
import { endProcess } from './processes.mjs';
import { home } from './settings.mjs';

/** Bundles programs in TypeScript for Node; gives the module of the first. */
export async function loadTool(files, outdir = 'dist/tools') {
  const { build } = await import('esbuild');
  await build({
    entryPoints: files.map((file) => join(home, file)),
    outdir: join(home, outdir),
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    logLevel: 'error',
  });
  const name = files[0].split('/').at(-1).replace(/\.ts$/, '.js');
  return import(pathToFileURL(join(home, outdir, name)).href);
}

/**
 * Does some work with a database of its own, which is ended and taken away after it. `megabytes`: on a disk of its own of
 * that size, where one can be made.
 */
export async function withDatabase(port, work, megabytes = 0) {
  const data = mkdtempSync(join(tmpdir(), 'foothill-tool-'));
  const own =
    megabytes > 0 &&
    spawnSync('mount', ['-t', 'tmpfs', '-o', `size=${megabytes}m`, 'tmpfs', data], { stdio: 'ignore' })
      .status === 0;
  const { password, ...begun } = await startDatabase({ data, port });
  let { child } = begun;
  process.env.FOOTHILL_TEST_DB = JSON.stringify({ port, password });
  try {
    return await work({
      port,
      password,
      pid: () => child.pid,
      disk: own ? data : null,
      alive: () => child.exitCode === null && child.signalCode === null,
      revive: async () => ({ child } = await startDatabase({ data, port })),
    });
  } finally {
    await endProcess(child.pid);
    if (own) spawnSync('umount', [data], { stdio: 'ignore' });
    rmSync(data, { recursive: true, force: true });
  }
}

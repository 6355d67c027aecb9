// Every test: installs what it needs, builds, runs the unit tests and the end-to-end tests.
import { spawnSync } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ensureDebian, ensureNpm } from './lib/packages.mjs';
import { home } from './lib/settings.mjs';

function run(name, args) {
  const { status } = spawnSync(join(home, 'node_modules/.bin', name), args, {
    cwd: home,
    stdio: ['ignore', 'inherit', 'inherit'],
  });
  return status ?? 1;
}

/** What a runner wrote to its report; a runner that broke before writing one counts as one failure. */
function counts(file, status, read) {
  try {
    const found = read(JSON.parse(readFileSync(join(home, 'test-results', file), 'utf8')));
    return status !== 0 && found.failed === 0 ? { ...found, failed: 1 } : found;
  } catch {
    return { passed: 0, failed: 1 };
  }
}

/** Runs all tests; gives how many passed and failed. */
export async function test() {
  ensureDebian(['mariadb-server', 'chromium', 'socat']);
  ensureNpm();
  const { build } = await import('./build.mjs');
  await build();
  mkdirSync(join(home, 'test-results'), { recursive: true });
  for (const file of ['unit.json', 'e2e.json']) rmSync(join(home, 'test-results', file), { force: true });
  const unit = counts('unit.json', run('vitest', ['run']), (r) => ({
    passed: r.numPassedTests,
    failed: r.numFailedTests,
  }));
  const e2e = counts('e2e.json', run('playwright', ['test']), (r) => ({
    passed: r.stats.expected,
    failed: r.stats.unexpected + r.stats.flaky + r.errors.length,
  }));
  return { passed: unit.passed + e2e.passed, failed: unit.failed + e2e.failed };
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  const { passed, failed } = await test();
  console.log(`${passed} passed, ${failed} failed`);
  process.exit(failed || !passed ? 1 : 0);
}

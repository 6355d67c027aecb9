// The tests. `npm test`: installs what it needs, builds, runs all of them. `npm test -- FILE…`: those of these files alone, by
// path or by a part of it. `npm test -- --changed[=REV]`: those of what was changed since REV (HEAD where none is named).
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join, relative, resolve } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ensureDebian, ensureNpm } from './lib/packages.mjs';
import { home } from './lib/settings.mjs';

/** Runs a program of ours to its end; gives its exit code. */
const run = (name, args) =>
  new Promise((done) => {
    const how = { cwd: home, stdio: ['ignore', 'inherit', 'inherit'] };
    const child = spawn(join(home, 'node_modules/.bin', name), args, how);
    child.once('error', () => done(1));
    child.once('close', (code) => done(code ?? 1));
  });

/** What a runner wrote to its report; a runner that broke before writing one counts as one failure. */
function counts(file, status, read) {
  try {
    const found = read(JSON.parse(readFileSync(join(home, 'test-results', file), 'utf8')));
    return status !== 0 && found.failed === 0 ? { ...found, failed: 1 } : found;
  } catch {
    return { passed: 0, failed: 1 };
  }
}

/**
 * What each runner is told: the arguments of the unit tests and of the browser's, null where one is not needed. Files that both
 * could mean are given to both.
 * @param {string[]} asked what stands behind `npm test --`
 */
export function plan(asked) {
  const changed = asked.find((a) => /^--changed(=|$)/.test(a));
  const files = asked
    .filter((a) => !a.startsWith('--'))
    .map((a) => (existsSync(resolve(home, a)) ? relative(home, resolve(home, a)) : a));
  const unknown = asked.filter((a) => a.startsWith('--') && a !== changed);
  if (unknown.length)
    throw new Error(`npm test knows no ${unknown.join(', ')}; it takes files and --changed.`);
  const rev = changed?.split('=')[1];
  const only = [
    ...(changed ? [rev ? `--changed=${rev}` : '--changed'] : []),
    ...(changed || files.length ? ['--passWithNoTests'] : []),
  ];
  const isUnit = (f) => /\.test\.tsx?$/.test(f) || /^(src|scripts)\b/.test(f);
  const isBrowser = (f) => /\.spec\.ts$/.test(f) || f.startsWith('tests/');
  const forUnit = files.filter((f) => !isBrowser(f));
  const forBrowser = files.filter((f) => !isUnit(f));
  return {
    unit: files.length && !forUnit.length ? null : ['run', ...only, ...forUnit],
    browser:
      files.length && !forBrowser.length
        ? null
        : [
            'test',
            ...(changed ? [rev ? `--only-changed=${rev}` : '--only-changed'] : []),
            ...(changed || files.length ? ['--pass-with-no-tests'] : []),
            ...forBrowser,
          ],
  };
}

/** Runs the tests that are asked for, all where none are named; gives how many passed and failed. */
export async function test(asked = []) {
  const { unit, browser } = plan(asked);
  ensureNpm();
  const { build } = await import('./build.mjs');
  if (browser) ensureDebian(['mariadb-server', 'chromium-headless-shell', 'socat']);
  mkdirSync(join(home, 'test-results'), { recursive: true });
  for (const file of ['unit.json', 'e2e.json']) rmSync(join(home, 'test-results', file), { force: true });
  const none = { passed: 0, failed: 0 };
  // What is built is for the browser: the unit tests need not wait for it.
  const [status] = await Promise.all([unit && run('vitest', unit), browser && build()]);
  const units =
    unit && counts('unit.json', status, (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests }));
  const pages =
    browser &&
    counts('e2e.json', await run('playwright', browser), (r) => ({
      passed: r.stats.expected,
      failed: r.stats.unexpected + r.stats.flaky + r.errors.length,
    }));
  const [a, b] = [units ?? none, pages ?? none];
  return { passed: a.passed + b.passed, failed: a.failed + b.failed };
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  const asked = process.argv.slice(2);
  try {
    const { passed, failed } = await test(asked);
    console.log(`${passed} passed, ${failed} failed`);
    process.exit(failed || (!passed && asked.length === 0) ? 1 : 0);
  } catch (error) {
    console.error(`foothill: ${error.message}`);
    process.exit(1);
  }
}

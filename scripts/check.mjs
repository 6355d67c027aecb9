// Types, lint, format and the import rules. Prints one line each; ends with the numbers.
import { spawnSync } from 'node:child_process';
import { pathToFileURL } from 'node:url';
import { ensureNpm } from './lib/packages.mjs';
import { home } from './lib/settings.mjs';

const bin = (name) => `node_modules/.bin/${name}`;
const CHECKS = [
  ['types', bin('tsc'), ['--noEmit']],
  ['types of the pages', bin('astro'), ['check', '--minimumSeverity', 'error']],
  ['lint', bin('eslint'), ['.', '--max-warnings', '0']],
  ['format', bin('prettier'), ['--check', '--log-level', 'warn', '.']],
  ['import rules', bin('depcruise'), ['src', '--config', '.dependency-cruiser.cjs']],
];

/** Runs every check; gives how many held and how many did not. */
export function check() {
  ensureNpm();
  const env = { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' };
  spawnSync(bin('astro'), ['sync', '--silent'], { cwd: home, env });
  const counts = { passed: 0, failed: 0 };
  for (const [name, command, args] of CHECKS) {
    const run = spawnSync(command, args, { cwd: home, encoding: 'utf8', env });
    const ok = run.status === 0;
    counts[ok ? 'passed' : 'failed']++;
    console.log(`${ok ? 'ok    ' : 'FAILED'} ${name}`);
    if (!ok) console.log(`${run.stdout}${run.stderr}`);
  }
  return counts;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  const { passed, failed } = check();
  console.log(`${passed} passed, ${failed} failed`);
  process.exit(failed ? 1 : 0);
}

// Types, lint, format and the import rules. Prints one line each; ends with the numbers.
import { spawn, spawnSync } from 'node:child_process';
import { pathToFileURL } from 'node:url';
import { ensureNpm } from './lib/packages.mjs';
import { home } from './lib/settings.mjs';

const bin = (name) => `node_modules/.bin/${name}`;
const CHECKS = [
  ['lint', bin('oxlint'), ['--type-aware', '--deny-warnings', '--report-unused-disable-directives']],
  // The version of it that checks in a quarter of the time; Astro's own check speaks to the older one.
  ['types', 'node_modules/typescript-7/bin/tsc', ['--noEmit', '-p', '.']],
  // The pages alone: for all that tsc knows it takes twice as long.
  [
    'types of pages',
    bin('astro'),
    ['check', '--minimumSeverity', 'error', '--tsconfig', 'tsconfig.pages.json'],
  ],
  ['format', bin('oxfmt'), ['--check', '.']],
  ['format of pages', bin('prettier'), ['--check', '--log-level', 'warn', '**/*.astro']],
  ['import rules', bin('depcruise'), ['src', '--config', '.dependency-cruiser.cjs']],
];

/** Runs one check to its end; gives whether it held, and what it said. */
const runCheck = (command, args, env) =>
  new Promise((done) => {
    const child = spawn(command, args, { cwd: home, env, stdio: ['ignore', 'pipe', 'pipe'] });
    const said = [];
    for (const out of [child.stdout, child.stderr]) out.on('data', (part) => said.push(part));
    child.once('error', (error) => done({ ok: false, said: `${error.message}\n` }));
    child.once('close', (code) => done({ ok: code === 0, said: Buffer.concat(said).toString() }));
  });

/** Runs every check, two at a time; gives how many held and how many did not. */
export async function check() {
  ensureNpm();
  const env = { ...process.env, ASTRO_TELEMETRY_DISABLED: '1' };
  spawnSync(bin('astro'), ['sync', '--silent'], { cwd: home, env });
  const counts = { passed: 0, failed: 0 };
  const left = [...CHECKS];
  const lane = async () => {
    for (let next = left.shift(); next; next = left.shift()) {
      const [name, command, args] = next;
      const { ok, said } = await runCheck(command, args, env);
      counts[ok ? 'passed' : 'failed']++;
      console.log(`${ok ? 'ok    ' : 'FAILED'} ${name}`);
      if (!ok) console.log(said);
    }
  };
  await Promise.all([lane(), lane()]);
  return counts;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) {
  const { passed, failed } = await check();
  console.log(`${passed} passed, ${failed} failed`);
  process.exit(failed ? 1 : 0);
}

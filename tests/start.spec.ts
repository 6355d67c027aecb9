import { spawn, type ChildProcess } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from './support/test.ts';
import { home } from '../scripts/lib/settings.mjs';
import { freeRun } from './support/ports.ts';
import { sleep } from './support/world.ts';

test.setTimeout(240_000);
const data = mkdtempSync(join(tmpdir(), 'foothill-start-'));
let env: Record<string, string>;
test.beforeAll(async () => {
  const sim = await freeRun();
  const [port, db] = [sim + 16, sim + 17];
  env = {
    FOOTHILL_DATA: data,
    FOOTHILL_PORT: String(port),
    FOOTHILL_DB_PORT: String(db),
    FOOTHILL_SIM_PORT: String(sim),
  };
});
test.afterAll(() => rmSync(data, { recursive: true, force: true }));

interface Run {
  child: ChildProcess;
  output: () => string;
  ended: Promise<number | null>;
}

function start(more: Record<string, string> = {}, ...args: string[]): Run {
  const child = spawn(process.execPath, [join(home, 'scripts/start.mjs'), ...args], {
    env: { ...process.env, ...env, ...more },
  });
  let text = '';
  child.stdout.on('data', (d) => (text += String(d)));
  child.stderr.on('data', (d) => (text += String(d)));
  return {
    child,
    output: () => text,
    ended: new Promise((done) => child.once('exit', (code) => done(code))),
  };
}

/** Processes whose command line or environment names this test's data folder. */
function left(): string[] {
  return readdirSync('/proc').filter((pid) => {
    if (!/^\d+$/.test(pid) || Number(pid) === process.pid) return false;
    try {
      return (
        readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(data) ||
        readFileSync(`/proc/${pid}/environ`, 'utf8').includes(data)
      );
    } catch {
      return false;
    }
  });
}

const ready = (run: Run) =>
  expect.poll(run.output, { timeout: 60_000 }).toContain(`ready http://127.0.0.1:${env['FOOTHILL_PORT']}`);
const url = (path: string) => `http://127.0.0.1:${env['FOOTHILL_PORT']}${path}`;
const act = (body: object) =>
  fetch(url('/api/actions'), { method: 'POST', body: JSON.stringify({ id: crypto.randomUUID(), ...body }) });

test('the demo starts, ends on Ctrl-C with nothing left behind, survives kill -9, and keeps its data', async () => {
  let run = start({}, '--demo');
  await ready(run);
  expect(run.output()).toContain(url('/live'));
  const sim = await fetch(`http://127.0.0.1:${Number(env['FOOTHILL_SIM_PORT']) + 1}/`);
  expect(await sim.text()).toContain('Simulated controller');
  // A database that has just started on a busy machine may be asked again.
  const pin = async () => (await act({ kind: 'pin', field: 'home.score', text: '9' })).status;
  await expect.poll(pin, { timeout: 60_000 }).toBe(200);
  run.child.kill('SIGINT');
  expect(await run.ended).toBe(0);
  await expect.poll(left).toEqual([]);

  run = start({}, '--demo');
  await ready(run);
  expect(await (await fetch(url('/state/fields/home.score.txt'))).text()).toBe('9');
  const second = start({}, '--demo');
  expect(await second.ended).toBe(1);
  expect(second.output()).toContain('it runs already');
  run.child.kill('SIGKILL');
  await run.ended;

  run = start({}, '--demo');
  await ready(run);
  expect(await (await fetch(url('/state/fields/home.score.txt'))).text()).toBe('9');
  const engine = Number(readFileSync(join(data, 'run/engine.pid'), 'utf8'));
  process.kill(engine, 'SIGKILL');
  await expect.poll(run.output, { timeout: 60_000 }).toContain('starts again');
  await expect
    .poll(async () => (await fetch(url('/healthz')).catch(() => null))?.status, { timeout: 60_000 })
    .toBe(200);
  run.child.kill('SIGTERM');
  await run.ended;
  await expect.poll(left).toEqual([]);
});

test('without the demo it starts empty of items; trouble is one sentence that says what to do', async () => {
  const fresh = join(data, 'plain');
  const plain = start({ FOOTHILL_DATA: fresh });
  await ready(plain);
  expect(plain.output()).not.toContain('simulated');
  const { sources } = (await (await fetch(url('/healthz'))).json()) as { sources: unknown[] };
  expect(sources).toMatchObject([{ key: 'pad', health: 'live' }]);
  plain.child.kill('SIGINT');
  await plain.ended;

  const taken = createServer().listen(Number(env['FOOTHILL_PORT']), '127.0.0.1');
  await sleep(100);
  const blocked = start({ FOOTHILL_DATA: fresh });
  expect(await blocked.ended).toBe(1);
  expect(blocked.output().trim()).toBe(
    `foothill: port ${env['FOOTHILL_PORT']} is in use by another program. Stop it, or set FOOTHILL_PORT to a free port.`,
  );
  taken.close();

  const odd = start({ FOOTHILL_PORT: 'many' });
  expect(await odd.ended).toBe(1);
  expect(odd.output()).toContain('FOOTHILL_PORT is "many"; it must be a port');

  for (const file of readdirSync(join(fresh, 'db')).filter((f) => /^(ibdata|ib_logfile|aria_log)/.test(f))) {
    writeFileSync(join(fresh, 'db', file), 'not a database');
  }
  const damaged = start({ FOOTHILL_DATA: fresh });
  expect(await damaged.ended).toBe(1);
  expect(damaged.output()).toContain(`move it aside (mv ${fresh} ${fresh}.broken) and start again`);
  await expect.poll(left).toEqual([]);
});

test('what was ended while it was still starting leaves nothing behind; logs and pid files that cannot be written stop nothing', async () => {
  const fresh = join(data, 'early');
  // A folder stands where a file would be written.
  for (const name of ['run/engine.pid', 'engine.log']) mkdirSync(join(fresh, name), { recursive: true });
  const odd = start({ FOOTHILL_DATA: fresh });
  await ready(odd);
  expect(odd.output()).toContain('engine.pid cannot be written');
  odd.child.kill('SIGINT');
  expect(await odd.ended).toBe(0);
  await expect.poll(left).toEqual([]);

  for (const sign of ['db.pid', 'run/simulators.pid']) {
    rmSync(join(fresh, sign), { force: true });
    const early = start({ FOOTHILL_DATA: fresh }, '--demo');
    await expect.poll(() => existsSync(join(fresh, sign)), { timeout: 60_000, intervals: [5] }).toBe(true);
    early.child.kill('SIGTERM');
    await early.ended;
    await expect.poll(left, { timeout: 30_000 }).toEqual([]);
  }
});

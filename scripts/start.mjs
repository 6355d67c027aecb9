// The start command: brings a fresh machine to a running Foothill, and ends everything it started.
import { existsSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { makeFolder } from './lib/folder.mjs';
import { ensureDebian, ensureNpm } from './lib/packages.mjs';
import { endProcess, ifPossible, runningPid, startProgram } from './lib/processes.mjs';
import { engineFile, home, portTaken, readSettings, simFile } from './lib/settings.mjs';
import { serialEnds, startSerialPair } from './lib/serial.mjs';
import { fail, say, sleep } from './lib/say.mjs';

const demo = process.argv.includes('--demo');
const settings = readSettings();
const { data, port, dbPort, simPort, host } = settings;
const children = new Map();
let stopping = false;

async function stop(code) {
  if (stopping) return;
  stopping = true;
  const order = ['simulators', 'engine', 'serial pair', 'database'];
  for (const name of order) {
    const child = children.get(name);
    if (child && child.exitCode === null && child.signalCode === null) await endProcess(child.pid);
  }
  ifPossible('run/start.pid cannot be taken away', () =>
    rmSync(join(data, 'run/start.pid'), { force: true }),
  );
  process.exit(code);
}

/** Knows a program from its first moment: what is ended while it is still starting is ended with the rest. */
const began = (name) => (child) => {
  children.set(name, child);
  if (stopping) child.kill('SIGKILL');
};

/** Keeps a program running: when it ends on its own it is started again, sooner at first, later after more ends. */
async function keep(name, start) {
  if (stopping) return;
  const child = await start(began(name));
  let tries = 0;
  const again = async () => {
    if (stopping) return;
    // At once the first time: the picture waits for it.
    const wait = tries === 0 ? 0 : Math.min(5000, 300 * 2 ** tries);
    tries++;
    say(`the ${name} ended; it starts again`);
    await sleep(wait);
    // On a full disk it would end again, or wait a minute before it looks for room.
    if (name === 'database')
      await roomOn(data, () =>
        say(`the disk of ${data} is full; the database starts again when there is room`),
      );
    if (stopping) return;
    try {
      const next = await start(began(name));
      // Waits are for what ends while it starts; one that worked for a while is back at once.
      const worked = setTimeout(() => (tries = 0), 2000).unref();
      next.once('exit', () => {
        clearTimeout(worked);
        void again();
      });
    } catch (error) {
      say(`the ${name} could not start: ${error.message}`);
      void again();
    }
  };
  child.once('exit', again);
}

// Nobody may read what is said any more: that is no reason to end.
for (const out of [process.stdout, process.stderr]) out.on('error', () => {});
process.on('uncaughtException', (error) => {
  say(`it ends: ${error.message}`);
  void stop(1);
});
process.on('SIGINT', () => void stop(0));
process.on('SIGTERM', () => void stop(0));
process.on('SIGHUP', () => void stop(0));

ensureDebian(['mariadb-server']);
const withSerial = demo && ensureDebian(['socat'], { optional: true });
ensureNpm();
const { build } = await import('./build.mjs');
const { startDatabase, roomOn } = await import('./lib/database.mjs');
await build();

try {
  makeFolder(join(data, 'run'));
} catch (error) {
  fail(`the data folder ${data} cannot be written (${error.code}). Set FOOTHILL_DATA to a folder that can.`);
}
const other = runningPid(join(data, 'run/start.pid'), 'start.mjs');
if (other && other !== process.pid) {
  fail(
    `it runs already over ${data} (process ${other}). Use that one, or set FOOTHILL_DATA and the ports for another copy.`,
  );
}
ifPossible('run/start.pid cannot be written', () =>
  writeFileSync(join(data, 'run/start.pid'), String(process.pid)),
);
// What an unclean end may have left behind.
for (const name of ['engine', 'simulators']) {
  const left = runningPid(join(data, 'run', `${name}.pid`), join(home, 'dist'));
  if (left) await endProcess(left, 3000);
}
const pair = runningPid(join(data, 'run/serial pair.pid'), join(data, 'serial'));
if (pair) await endProcess(pair, 3000);
const orphan = existsSync(join(data, 'db.pid')) && runningPid(join(data, 'db.pid'), join(data, 'db'));
const wanted = [
  ['FOOTHILL_PORT', port, host],
  ...(orphan ? [] : [['FOOTHILL_DB_PORT', dbPort]]),
  ...(demo
    ? [
        ['FOOTHILL_SIM_PORT', simPort],
        ['FOOTHILL_SIM_PORT', simPort + 1],
        ...[3, 4, 5, 10, 11, 12, 13, 14, 15].map((more) => ['FOOTHILL_SIM_PORT', simPort + more]),
      ]
    : []),
];
for (const [name, number, on] of wanted) {
  if (!(await portTaken(number, on))) continue;
  rmSync(join(data, 'run/start.pid'), { force: true });
  fail(`port ${number} is in use by another program. Stop it, or set ${name} to a free port.`);
}

try {
  let password = '';
  await keep('database', async (began) => {
    const database = await startDatabase({ data, port: dbPort, began });
    password = database.password;
    return database.child;
  });
  if (withSerial) await keep('serial pair', (began) => startSerialPair(data, began));
  const ends = serialEnds(data);
  const env = {
    FOOTHILL_HOST: host,
    FOOTHILL_PORT: String(port),
    FOOTHILL_DATA: data,
    FOOTHILL_DB_PORT: String(dbPort),
    FOOTHILL_DB_PASSWORD: password,
    FOOTHILL_SIM_PORT: String(simPort),
    FOOTHILL_DEMO: demo ? '1' : '',
    FOOTHILL_SERIAL: withSerial ? ends.foothill : '',
    FOOTHILL_SIM_SERIAL: withSerial ? ends.controller : '',
    NODE_ENV: 'production',
  };
  if (demo)
    await keep('simulators', (began) =>
      startProgram({
        name: 'simulators',
        file: simFile,
        env: { FOOTHILL_SIM_AUTOPILOT: '1', ...env },
        data,
        began,
      }),
    );
  await keep('engine', (began) => startProgram({ name: 'engine', file: engineFile, env, data, began }));
} catch (error) {
  if (!stopping) {
    console.error(`foothill: ${error.message}`);
    await stop(1);
  }
}

if (stopping) await new Promise(() => {});
const at = `http://${host === '0.0.0.0' ? '127.0.0.1' : host}:${port}`;
// In one go: whoever waits for the first line has the others with it.
console.log(
  [
    `ready ${at}`,
    `  live view          ${at}/live`,
    `  sources            ${at}/sources`,
    `  air page           ${at}/air/broadcast`,
    `  read-outs          ${at}/state/fields.json`,
    ...(demo
      ? [
          `  simulated console  http://127.0.0.1:${simPort + 1}`,
          `  other services     http://127.0.0.1:${simPort + 4}`,
        ]
      : []),
    'Ctrl-C ends it; the data stays.',
  ].join('\n'),
);

import { spawn, spawnSync } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { existsSync, readFileSync, renameSync, rmSync, statfsSync, statSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { makeFolder } from './folder.mjs';
import { endProcess, runningPid } from './processes.mjs';
import { sleep } from './say.mjs';

const asRoot = process.getuid() === 0 ? ['--user=root'] : [];

function lastError(log) {
  if (!existsSync(log)) return '';
  const lines = readFileSync(log, 'utf8')
    .split('\n')
    .filter((l) => l.includes('[ERROR]'));
  return (lines.pop() ?? '').replace(/^.*\[ERROR\]\s*/, '').trim();
}

/** True once a server greets on the port, as MariaDB does at once. */
function greets(port) {
  return new Promise((done) => {
    const socket = connect({ port, host: '127.0.0.1' });
    const end = (answer) => (socket.destroy(), done(answer));
    socket.setTimeout(1000, () => end(false));
    socket.on('data', () => end(true));
    socket.on('error', () => end(false));
    socket.on('close', () => end(false));
  });
}

/** Why a program that was run did not do its work: its last line that speaks of an error, for what it says at its end is for all. */
function whyNot({ stdout, stderr, signal, status, error }) {
  const lines = `${stdout ?? ''}\n${stderr ?? ''}`
    .split('\n')
    .filter((l) => /error|cannot|can't|denied|space/i.test(l));
  const last = lines
    .pop()
    ?.replace(/^.*\[ERROR\]\s*/, '')
    .trim();
  return last || error?.message || (signal ? `it was ended by ${signal}` : `it ended with code ${status}`);
}

/** With less room than this the database does not come up, or waits a minute before it looks again, in bytes. */
const LEAST = 16e6;
const ROOM_LOOK = 500;

/** Waits until there is room on the disk of a folder; `says` is told once, where there is none. */
export async function roomOn(folder, says) {
  for (let told = false; ; told = true) {
    const { bavail, bsize } = statfsSync(folder);
    if (bavail * bsize >= LEAST) return;
    if (!told) says();
    await sleep(ROOM_LOOK);
  }
}

/** Makes the data folder of a new database, whole or not at all. */
function initialise(folder, data) {
  const fresh = join(data, 'db.new');
  rmSync(fresh, { recursive: true, force: true });
  const made = spawnSync(
    'mariadb-install-db',
    [
      '--no-defaults',
      ...asRoot,
      `--datadir=${fresh}`,
      '--auth-root-authentication-method=socket',
      '--skip-test-db',
    ],
    { encoding: 'utf8' },
  );
  if (made.status !== 0) throw new Error(`The database could not be set up in ${folder}: ${whyNot(made)}`);
  renameSync(fresh, folder);
}

/**
 * The password of the database's one user, out of its file, which is made where there is none. Throws where that holds something
 * else: with an empty one every program of this machine could write what is on air.
 */
export function passwordIn(file) {
  if (!existsSync(file)) writeFileSync(file, randomBytes(18).toString('base64url'), { mode: 0o600 });
  const password = readFileSync(file, 'utf8').trim();
  if (!/^[\w-]{16,100}$/.test(password))
    throw new Error(
      `${file} holds no password of the database (16 letters and digits at least). Delete it and start again: it is made anew, and nothing is lost.`,
    );
  return password;
}

/**
 * Starts MariaDB on loopback over `data`/db, which is made when it is not there. A server that an unclean end
 * left running over the same folder is ended first. Gives its process and the password of its one user;
 * `began` is told of the process as soon as there is one.
 */
export async function startDatabase({ data, port, began = () => {} }) {
  makeFolder(data);
  const folder = join(data, 'db');
  const [pidFile, log, init, secret] = ['db.pid', 'db.log', 'db-init.sql', 'db-password'].map((f) =>
    join(data, f),
  );
  const orphan = runningPid(pidFile, folder);
  if (orphan) await endProcess(orphan, 30_000);
  const password = passwordIn(secret);
  if (!existsSync(folder)) initialise(folder, data);
  const user = `'foothill'@'127.0.0.1'`;
  // It is the same at every start: an old one will do where a new one cannot be written.
  const write = (text) => {
    try {
      writeFileSync(init, text, { mode: 0o600 });
    } catch (error) {
      if (!existsSync(init) || readFileSync(init, 'utf8') !== text) throw error;
    }
  };
  write(
    `CREATE DATABASE IF NOT EXISTS foothill CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;\n` +
      `CREATE OR REPLACE USER ${user} IDENTIFIED BY '${password}';\nGRANT ALL ON \`foothill%\`.* TO ${user};\n`,
  );
  const logFrom = existsSync(log) ? statSync(log).size : 0;
  const child = spawn(
    '/usr/sbin/mariadbd',
    [
      '--no-defaults',
      ...asRoot,
      `--datadir=${folder}`,
      `--port=${port}`,
      '--bind-address=127.0.0.1',
      '--skip-name-resolve',
      `--socket=${join(data, 'db.sock')}`,
      `--pid-file=${pidFile}`,
      `--log-error=${log}`,
      `--init-file=${init}`,
      '--innodb-buffer-pool-size=64M',
      '--innodb-flush-log-at-trx-commit=1',
      // It takes room in pieces for which there is room.
      '--innodb-autoextend-increment=4',
      '--character-set-server=utf8mb4',
    ],
    { stdio: 'ignore', detached: true },
  );
  began(child);
  let ended = false;
  child.once('exit', () => (ended = true));
  child.once('error', () => (ended = true));
  const ready = () =>
    existsSync(log) && readFileSync(log).subarray(logFrom).includes('ready for connections');
  for (let waited = 0; waited < 60_000; waited += 50) {
    if (ended) {
      throw new Error(
        `The database could not start: ${lastError(log) || 'see ' + log}. If the data folder is damaged, move it aside (mv ${data} ${data}.broken) and start again.`,
      );
    }
    if (ready() && (await greets(port))) return { child, password };
    await sleep(50);
  }
  child.kill('SIGKILL');
  throw new Error(`The database did not come up within a minute; ${log} says why.`);
}

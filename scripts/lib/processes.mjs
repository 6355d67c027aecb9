import { spawn } from 'node:child_process';
import { closeSync, existsSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { makeFolder } from './folder.mjs';
import { dirname, join } from 'node:path';
import { say, sleep } from './say.mjs';

/** The process that a pid file names, when it runs and its command line holds `mark`; else null. */
export function runningPid(file, mark) {
  try {
    const pid = Number(readFileSync(file, 'utf8').trim());
    const command = readFileSync(`/proc/${pid}/cmdline`, 'utf8');
    const state = readFileSync(`/proc/${pid}/stat`, 'utf8').replace(/^.*\) /, '')[0];
    return command.includes(mark) && state !== 'Z' ? pid : null;
  } catch {
    return null;
  }
}

/** Ends a process, kindly at first; waits until it is gone. */
export async function endProcess(pid, patience = 15_000) {
  const alive = () => {
    try {
      process.kill(pid, 0);
      return readFileSync(`/proc/${pid}/stat`, 'utf8').replace(/^.*\) /, '')[0] !== 'Z';
    } catch {
      return false;
    }
  };
  if (!alive()) return;
  process.kill(pid, 'SIGTERM');
  for (let waited = 0; alive() && waited < patience; waited += 50) await sleep(50);
  if (alive()) process.kill(pid, 'SIGKILL');
  while (alive()) await sleep(50);
}

/** Does what is good to have and not needed, such as writing a pid file on a disk that is full; says why it was not done. */
export function ifPossible(what, work) {
  try {
    return work();
  } catch (error) {
    say(`${what} (${error.code ?? error.message}); it goes on without.`);
    return undefined;
  }
}

/** Notes a running program's process in a file while it runs. */
export function notePid(pidFile, child) {
  ifPossible(`${pidFile} cannot be written`, () => {
    makeFolder(dirname(pidFile));
    writeFileSync(pidFile, String(child.pid));
  });
  child.once('exit', () =>
    ifPossible(`${pidFile} cannot be taken away`, () => {
      if (existsSync(pidFile) && readFileSync(pidFile, 'utf8') === String(child.pid)) rmSync(pidFile);
    }),
  );
}

/**
 * Starts a Node program that sends `{ready: true}` once it serves. It gets a channel to us and ends when we do,
 * a process group of its own (Ctrl-C reaches us alone), and a log file. Resolves when ready; rejects with its
 * own sentence when it ends before. `began` is told of the process as soon as there is one.
 */
export function startProgram({ name, file, env, data, began = () => {} }) {
  const log = ifPossible(`${name}.log cannot be written`, () => {
    makeFolder(data);
    return openSync(join(data, `${name}.log`), 'a');
  });
  const child = spawn(process.execPath, [file], {
    // Names, files and packing share a few threads: some that hang must leave some for the rest.
    env: { UV_THREADPOOL_SIZE: '32', ...process.env, ...env },
    stdio: ['ignore', log ?? 'ignore', log ?? 'ignore', 'ipc'],
    detached: true,
  });
  if (log !== undefined) closeSync(log);
  began(child);
  if (child.pid !== undefined) notePid(join(data, 'run', `${name}.pid`), child);
  return new Promise((done, failed) => {
    let reason = '';
    child.on('message', (message) => {
      if (message?.ready) done(child);
      if (message?.failed) reason = message.failed;
    });
    child.once('error', (error) => failed(new Error(`${name} could not be started: ${error.message}`)));
    child.once('exit', (code) =>
      failed(
        new Error(
          reason || `${name} ended at its start (code ${code}); ${join(data, `${name}.log`)} says why.`,
        ),
      ),
    );
  });
}

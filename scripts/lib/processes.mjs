import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, openSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { sleep } from './say.mjs';

/** The process that a pid file names, when it runs and its command line holds `mark`; else null. */
export function runningPid(file, mark) {
  if (!existsSync(file)) return null;
  const pid = Number(readFileSync(file, 'utf8').trim());
  try {
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

/**
 * Starts a Node program that sends `{ready: true}` once it serves. It gets a channel to us and ends when we do,
 * a process group of its own (Ctrl-C reaches us alone), and a log file. Resolves when ready; rejects with its
 * own sentence when it ends before.
 */
export function startProgram({ name, file, env, data }) {
  mkdirSync(join(data, 'run'), { recursive: true });
  const log = openSync(join(data, `${name}.log`), 'a');
  const child = spawn(process.execPath, ['--enable-source-maps', file], {
    env: { ...process.env, ...env },
    stdio: ['ignore', log, log, 'ipc'],
    detached: true,
  });
  const pidFile = join(data, 'run', `${name}.pid`);
  writeFileSync(pidFile, String(child.pid));
  child.once('exit', () => {
    if (existsSync(pidFile) && readFileSync(pidFile, 'utf8') === String(child.pid)) rmSync(pidFile);
  });
  return new Promise((done, failed) => {
    let reason = '';
    child.on('message', (message) => {
      if (message?.ready) done(child);
      if (message?.failed) reason = message.failed;
    });
    child.once('exit', (code) =>
      failed(
        new Error(
          reason || `${name} ended at its start (code ${code}); ${join(data, `${name}.log`)} says why.`,
        ),
      ),
    );
  });
}

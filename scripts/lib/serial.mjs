import { spawn } from 'node:child_process';
import { existsSync, rmSync } from 'node:fs';
import { makeFolder } from './folder.mjs';
import { join } from 'node:path';
import { notePid } from './processes.mjs';
import { sleep } from './say.mjs';

/** The two ends of the demo's pair of serial ports. */
export const serialEnds = (data) => ({
  controller: join(data, 'serial/controller'),
  foothill: join(data, 'serial/foothill'),
});

/** Joins two pseudo terminals into a pair of serial ports; resolves with the process once both are there. */
export async function startSerialPair(data, began = () => {}) {
  const { controller, foothill } = serialEnds(data);
  makeFolder(join(data, 'serial'));
  for (const end of [controller, foothill]) rmSync(end, { force: true });
  const end = (path) => `pty,raw,echo=0,link=${path}`;
  const child = spawn('socat', [end(controller), end(foothill)], { stdio: 'ignore', detached: true });
  began(child);
  if (child.pid !== undefined) notePid(join(data, 'run/serial pair.pid'), child);
  let over = false;
  child.once('error', () => (over = true));
  child.once('exit', () => (over = true));
  for (let waited = 0; waited < 3000 && !over; waited += 20) {
    if (existsSync(controller) && existsSync(foothill)) return child;
    await sleep(20);
  }
  throw new Error('a pair of serial ports could not be made');
}

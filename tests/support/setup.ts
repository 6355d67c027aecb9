import { existsSync, mkdtempSync, rmSync, statfsSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase } from '../../scripts/lib/database.mjs';
import { endProcess } from '../../scripts/lib/processes.mjs';
import { buildHost } from './engine-host.ts';
import { freePort } from './ports.ts';
import { World } from './world.ts';

const MEMORY = '/dev/shm';
/** As much room, in bytes, as the databases of all worlds take, and as much again. */
const ENOUGH = 2e9;

/** Where what tests write stands: in memory where there is room, for on a busy disk they would mostly wait for it. */
function scratch(): string {
  if (!existsSync(MEMORY)) return tmpdir();
  const { bavail, bsize } = statfsSync(MEMORY);
  return bavail * bsize > ENOUGH ? MEMORY : tmpdir();
}

/** One MariaDB for all tests; each world has a database of its own in it, a copy of one that is seeded here. */
export default async function setup() {
  const data = mkdtempSync(join(scratch(), 'foothill-test-'));
  const port = await freePort();
  process.env['FOOTHILL_TEST_HOSTS'] = data;
  const [{ child, password }] = await Promise.all([startDatabase({ data, port }), buildHost()]);
  process.env['FOOTHILL_TEST_DB'] = JSON.stringify(await World.seed({ port, password }));
  return async () => {
    await endProcess(child.pid!);
    rmSync(data, { recursive: true, force: true });
  };
}

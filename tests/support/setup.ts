import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startDatabase } from '../../scripts/lib/database.mjs';
import { endProcess } from '../../scripts/lib/processes.mjs';
import { buildHost } from './engine-host.ts';
import { freePort } from './ports.ts';
import { World } from './world.ts';

/** One MariaDB for all tests; each world has a database of its own in it, a copy of one that is seeded here. */
export default async function setup() {
  const data = mkdtempSync(join(tmpdir(), 'foothill-test-'));
  const port = await freePort();
  process.env['FOOTHILL_TEST_HOSTS'] = data;
  const [{ child, password }] = await Promise.all([startDatabase({ data, port }), buildHost()]);
  process.env['FOOTHILL_TEST_DB'] = JSON.stringify(await World.seed({ port, password }));
  return async () => {
    await endProcess(child.pid!);
    rmSync(data, { recursive: true, force: true });
  };
}

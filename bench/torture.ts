import { rm, statfs, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expectAll, type Counts } from './torture-counts.ts';
import { Flood } from '../tests/support/flood.ts';
import { randomOf, throwAt } from '../tests/support/fuzz.ts';
import { killInTheMidst } from '../tests/support/kills.ts';
import { sleep, World } from '../tests/support/world.ts';

/** A database whose disk may be filled, and which is started again where it died of that. */
interface Database {
  port: number;
  password: string;
  pid: () => number;
  /** A folder on its disk, where that is one of its own; null where none could be made. */
  disk: string | null;
  alive: () => boolean;
  revive: () => Promise<void>;
}

/** Leaves nothing free on a disk for a while. */
async function fill(disk: string, ms: number): Promise<void> {
  const file = join(disk, 'fill');
  const { bavail, bsize } = await statfs(disk);
  await writeFile(file, Buffer.alloc(Math.max(0, bavail * bsize))).catch(() => {});
  await sleep(ms);
  await rm(file, { force: true });
}

/**
 * Kills, garbage, floods, a full disk and a database that is away, at random, for so many seconds. What was acknowledged
 * must be there at the end, and the engine must answer. Prints its seed and what it did.
 */
export async function torture(db: Database): Promise<number> {
  const seconds = Number(process.env['FOOTHILL_TORTURE_SECONDS'] ?? 120);
  const seed = Number(process.env['FOOTHILL_SEED'] ?? Math.floor(Math.random() * 1e9));
  console.log(`seed ${seed}, ${seconds} s`);
  const random = randomOf(seed);
  const world = await World.start({ db });
  const counts: Counts = {
    kills: 0,
    actions: 0,
    acknowledged: 0,
    away: 0,
    full: 0,
    revived: 0,
    flooded: 0,
    thrown: 0,
    broken: [],
    slowest: 0,
  };
  // First at any moment of work, each kill looked at by itself: twenty, and more in a longer run.
  const killed = await killInTheMidst(world, Math.max(20, Math.round(seconds / 6)), random);
  const flood = new Flood();
  await flood.join(world);
  const until = Date.now() + seconds * 1000;
  const acting = (async () => {
    while (Date.now() < until) {
      counts.actions++;
      const text = String(Math.floor(random() * 90));
      const answer = await world.act({ kind: 'pin', field: 'home.score', text }).catch(() => null);
      if (answer?.ok) counts.acknowledged++;
      await sleep(30);
    }
  })();
  while (Date.now() < until) {
    const of = random();
    if (of < 0.35) {
      await world.killEngine();
      const from = performance.now();
      await world.startEngine();
      counts.kills++;
      counts.slowest = Math.max(counts.slowest, performance.now() - from);
    } else if (of < 0.5) {
      process.kill(db.pid(), 'SIGSTOP');
      await sleep(500 + random() * 9500);
      process.kill(db.pid(), 'SIGCONT');
      counts.away++;
      await sleep(2500);
    } else if (of < 0.6 && db.disk) {
      await fill(db.disk, 1000 + random() * 3000);
      counts.full++;
      await sleep(1500);
      if (!db.alive()) {
        await db.revive();
        counts.revived++;
      }
    } else if (of < 0.7) {
      counts.flooded += await flood.pour(1000 + random() * 2000, new Uint8Array(20_000).fill(2));
    } else {
      const thrown = await throwAt(world, random, 1500 + random() * 2500);
      counts.thrown += thrown.requests + thrown.messages + thrown.documents + thrown.sockets;
      counts.broken.push(...thrown.broken);
    }
  }
  await acting;
  flood.close();
  const wrong = [...killed, ...(await expectAll(world, counts))];
  console.log(JSON.stringify({ ...counts, broken: counts.broken.length, lost: wrong.length }, null, 1));
  for (const text of [...wrong, ...counts.broken].slice(0, 10)) console.log(text);
  await world.stop();
  return wrong.length + counts.broken.length ? 1 : 0;
}

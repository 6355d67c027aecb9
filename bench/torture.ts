import { expectAll, type Counts } from './torture-counts.ts';
import { randomOf, throwAt } from '../tests/support/fuzz.ts';
import { sleep, World } from '../tests/support/world.ts';

/**
 * Kills, garbage, floods and a database that is away, at random, for so many seconds. What was acknowledged must be
 * there at the end, and the engine must answer. Prints its seed and what it did.
 */
export async function torture(db: { port: number; password: string; pid: number }): Promise<number> {
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
    thrown: 0,
    broken: [],
    slowest: 0,
  };
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
      process.kill(db.pid, 'SIGSTOP');
      await sleep(500 + random() * 4000);
      process.kill(db.pid, 'SIGCONT');
      counts.away++;
      await sleep(2500);
    } else {
      const thrown = await throwAt(world, random, 1500 + random() * 2500);
      counts.thrown += thrown.requests + thrown.messages + thrown.documents + thrown.sockets;
      counts.broken.push(...thrown.broken);
    }
  }
  await acting;
  const wrong = await expectAll(world, counts);
  console.log(JSON.stringify({ ...counts, broken: counts.broken.length, lost: wrong.length }, null, 1));
  for (const text of [...wrong, ...counts.broken].slice(0, 10)) console.log(text);
  await world.stop();
  return wrong.length + counts.broken.length ? 1 : 0;
}

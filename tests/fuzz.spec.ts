import { expect, test } from './support/test.ts';
import { randomOf, throwAt } from './support/fuzz.ts';
import { World } from './support/world.ts';

test('whatever is thrown at it, the engine answers quickly afterwards, and answers nothing with a failure of its own', async () => {
  const seed = Number(process.env['FOOTHILL_SEED'] ?? Math.floor(Math.random() * 1e9));
  const world = await World.start({ sim: false });
  const { pid } = world.engine;
  const thrown = await throwAt(world, randomOf(seed), 4000);
  process.stdout.write(`seed ${seed}: ${JSON.stringify({ ...thrown, broken: thrown.broken.length })}\n`);
  expect(thrown.broken, `FOOTHILL_SEED=${seed}`).toEqual([]);
  expect(world.engine.exitCode, `FOOTHILL_SEED=${seed}`).toBeNull();
  expect(world.engine.pid).toBe(pid);
  // What else the machine does may hold one answer up, but not all of them.
  await expect
    .poll(
      async () => {
        const from = performance.now();
        const { status } = await fetch(`${world.url}/healthz`);
        return status === 200 && performance.now() - from < 100;
      },
      { message: `FOOTHILL_SEED=${seed}` },
    )
    .toBe(true);
  await world.stop();
});

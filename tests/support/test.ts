import { test as base } from '@playwright/test';
import { World } from './world.ts';

export { expect } from '@playwright/test';

/**
 * A test that leaves what its engines said where it failed, and after which no page is left open. What `browser.newPage()` opens
 * lives as long as its browser, which serves one test after another: dozens of pages that draw, and look for servers that are gone,
 * slow down all that come after.
 */
export const test = base.extend<{ tidied: void }>({
  tidied: [
    async ({ browser }, use, info) => {
      const before = new Set(browser.contexts());
      World.ended.length = 0;
      await use();
      if (info.status !== info.expectedStatus)
        for (const log of [...World.ended, ...[...World.running].map((w) => w.log)])
          await info.attach('engine.log', { body: log });
      for (const context of browser.contexts()) if (!before.has(context)) await context.close();
    },
    { auto: true },
  ],
});

/** One world for all tests of a file: it is there while they run. */
export function worldForFile(...options: ConstructorParameters<typeof World>): World {
  const world = new World({ kept: true, ...options[0] });
  test.beforeAll(() => world.begin());
  test.afterAll(() => world.stop());
  return world;
}

/** A world of its own for each test of a file. */
export function worldForTest(...options: ConstructorParameters<typeof World>): World {
  const world = new World({ kept: true, ...options[0] });
  test.beforeEach(() => world.begin());
  test.afterEach(() => world.stop());
  return world;
}

import { test as base } from '@playwright/test';

export { expect } from '@playwright/test';

/**
 * A test after which no page is left open. What `browser.newPage()` opens lives as long as its browser, which serves one test after
 * another: dozens of pages that draw, and look for servers that are gone, slow down all that come after.
 */
export const test = base.extend<{ tidied: void }>({
  tidied: [
    async ({ browser }, use) => {
      const before = new Set(browser.contexts());
      await use();
      for (const context of browser.contexts()) if (!before.has(context)) await context.close();
    },
    { auto: true },
  ],
});

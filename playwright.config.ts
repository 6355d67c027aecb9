import { defineConfig } from '@playwright/test';
import { chromiumOptions } from './scripts/lib/browser.mjs';

export default defineConfig({
  testDir: 'tests',
  // Each world has ports and a database of its own; most of a test is waiting.
  workers: 3,
  // Tests wait for events; a machine that is busy with other work is only slower.
  timeout: 240_000,
  expect: { timeout: 30_000 },
  globalSetup: './tests/support/setup.ts',
  reporter: [['list'], ['json', { outputFile: 'test-results/e2e.json' }]],
  outputDir: 'test-results/e2e',
  use: {
    viewport: { width: 1280, height: 800 },
    // A record of every moment costs a third of what the pages do themselves: `npx playwright test --trace on` makes one.
    trace: 'off',
    screenshot: 'only-on-failure',
    launchOptions: chromiumOptions,
  },
});

import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, test, type Page } from '@playwright/test';
import { World } from './support/world.ts';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const VIEWS = ['/', '/live', '/game', '/sources', '/patch', '/data', '/media', '/tapes'];
const SIZES = [
  { width: 1280, height: 800 },
  { width: 1024, height: 768 },
  { width: 390, height: 844 },
];

let world: World;
test.beforeAll(async () => {
  world = await World.start();
});
test.afterAll(() => world.stop());

interface Violation {
  id: string;
  nodes: { target: string[]; failureSummary?: string }[];
}

/** What axe finds by WCAG 2.2 A and AA, each with its first element. */
async function violations(page: Page): Promise<string[]> {
  // As a page's own tool would: the policy lets no foreign script in.
  await page.evaluate(axe);
  const found = await page.evaluate(async () => {
    const { axe } = window as unknown as { axe: { run(of: Document, options: object): Promise<unknown> } };
    const tags = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'];
    return axe.run(document, { runOnly: { type: 'tag', values: tags }, resultTypes: ['violations'] });
  });
  return (found as { violations: Violation[] }).violations.map(
    (v) => `${v.id} (${v.nodes.length}): ${v.nodes[0]!.target.join(' ')} ${v.nodes[0]!.failureSummary ?? ''}`,
  );
}

for (const theme of ['dark', 'light']) {
  for (const view of VIEWS) {
    test(`${view} on ${theme} surfaces: nothing that WCAG 2.2 AA finds, at any size`, async ({ page }) => {
      await page.addInitScript((t) => localStorage.setItem('foothill.theme', t), theme);
      await page.goto(world.url + view);
      await expect(page.locator('main h1').first()).toBeAttached();
      await expect(page.locator('html')).toHaveAttribute('data-theme', theme);
      for (const size of SIZES) {
        await page.setViewportSize(size);
        expect(await violations(page), `${size.width} wide`).toEqual([]);
      }
    });
  }
}

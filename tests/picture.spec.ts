import type { Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import { PNG } from 'pngjs';

const world = worldForFile();
test.use({ viewport: { width: 1920, height: 1080 } });

/** Waits until nothing moves any more and the picture is drawn. */
const isDrawn = (page: Page) =>
  page.evaluate(async () => {
    const moving = document.getAnimations().filter((a) => a.effect?.getComputedTiming().endTime !== Infinity);
    await Promise.allSettled(moving.map((a) => a.finished));
    for (const _ of [1, 2]) await new Promise((drawn) => requestAnimationFrame(drawn));
  });

async function shoot(page: Page, options: string): Promise<(x: number, y: number) => number[]> {
  await page.goto(`${world.url}/air/broadcast${options}`);
  await expect(page.locator('[data-layer="home name"]')).toHaveText('Thornmere Herons');
  await isDrawn(page);
  const png = PNG.sync.read(await page.screenshot({ omitBackground: true }));
  return (x, y) => [...png.data.subarray((y * png.width + x) * 4, (y * png.width + x) * 4 + 4)];
}

// The middle of the picture is empty; the point on the bar is the light ground beside the game clock.
const EMPTY = [960, 540] as const;
const BAR = [850, 62] as const;

test('the page is transparent where nothing is', async ({ page }) => {
  const at = await shoot(page, '');
  expect(at(...EMPTY)).toEqual([0, 0, 0, 0]);
  expect(at(...BAR)).toEqual([246, 241, 231, 255]);
});

test('the key is white where opaque, black where not, grey between', async ({ page }) => {
  const at = await shoot(page, '?key');
  expect(at(...EMPTY)).toEqual([0, 0, 0, 255]);
  expect(at(...BAR)).toEqual([255, 255, 255, 255]);
  await page.evaluate(
    () => (document.querySelector<HTMLElement>('[data-layer="middle"]')!.style.opacity = '0.5'),
  );
  await isDrawn(page);
  const png = PNG.sync.read(await page.screenshot());
  const [r, g, b] = png.data.subarray((BAR[1] * png.width + BAR[0]) * 4);
  expect([r, g, b]).toEqual([r, r, r]);
  expect(Math.abs(r! - 128)).toBeLessThanOrEqual(2);
});

test('a ground colour and a fitting size can be asked for in the address', async ({ page }) => {
  expect((await shoot(page, '?bg=123456'))(...EMPTY)).toEqual([0x12, 0x34, 0x56, 255]);
  await page.setViewportSize({ width: 960, height: 540 });
  const at = await shoot(page, '?scale=fit');
  expect(at(BAR[0] / 2, BAR[1] / 2)).toEqual([246, 241, 231, 255]);
});

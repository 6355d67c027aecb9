import type { Page } from '@playwright/test';

/** Drags from one point of the workshop's sheet to another, in px of the layout. */
export async function drag(page: Page, from: [number, number], to: [number, number], size: [number, number]) {
  const box = (await page.locator('[data-behind]').boundingBox())!;
  const at = ([x, y]: [number, number]) =>
    [box.x + (x / size[0]) * box.width, box.y + (y / size[1]) * box.height] as const;
  await page.mouse.move(...at(from));
  await page.mouse.down();
  await page.mouse.move(...at([(from[0] + to[0]) / 2, (from[1] + to[1]) / 2]));
  await page.mouse.move(...at(to));
  await page.mouse.up();
}

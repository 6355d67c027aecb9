import { expect, type Page } from '@playwright/test';
import { button } from './page.ts';

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

/** Makes a template in the library, of a size or in that of a zone, and is in its workshop. */
export async function newTemplate(
  page: Page,
  { url }: { url: string },
  name: string,
  size?: [width: number, height: number] | string,
): Promise<void> {
  await page.goto(`${url}/templates`);
  const form = page.getByRole('form', { name: 'New template' });
  await form.getByLabel('New template').fill(name);
  if (typeof size === 'string') await form.getByLabel('Size of').selectOption(size);
  else if (size) {
    await form.getByLabel('Width').fill(String(size[0]));
    await form.getByLabel('Height').fill(String(size[1]));
  }
  await button(form, 'Make it').click();
  await expect(page.getByRole('heading', { name, exact: true })).toBeVisible();
}

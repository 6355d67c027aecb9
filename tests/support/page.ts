import { expect, type Locator, type Page } from '@playwright/test';

/** What came of the last action, as the page says it. */
export const lastAction = (page: Page) => page.getByRole('status', { name: 'Last action' });
/** A button by its whole name. */
export const button = (page: Page | Locator, name: string) => page.getByRole('button', { name, exact: true });
/** Waits until a text has stood still for so many ms, however late the page hears of why; gives it. */
export async function stillFor(ms: number, of: Locator): Promise<string | null> {
  let held: string | null = null;
  await expect(async () => {
    held = await of.textContent();
    await of.page().waitForTimeout(ms);
    expect(await of.textContent()).toBe(held);
  }).toPass();
  return held;
}

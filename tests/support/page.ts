import type { Locator, Page } from '@playwright/test';

/** What came of the last action, as the page says it. */
export const lastAction = (page: Page) => page.getByRole('status', { name: 'Last action' });
/** A button by its whole name. */
export const button = (page: Page | Locator, name: string) => page.getByRole('button', { name, exact: true });

import type { Browser, Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import { button, lastAction } from './support/page.ts';

const world = worldForFile();

/** A desk in a browser of its own, at which somebody sits who has said who it is. */
async function deskOf(browser: Browser, name: string, view: string): Promise<Page> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await page.goto(`${world.url}/${view}`);
  await button(page, 'Say who you are').click();
  await page.getByRole('dialog').getByRole('textbox', { name: 'Name' }).fill(name);
  await page.keyboard.press('Enter');
  await expect(button(page, `You: ${name}`)).toBeVisible();
  return page;
}

test('two people save one game: different things both stand, the same thing is chosen; a version is restored', async ({
  browser,
}) => {
  const ode = await deskOf(browser, 'Ode', 'game');
  const ada = await deskOf(browser, 'Ada', 'game');
  const venue = (page: Page) => page.getByLabel('Venue');
  await venue(ode).fill('Slate Hall');
  await ada.getByLabel('Competition').fill('Autumn Cup');
  await button(ode, 'Save').click();
  const notice = ada.getByRole('alert').filter({ hasText: 'Saved at another desk' });
  await expect(notice).toContainText('venue: Slate Hall, was Granite Shed');
  await button(ada, 'Save').click();
  await expect(lastAction(ada)).toHaveText('Saved the game Herons v Foxes');
  for (const page of [ode, ada]) {
    await expect(venue(page)).toHaveValue('Slate Hall');
    await expect(page.getByLabel('Competition')).toHaveValue('Autumn Cup');
  }
  // Both change the same thing: the second is told what stands there, and chooses.
  await venue(ode).fill('Old Rink');
  await venue(ada).fill('New Rink');
  await button(ode, 'Save').click();
  await expect(notice).toContainText('venue: Old Rink, was Slate Hall');
  await button(ada, 'Save').click();
  await expect(ada.getByRole('alert')).toContainText('both changed venue (Old Rink there, New Rink here)');
  await expect(venue(ada)).toHaveValue('New Rink');
  await button(ada, 'Keep mine').click();
  await expect(venue(ode)).toHaveValue('New Rink');
  await expect(ada.getByRole('alert')).toHaveCount(0);

  await button(ode, 'Versions…').click();
  const dialog = ode.getByRole('dialog', { name: /^Versions of/ });
  await expect(dialog.locator('[data-revision]')).toHaveCount(5);
  await expect(dialog.locator('[data-revision="5"]')).toContainText('Ada');
  await dialog.locator('[data-revision="1"]').click();
  const differences = dialog.getByRole('region', { name: 'Differences' });
  await expect(differences).toContainText('venue: New Rink, was Granite Shed');
  await button(ode, 'Restore this version').click();
  await expect(venue(ada)).toHaveValue('Granite Shed');
  await expect(ada.getByLabel('Competition')).toHaveValue('Fellside League');
});

test('undo and redo are one’s own at each view, also after a reload and a restart of the server', async ({
  browser,
}) => {
  const ode = await deskOf(browser, 'Ode', 'live');
  const ada = await deskOf(browser, 'Ada', 'live');
  const score = async () => {
    const { pinned, value } = await world.field('home.score');
    return pinned ? value : null;
  };
  const pin = async (page: Page, text: string) => {
    await page.locator('[data-field="home.score"]').click();
    await page.getByLabel('Hold Home score at').fill(text);
    await page.keyboard.press('Enter');
    await expect.poll(score).toBe(Number(text));
    await page.keyboard.press('Escape');
  };
  await expect(ode.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await pin(ode, '7');
  await expect(ode.getByRole('button', { name: 'Undo' })).toBeEnabled();
  await expect(ada.getByRole('button', { name: 'Undo' })).toBeDisabled();
  await ode.reload();
  await expect(ode.getByRole('button', { name: 'Undo' })).toBeEnabled();
  const here = ode.locator('[data-here]');
  await world.killEngine();
  await expect(here).toHaveAttribute('data-here', 'false');
  await world.startEngine();
  // What a page knew before is no word of the server that came back.
  await expect(here).toHaveAttribute('data-here', 'true');
  await expect(ode.getByRole('button', { name: 'Undo' })).toBeEnabled();
  await ode.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(score).toBeNull();
  await ode.keyboard.press('Control+y');
  await expect.poll(score).toBe(7);
  await pin(ada, '9');
  await ode.getByRole('button', { name: 'Undo' }).click();
  await expect(lastAction(ode)).toContainText('was changed again since');
  await expect.poll(score).toBe(9);
});

test('a reading is renamed at one desk while another changes what is fed beside it: both stand, and the board goes on', async ({
  browser,
}) => {
  const ode = await deskOf(browser, 'Ode', 'sources');
  const ada = await deskOf(browser, 'Ada', 'patch');
  await ode.locator('[data-source="controller"]').click();
  const name = ode.getByLabel('Name of home shots');
  await name.fill('shots, home');
  await name.press('Tab');
  await ada.getByRole('button', { name: 'Away shots no longer from Controller' }).click();
  await expect(lastAction(ada)).toHaveText('Controller no longer feeds Away shots');
  await button(ode, 'Save').click();
  const fed = (field: string) => ada.locator(`[data-field="${field}"]`);
  await expect(fed('home.shots')).toContainText('Controller · shots, home');
  await expect(fed('away.shots')).not.toContainText('Controller');
  const shots = async () => (await world.field('home.shots')).value;
  const before = Number(await shots());
  await world.score({ kind: 'shot', side: 'home' });
  await expect.poll(shots).toBe(before + 1);
  await expect(ada.getByRole('button', { name: /^shots, home/ })).toContainText('Home shots');
});

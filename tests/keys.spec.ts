import { button } from './support/page.ts';
import { onAirIn } from './support/snapshot.ts';
import { expect, test, worldForFile } from './support/test.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

const on = async (key: string) => (await onAirIn(world))[key];

test('everything is done by its name after Ctrl+K; a key is changed, not to one that is taken, and remembered', async ({
  page,
}) => {
  await page.goto(`${world.url}/live`);
  await expect(page.locator('[data-lane-row="broadcast/lower"]')).toBeVisible();
  await page.keyboard.press('Control+k');
  const commands = page.getByRole('dialog', { name: 'Commands' });
  await commands.getByRole('searchbox', { name: 'Find a command' }).fill('take captain');
  await expect(commands.getByRole('menuitem')).toHaveCount(1);
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect.poll(() => on('broadcast/lower')).toBe('captain');
  await expect(commands).toHaveCount(0);

  await button(page, 'Keys…').click();
  const keys = page.getByRole('dialog', { name: 'Keys' });
  const clear = keys.getByRole('button', { name: /^Clear the lane:/ });
  await clear.click();
  await page.keyboard.press('w');
  await expect(keys.getByRole('status', { name: 'What is wrong with a key' })).toHaveText(
    'W is taken: Lane Broadcast, Lower third.',
  );
  await page.keyboard.press('c');
  await expect(clear).toHaveText('C');
  await button(keys, 'Close').click();
  await page.keyboard.press('Delete');
  await page.keyboard.press('c');
  await expect.poll(() => on('broadcast/lower')).toBeNull();
  await page.reload();
  await expect(page.getByRole('button', { name: 'Clear C', exact: true })).toBeVisible();

  // From a view without lanes too, and to another view.
  await page.goto(`${world.url}/media`);
  await expect(page.getByRole('navigation', { name: 'Views' })).toBeVisible();
  await page.keyboard.press('Control+k');
  await commands.getByRole('searchbox', { name: 'Find a command' }).fill('go to preflight');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/preflight$/);
});

test('what is typed while the commands are on their way does nothing else; an item put next by its name is what Enter takes', async ({
  page,
}) => {
  let go = () => {};
  const held = new Promise<void>((done) => (go = done));
  await page.route(/CommandPalette[^/]*\.js/, async (route) => {
    await held;
    await route.continue();
  });
  await page.goto(`${world.url}/live`);
  await expect(page.locator('[data-lane-row="broadcast/lower"]')).toBeVisible();
  const before = await onAirIn(world);
  await page.keyboard.press('Control+k');
  await expect(page.getByRole('dialog', { name: 'Loading' })).toBeVisible();
  // M is Quiet, T a lane, and Enter would take what is next in it.
  await page.keyboard.type('mt22');
  await page.keyboard.press('Enter');
  go();
  const commands = page.getByRole('dialog', { name: 'Commands' });
  const box = commands.getByRole('searchbox', { name: 'Find a command' });
  await expect(box).toBeFocused();
  await box.fill('next captain');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(commands).toHaveCount(0);
  await expect(page.getByRole('button', { name: /^Quiet/ })).toHaveAttribute('aria-pressed', 'false');
  expect(await onAirIn(world)).toEqual(before);
  await expect(page.getByRole('status', { name: 'Last action' })).toHaveText('Next: Away captain');
  await page.keyboard.press('Enter');
  await expect.poll(() => on('broadcast/lower')).toBe('captain');
  await page.keyboard.press('Delete');
  await expect.poll(() => on('broadcast/lower')).toBeNull();
});

test('preflight names what would embarrass, the worst first, each with a step to its mend, and follows it', async ({
  page,
}) => {
  await world.act({ kind: 'test-card', output: 'ribbon', on: true });
  await page.goto(`${world.url}/preflight`);
  const now = page.getByRole('region', { name: 'Wrong now' });
  await expect(now).toContainText('Ribbon');
  await button(now, 'Take it off').click();
  await expect(now).toHaveCount(0);
  await world.command({ kind: 'fault', fault: 'freeze', on: true });
  await expect(now).toContainText('It is lost.');
  await expect(now).toContainText('Scoreboard bar');
  await world.command({ kind: 'fault', fault: 'freeze', on: false });
  await expect(now).toHaveCount(0);

  const taken = page.getByRole('region', { name: 'Wrong when it is taken' });
  await expect(taken).toContainText('24 Blank name');
  await world.act({ kind: 'edit', item: 'captain', inputs: { name: 'W'.repeat(60) } });
  await expect(taken).toContainText(/Broadcast, Lower third: Name is only \d+ % of its/);
  await page.getByLabel('Find in what was found').fill('blank name');
  await expect(page.locator('[data-finding]')).toHaveCount(1);
  await taken.getByRole('link', { name: 'Edit' }).click();
  await expect(
    page.getByRole('complementary').getByRole('textbox', { name: 'Name', exact: true }).first(),
  ).toHaveValue('Blank name');
});

import { expect, test, worldForFile } from './support/test.ts';
import { button } from './support/page.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

test('a colour of the palette is chosen, kept and changed in one place, on air too; another is what a side wears', async ({
  page,
}) => {
  await page.goto(`${world.url}/templates/lower-third`);
  const ground = page.locator('[data-picture="workshop"] [data-layer="plate ground"] > div');
  await page.getByLabel('Find a layer').fill('ground');
  await page.locator('[data-layer-row="plate ground"]').first().click();
  const fill = page.locator('[data-prop="fill"]');
  await button(fill, 'Fill, by eye').click();
  const picker = page.getByRole('dialog', { name: 'Fill' });
  await picker.getByLabel('Figures').fill('#112233');
  await picker.getByLabel('Figures').press('Enter');
  await expect(ground.first()).toHaveCSS('background-color', 'rgb(17, 34, 51)');
  await picker.getByLabel('Name of this colour in the package').fill('Night, ödd');
  await button(picker, 'Keep').click();
  await expect(fill).toContainText('Night, ödd');
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');

  const air = await page.context().newPage();
  await air.goto(`${world.url}/air/broadcast`);
  await world.act({ kind: 'take', item: 'goalkeeper' });
  const onAir = air.locator('[data-layer="plate ground"] > div').first();
  await expect(onAir).toHaveCSS('background-color', 'rgb(17, 34, 51)');

  const library = await page.context().newPage();
  await library.goto(`${world.url}/templates`);
  await button(library, 'Palette…').click();
  const row = library.getByRole('listitem').filter({ has: library.getByLabel('Name of #112233') });
  await row.getByRole('button', { name: 'Night, ödd, by eye' }).click();
  await library.getByRole('dialog', { name: 'Night, ödd' }).getByLabel('Figures').fill('#445566');
  await library.getByRole('dialog', { name: 'Night, ödd' }).getByLabel('Figures').press('Enter');
  const palette = library.getByRole('dialog', { name: 'Palette' });
  await expect(library.locator('code', { hasText: '#445566' })).toBeAttached();
  await library.keyboard.press('Escape');
  await button(palette, 'Save').click();
  // Only where it is said that the database did not answer in time does a person press again.
  const late = palette.getByRole('alert').filter({ hasText: 'The database is not answering' });
  await expect(async () => {
    if (await late.isVisible()) await button(palette, 'Save').click({ timeout: 1000 });
    await expect(palette).toBeHidden({ timeout: 6000 });
  }).toPass({ timeout: 60_000 });
  await expect(onAir).toHaveCSS('background-color', 'rgb(68, 85, 102)');
  await expect(ground.first()).toHaveCSS('background-color', 'rgb(68, 85, 102)');

  // What a side wears, and the ink that is legible on it.
  await world.act({ kind: 'clear', output: 'broadcast', zone: 'lower' });
  await button(fill, 'Fill, by eye').click();
  await button(picker.getByRole('group', { name: 'What the sides wear' }), 'Away').click();
  // What it is now comes from somewhere: its editor stands in the place of the picker.
  await expect(picker).toBeHidden();
  await expect(page.getByRole('button', { name: 'Stop binding Fill' })).toBeVisible();
  await expect(fill).toContainText('Away colour');
});

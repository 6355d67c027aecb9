import type { Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import { button } from './support/page.ts';
import { layersIn } from './support/snapshot.ts';

const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

const layer = (page: Page, name: string) => page.locator(`[data-picture="workshop"] [data-layer="${name}"]`);
const inDocument = (key: string) => layersIn(world, key);

test('a layer is drawn in where gaps are alike; a number follows a drag, and all of it is one step back', async ({
  page,
}) => {
  const at = (id: string, x: number) => ({ id, kind: 'shape', name: id, x, y: 100, width: 60, height: 60 });
  const layers = [at('one', 50), at('two', 150), at('three', 400)];
  const body = {
    ...{ schema: 3, key: 'gaps', name: 'Gaps', inputs: [] },
    layouts: [{ key: 'main', width: 700, height: 300, layers }],
  };
  expect((await world.act({ kind: 'put-document', what: 'template', body, revision: 0 })).ok).toBe(true);
  await page.goto(`${world.url}/templates/gaps`);
  const three = page.locator('[data-picture="workshop"] [data-layer="three"]');
  await three.click();
  const middle = (await three.boundingBox())!;
  const zoom = middle.width / 60;
  await page.mouse.move(middle.x + middle.width / 2, middle.y + middle.height / 2);
  await page.mouse.down();
  // 40 px lie between the first two: so many shall lie beside the second.
  for (const by of [60, 120, 140, 144, 146, 147, 147.5])
    await page.mouse.move(middle.x + middle.width / 2 - by * zoom, middle.y + middle.height / 2);
  await page.mouse.up();
  const place = async () =>
    (await inDocument('gaps')).find((l) => l.id === 'three') as { x: number; y: number };
  await expect.poll(place).toMatchObject({ x: 250, y: 100 });

  const number = page
    .getByRole('complementary', { name: 'Properties' })
    .getByRole('textbox', { name: 'Width' });
  const box = (await number.boundingBox())!;
  await page.mouse.move(box.x + 20, box.y + box.height / 2);
  await page.mouse.down();
  for (const by of [10, 30, 60, 100]) await page.mouse.move(box.x + 20 + by, box.y + box.height / 2);
  await page.mouse.up();
  await expect(number).toHaveValue('110');
  await expect(number).not.toBeFocused();
  await expect(three).toHaveCSS('width', '110px');
  await page.keyboard.press('Control+z');
  await expect(number).toHaveValue('60');
  // A press enters the box, and what is dragged there is its text.
  await number.click();
  await expect(number).toBeFocused();
  await page.keyboard.type('75');
  await page.mouse.move(box.x + 12, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 50, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(number).toHaveValue('75');
});

test('a tap moves nothing; with Shift a size keeps its proportion; arrow keys follow a press; several change each by as much', async ({
  page,
}) => {
  const shape = (id: string, x: number, width: number) => ({
    ...{ id, kind: 'shape', name: id, x, y: 100, width, height: 60 },
  });
  const body = {
    ...{ schema: 3, key: 'hands', name: 'Hands', inputs: [] },
    layouts: [{ key: 'main', width: 700, height: 300, layers: [shape('a', 50, 120), shape('b', 400, 60)] }],
  };
  expect((await world.act({ kind: 'put-document', what: 'template', body, revision: 0 })).ok).toBe(true);
  await page.goto(`${world.url}/templates/hands`);
  const layerIn = async (id: string) => (await inDocument('hands')).find((l) => l.id === id)!;
  const layer = (id: string) => page.locator(`[data-picture="workshop"] [data-layer="${id}"]`);
  // Down and up within one frame, and the pointer goes on.
  const a = (await layer('a').boundingBox())!;
  const corner = { x: a.x + a.width, y: a.y + a.height };
  await page.mouse.click(a.x + 10, a.y + 10);
  await page.mouse.move(corner.x, corner.y, { steps: 6 });
  await page.keyboard.down('Shift');
  await page.mouse.down();
  await page.mouse.move(corner.x + a.width / 2, corner.y + 4, { steps: 8 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await layerIn('a'))['width']).not.toBe(120);
  const { x, width, height } = (await layerIn('a')) as unknown as Record<string, number>;
  expect(x).toBe(50);
  expect(width! / height!).toBeCloseTo(2, 1);

  // The button has the focus, and then what is pressed has it.
  await button(page, 'To front').click();
  await layer('b').click();
  await page.keyboard.press('Shift+ArrowDown');
  await expect.poll(async () => (await layerIn('b'))['y']).toBe(110);

  await page.keyboard.press('Control+a');
  const number = page
    .getByRole('complementary', { name: 'Properties' })
    .getByRole('textbox', { name: 'Width' });
  await expect(number).toHaveAttribute('placeholder', 'mixed');
  await number.fill('+=10');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await layerIn('b'))['width']).toBe(70);
  expect((await layerIn('a'))['width']).toBe(width! + 10);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect.poll(async () => (await layerIn('b'))['width']).toBe(60);
});

test('undo shows in the picture at once, twice in one moment is two steps; a line that is typed fast keeps every letter', async ({
  page,
}) => {
  const text = {
    id: 'says',
    kind: 'text',
    name: 'says',
    x: 50,
    y: 100,
    width: 500,
    height: 60,
    text: 'Hello',
  };
  const body = {
    ...{ schema: 3, key: 'ahead', name: 'Ahead', inputs: [] },
    layouts: [
      { key: 'main', width: 700, height: 300, layers: [{ ...text, size: 40, font: 'Barlow Condensed' }] },
    ],
  };
  expect((await world.act({ kind: 'put-document', what: 'template', body, revision: 0 })).ok).toBe(true);
  await page.goto(`${world.url}/templates/ahead`);
  const says = layer(page, 'says');
  await says.click();
  await page.keyboard.press('Shift+ArrowRight');
  await page
    .getByRole('complementary', { name: 'Properties' })
    .getByRole('textbox', { name: 'Width' })
    .fill('510');
  await page.keyboard.press('Enter');
  await expect(says).toHaveCSS('width', '510px');
  await page.locator('[data-canvas]').focus();
  await page.keyboard.press('Shift+ArrowDown');
  await expect(says).toHaveCSS('top', '110px');
  const seen = await page.evaluate(() => {
    const { style } = document.querySelector<HTMLElement>('[data-picture="workshop"] [data-layer="says"]')!;
    return ['z', 'z', 'y'].map((key) => {
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key, ctrlKey: true, bubbles: true }));
      return [style.left, style.width, style.top].join(' ');
    });
  });
  expect(seen).toEqual(['60px 510px 100px', '60px 500px 100px', '60px 510px 100px']);
  // Back and forth while it is being saved: what was done last is never drawn over by what the page had before.
  const drawnOver = await page.evaluate(async () => {
    const { style } = document.querySelector<HTMLElement>('[data-picture="workshop"] [data-layer="says"]')!;
    let wrong = 0;
    for (let i = 0; i < 40; i++) {
      const [key, width] = i % 2 ? ['y', '510px'] : ['z', '500px'];
      document.body.dispatchEvent(new KeyboardEvent('keydown', { key, ctrlKey: true, bubbles: true }));
      // Now and then just as the page begins to follow.
      await new Promise((done) => setTimeout(done, i % 4 === 3 ? 7 : 20));
      if (style.width !== width) wrong++;
    }
    return wrong;
  });
  expect(drawnOver).toBe(0);
  await expect(page.getByText('could not be shown')).toHaveCount(0);
  await expect(says).toHaveCSS('width', '510px');

  await button(page, 'Bind Text').click();
  const line = page.getByRole('textbox', { name: 'Text', exact: true });
  await line.click();
  await page.keyboard.press('End');
  const typed = ' abababab aabb 0123456789 abab';
  await page.keyboard.type(typed);
  await expect(line).toHaveText(`Hello${typed}`);
  await expect(says).toHaveText(`Hello${typed}`);
  await expect
    .poll(async () => (await inDocument('ahead'))[0])
    .toMatchObject({ text: { fixed: `Hello${typed}` } });
  // What is taken back elsewhere comes into the line.
  await page.locator('[data-canvas]').focus();
  await page.keyboard.press('Control+z');
  await expect(line).toHaveText('Hello');
  await page.keyboard.press('Control+y');
  await expect(line).toHaveText(`Hello${typed}`);
});

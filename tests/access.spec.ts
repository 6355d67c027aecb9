import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
/** What opens over a view or within it: what it is called, how it is opened, and how it is closed again. */
type Opened = [
  name: string,
  open: (page: Page) => Promise<unknown>,
  close?: (page: Page) => Promise<unknown>,
];

const escape = (page: Page) => page.keyboard.press('Escape');
const press = (name: string) => (page: Page) => page.getByRole('button', { name }).first().click();
const dialog = (name: string) => async (page: Page) => {
  await press(name)(page);
  await expect(page.getByRole('dialog')).toBeVisible();
};
/** Every view, with everything that opens there. */
const VIEWS: Record<string, Opened[]> = {
  '/': [],
  '/live': [
    ['the keys', dialog('Keys…'), escape],
    [
      'the rules, with a trigger that is edited',
      async (page) => {
        await dialog('Rules…')(page);
        await press('Edit Home goal')(page);
      },
      async (page) => {
        await escape(page);
        await escape(page);
      },
    ],
    ['a trace', (page) => page.locator('[data-layer]').first().click()],
  ],
  '/rundown': [],
  '/preflight': [
    [
      'the commands',
      async (page) => {
        await expect(page.getByText('are looked at all the time')).toBeVisible();
        await page.keyboard.press('Control+k');
        await expect(page.getByRole('menuitem').first()).toBeVisible();
      },
    ],
  ],
  '/game': [
    ['swapping sides', dialog('Swap sides…'), escape],
    ['choosing a mark', dialog('Choose mark'), escape],
    ['a sport', press('Edit the sport…')],
  ],
  '/sources': [
    ['deleting a source', press('Delete…'), escape],
    ['a document', (page) => page.locator('[data-source="statistics"]').click()],
    ['a new source', press('Add a source')],
  ],
  '/patch': [],
  '/templates': [],
  '/templates/lower-third': [],
  '/data': [],
  '/media': [
    [
      'several pictures',
      async (page) => {
        await page.locator('[data-media]').first().click();
        await page.keyboard.press('Control+a');
      },
    ],
  ],
  '/outputs': [],
  '/tapes': [],
};
const SIZES = [
  { width: 1280, height: 800 },
  { width: 1024, height: 768 },
  { width: 390, height: 844 },
  // A screen of 1280 by 800 at 200 % zoom.
  { width: 640, height: 400 },
];

const world = worldForFile();

interface Violation {
  id: string;
  nodes: { target: string[]; failureSummary?: string }[];
}

const ALL = { type: 'tag', values: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'] };
/** What other colours can break. */
const COLOURS = { type: 'rule', values: ['color-contrast', 'link-in-text-block'] };

/** What axe finds by WCAG 2.2 A and AA, each with its first element. */
async function violations(page: Page, runOnly: object): Promise<string[]> {
  const found = await page.evaluate(async (only) => {
    const { axe } = window as unknown as { axe: { run(of: Document, options: object): Promise<unknown> } };
    // Loops and sounds say how long they are, for the one rule that asks; axe would fetch each anew for that, at every look.
    await Promise.all(
      [...document.querySelectorAll<HTMLMediaElement>('video, audio')].map(
        (media) =>
          media.readyState > 0 ||
          new Promise((done) => ['loadedmetadata', 'error'].forEach((e) => media.addEventListener(e, done))),
      ),
    );
    return axe.run(document, { runOnly: only, resultTypes: ['violations'], preload: false });
  }, runOnly);
  return (found as { violations: Violation[] }).violations.map(
    (v) => `${v.id} (${v.nodes.length}): ${v.nodes[0]!.target.join(' ')} ${v.nodes[0]!.failureSummary ?? ''}`,
  );
}

/** Looks at a page at every size: on dark surfaces for all of it, on light ones for their colours. */
async function looked(page: Page, sideways: boolean): Promise<void> {
  const surfaces = (theme: string) =>
    page.evaluate((t) => (document.documentElement.dataset['theme'] = t), theme);
  for (const size of SIZES) {
    await page.setViewportSize(size);
    const at = `${size.width} wide`;
    await surfaces('dark');
    expect(await violations(page, ALL), `dark, ${at}`).toEqual([]);
    // Nothing has to be looked for sideways.
    const over = () => page.evaluate(() => document.documentElement.scrollWidth - innerWidth);
    if (sideways) await expect.poll(over, at).toBeLessThanOrEqual(0);
    await surfaces('light');
    expect(await violations(page, COLOURS), `light, ${at}`).toEqual([]);
  }
}

for (const [view, opened] of Object.entries(VIEWS))
  test(`${view}: nothing that WCAG 2.2 AA finds, on dark and light surfaces, at any size`, async ({
    page,
  }) => {
    await page.goto(world.url + view);
    await expect(page.locator('main h1').first()).toBeAttached();
    // As a page's own tool would: the policy lets no foreign script in. It notes no element's HTML, which for a long page takes
    // a third of its time: where an element stands is said all the same.
    await page.evaluate(`${axe}; axe.configure({ noHtml: true });`);
    await looked(page, true);
    for (const [name, open, close] of opened)
      await test.step(name, async () => {
        await page.setViewportSize(SIZES[0]!);
        await open(page);
        await looked(page, false);
        await close?.(page);
      });
  });

test('light and dark surfaces are what was chosen, from the first paint on', async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem('foothill.theme', 'light'));
  await page.goto(`${world.url}/live`);
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'light');
});

test('on a narrow screen the live view opens at its picture, and stays there when a lane is chosen by its letter', async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${world.url}/live`);
  const under = (lane: string) =>
    expect(page.locator(`[data-lane-row="${lane}"]`)).toHaveAttribute('data-under', 'true');
  await under('broadcast/lower');
  await expect(page.locator('[data-picture="air"]').first()).toBeInViewport();
  await page.keyboard.press('h');
  await under('ribbon/headlines');
  expect(await page.evaluate(() => scrollY)).toBe(0);
  // Where the list itself scrolls, its line is brought into sight.
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.keyboard.press('q');
  await under('broadcast/top');
  await page.keyboard.press('h');
  await expect(page.locator('[data-lane-row="ribbon/headlines"]')).toBeInViewport({ ratio: 1 });
});

test('a dialog takes the focus and gives it back, and going through a form by Tab changes nothing', async ({
  page,
}) => {
  await page.goto(`${world.url}/game`);
  const swap = page.getByRole('button', { name: 'Swap sides…' });
  await swap.focus();
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: 'Swap sides' });
  await expect(dialog).toBeVisible();
  for (let i = 0; i < 12; i++) {
    await page.keyboard.press('Tab');
    expect(await dialog.evaluate((d) => d.contains(document.activeElement))).toBe(true);
  }
  await page.keyboard.press('Escape');
  await expect(dialog).toHaveCount(0);
  await expect(swap).toBeFocused();
  for (const view of ['/game', '/sources', '/data']) {
    await page.goto(world.url + view);
    await expect(page.locator('main h1').first()).toBeAttached();
    for (let i = 0; i < 60; i++) await page.keyboard.press('Tab');
    await expect(
      page.getByRole('button', { name: /^(Save|Save game)$/ }).and(page.locator(':enabled')),
    ).toHaveCount(0);
  }
  expect(await world.loggedActions()).toEqual([]);
});

test('a document, a frame and a tape are gone along by keys', async ({ page }) => {
  await page.goto(`${world.url}/sources`);
  await page.locator('[data-source="statistics"]').click();
  const tree = page.getByRole('treegrid', { name: 'Document' });
  await tree.getByRole('row').first().focus();
  const rows = await tree.getByRole('row').count();
  await page.keyboard.press('ArrowLeft');
  await expect(tree.getByRole('row')).toHaveCount(1);
  await expect(tree.getByRole('row').first()).toHaveAttribute('aria-expanded', 'false');
  await page.keyboard.press('ArrowRight');
  await expect(tree.getByRole('row')).toHaveCount(rows);
  await page.keyboard.press('ArrowDown');
  await expect(tree.getByRole('row').nth(1)).toBeFocused();
  await page.locator('[data-source="controller"]').click();
  const ruler = page.getByRole('listbox', { name: 'Bytes of the frame' });
  await ruler.focus();
  // To come by is not to choose.
  await expect(ruler.getByRole('option', { selected: true })).toHaveCount(0);
  await page.keyboard.press('End');
  await expect(ruler.getByRole('option', { selected: true })).toBeFocused();
  await page.goto(`${world.url}/tapes`);
  const line = page.getByRole('slider', { name: 'Timeline' });
  await line.focus();
  await page.keyboard.press('ArrowRight');
  await expect(line).toHaveAttribute('aria-valuenow', '1');
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(line).toHaveAttribute('aria-valuetext', /part from 0:01 to 0:03/);
});

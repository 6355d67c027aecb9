import { readdir } from 'node:fs/promises';
import { expect, test, worldForFile } from './support/test.ts';
import { FAMILIES } from '../src/core/text/families.ts';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { button } from './support/page.ts';
import { snapshot } from './support/snapshot.ts';

/** What fits and what does not: tried on a whole league, and said before the take. */
const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

test('the fit check finds the one long name that is put into a roster, and leads to its layer', async ({
  page,
}) => {
  await page.goto(`${world.url}/templates`);
  await button(page, 'Fit check').click();
  const check = page.getByLabel('Fit check', { exact: true });
  await expect(check.getByRole('status')).toContainText('tried');
  const long = 'Maximiliana Featherstonehaugh-Wolstenholme-Cholmondeley';
  await expect(check.locator(`[data-fit="${long}, Herons"]`)).toHaveCount(0);

  // Somebody elsewhere puts the name into the roster: the check runs again by itself.
  const { game } = (await snapshot<DeskSnapshot>(world, 'desk')).documents;
  const body = structuredClone(game.find((g) => g.key === 'opening-night')!);
  const [first, last] = long.split(' ') as [string, string];
  Object.assign(body.home.players[0]!, { first, last });
  await world.act({ kind: 'put-document', what: 'game', body });
  const found = check.locator(`[data-fit="${long}, Herons"]`).first();
  await expect(found).toBeVisible();
  await expect(check.locator('[data-fit]').first()).toHaveAttribute('data-fit', `${long}, Herons`);
  await found.click();
  await expect(page).toHaveURL(/\/templates\/[a-z-]+#layout=/);
  await expect(page.locator('[role="row"][aria-selected="true"]')).toHaveCount(1);
});

test('the worker measures as the page does: under half a px at 100 px, in every family that ships', async ({
  page,
}) => {
  await page.goto(`${world.url}/templates/lower-third`);
  await expect(page.getByRole('status', { name: 'Saving' })).toHaveText('Saved');
  const built = await readdir('dist/astro/client/_astro');
  const file = built.find((name) => /^fit-worker.*\.js$/.test(name))!;
  const differences = await page.evaluate(
    async ({ families, file }) => {
      const names = ['Tamsin Orrell', 'AVATAR Tö Łódź', 'Über-Weg 1:07', 'Fjord, “11” & 2', 'Te To Va 77'];
      const worst: Record<string, number> = {};
      const faces = [];
      for (const sheet of document.styleSheets)
        for (const rule of sheet.cssRules)
          if (rule instanceof CSSFontFaceRule) {
            const said = (n: string) => rule.style.getPropertyValue(n).trim();
            faces.push({
              family: said('font-family').replace(/^["']|["']$/g, ''),
              source: said('src').replace(
                /url\(["']?([^"')]+)["']?\)/g,
                (_, at: string) => `url("${new URL(at, sheet.href!).href}")`,
              ),
              weight: said('font-weight'),
              range: said('unicode-range'),
            });
          }
      const ruler = document.createElement('span');
      ruler.style.cssText = 'position:absolute;white-space:pre;font-variant-numeric:tabular-nums';
      document.body.append(ruler);
      const width = (t: string) => {
        ruler.textContent = t;
        return ruler.getBoundingClientRect().width;
      };
      const worker = new Worker(`/_astro/${file}`, { type: 'module' });
      for (const { name, weights } of families)
        for (const weight of [Math.max(300, weights[0]), 700]) {
          const stack = `${weight} 100px "${name}", "${name} Variable", sans-serif`;
          await document.fonts.load(stack, 'Aa0Łő“');
          ruler.style.font = stack;
          ruler.style.fontVariantNumeric = 'tabular-nums';
          const signs = [...'0123456789:.,-–/+ '];
          const known = new Map(signs.map((x) => [x, width(x)] as const));
          for (const a of signs) for (const b of signs) known.set(a + b, width(a + b) - width(a) - width(b));
          const figures = new Map([[`${weight} ${name}`, known]]);
          const own = faces.filter((f) => f.family === name || f.family === `${name} Variable`);
          const measured = await new Promise<number[]>((done) => {
            worker.onmessage = ({ data }) => done(data as number[]);
            worker.postMessage({
              measure: { font: name, weight, size: 100, tracking: 0 },
              widths: names,
              faces: own,
              figures,
            });
          });
          names.forEach((t, i) => (worst[`${name} ${weight} ${t}`] = Math.abs(width(t) - measured[i]!)));
        }
      return worst;
    },
    { families: FAMILIES, file },
  );
  expect(Object.entries(differences).filter(([, px]) => px >= 0.5)).toEqual([]);
  expect(Object.keys(differences).length).toBe(FAMILIES.length * 10);
});

test('the live view says before the take that a name is drawn too small, and no more once it fits', async ({
  page,
}) => {
  await page.goto(`${world.url}/live`);
  const lane = page.locator('[data-lane="lower"]');
  await lane.locator('[data-item-tile="captain"]').click();
  const name = lane.getByRole('textbox', { name: 'Name' });
  await name.fill('WWWWWWWWWW MMMMMMMMMM '.repeat(3).slice(0, 60));
  const said = lane.locator('[data-tip*="of its size"]');
  await expect(said).toBeVisible();
  await expect(said).toContainText(/Name is only \d+ % of its size/);
  await name.fill('Bram Hallowick');
  await expect(said).toHaveCount(0);
});

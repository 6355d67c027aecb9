import { chromium, type Page } from '@playwright/test';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import type { Layer } from '../src/core/layers/kinds.ts';
import { World } from '../tests/support/world.ts';
import { median, quantile, type Figure } from './stats.ts';

const LAYERS = 300;
const TEXTS = 40;
const GAMES = 5;
const PLAYERS = 200;
const MOVES = 150;
/** A frame is on time that comes no later than half a frame after it is due, at 60 a second. */
const ON_TIME = 25;

const at = (i: number) => ({ x: 10 + (i % 20) * 92, y: 10 + Math.floor(i / 20) * 70, width: 84, height: 60 });
const layerAt = (i: number): Layer =>
  (i % 2
    ? {
        id: `l${i}`,
        kind: 'text',
        name: `t ${i}`,
        ...at(i),
        text: `No. ${i}`,
        font: 'Barlow Condensed',
        size: 28,
      }
    : { id: `l${i}`, kind: 'shape', name: `s ${i}`, ...at(i), fill: '#224466', radius: 6 }) as Layer;

const template = (key: string, layers: Layer[], inputs: object[] = []) => ({
  schema: 3,
  key,
  name: key,
  inputs,
  layouts: [{ key: 'main', width: 1920, height: 1080, layers }],
});

const player = (n: number) => ({
  number: String(n % 1000),
  first: `First${n}`,
  last: `Lastname-${n.toString(36).repeat(1 + (n % 4))}`,
});
const team = (n: number) => ({
  name: `Club ${n}`,
  short: `C${n}`,
  abbr: `C${n}`,
  colour: '#224466',
  mark: '',
  players: Array.from({ length: PLAYERS }, (_, i) => player(n * PLAYERS + i)),
});

/** Notes each frame of a page, until it is asked what it noted. */
const watch = (page: Page) =>
  page.evaluate(() => {
    const noted: number[] = [];
    let last = performance.now();
    const frame = (now: number) => {
      noted.push(now - last);
      last = now;
      requestAnimationFrame(frame);
    };
    requestAnimationFrame(frame);
    (window as unknown as { noted: number[] }).noted = noted;
  });
const noted = (page: Page) => page.evaluate(() => (window as unknown as { noted: number[] }).noted.splice(0));
const onTime = (frames: readonly number[]) => frames.filter((ms) => ms <= ON_TIME).length / frames.length;

/** Moves the mouse with its button down, once a frame. */
async function drag(page: Page, from: { x: number; y: number }): Promise<number[]> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(from.x + 5, from.y + 5);
  await noted(page);
  for (let i = 0; i < MOVES; i++) {
    await page.mouse.move(from.x + 5 + (i % 60), from.y + 5 + (i % 30));
    await page.evaluate(() => new Promise((done) => requestAnimationFrame(done)));
  }
  const frames = await noted(page);
  await page.mouse.up();
  return frames;
}

/** The least that a page can do: one element that follows the mouse. */
async function floor(page: Page): Promise<number[]> {
  await page.setContent(
    '<div id="a" style="position:absolute;width:80px;height:60px;background:#246"></div>',
  );
  await page.evaluate(() => {
    const el = document.getElementById('a')!;
    addEventListener('mousemove', (e) => (el.style.transform = `translate(${e.clientX}px, ${e.clientY}px)`));
  });
  await watch(page);
  return drag(page, { x: 100, y: 100 });
}

/** As many elements as the template has layers, on a page with nothing else. */
const barePage = Array.from({ length: LAYERS }, (_, i) => {
  const { x, y, width, height } = at(i);
  return `<div style="position:absolute;left:${x}px;top:${y}px;width:${width}px;height:${height}px;background:#246">${i % 2 ? `No. ${i}` : ''}</div>`;
}).join('');

/** How many texts a bare page measures for the floor. */
const MEASURED = 2000;

/** Measures so many texts in a page, one after another; gives how long that took, ms. */
function measureAll(many: number): number {
  const ruler = document.body.appendChild(document.createElement('span'));
  ruler.style.cssText = 'position:absolute;white-space:pre;font:28px sans-serif';
  const began = performance.now();
  for (let i = 0; i < many; i++) {
    ruler.textContent = `First${i} Lastname-${i.toString(36)}`;
    ruler.getBoundingClientRect();
  }
  return performance.now() - began;
}

/** What the workshop costs a designer: opening, dragging, undoing, typing, and trying a whole league. */
export async function workshop(): Promise<Figure[]> {
  const world = await World.start({ sim: false });
  const browser = await chromium.launch(chromiumOptions);
  try {
    const put = (what: string, body: object) => world.act({ kind: 'put-document', what, body, revision: 0 });
    await put(
      'template',
      template(
        'many',
        Array.from({ length: LAYERS }, (_, i) => layerAt(i)),
      ),
    );
    const names = Array.from({ length: TEXTS }, (_, i) => ({
      ...layerAt(2 * i + 1),
      text: { input: 'name' },
      fit: ['shrink', 'condense', 'cut', 'shrink'][i % 4],
    })) as unknown as Layer[];
    const input = { key: 'name', label: 'Name', kind: 'text', required: true };
    await put('template', template('league', names, [input]));
    for (let n = 0; n < GAMES; n++)
      await put('game', {
        schema: 1,
        key: `league-${n}`,
        competition: 'L',
        venue: 'V',
        profile: 'box-lacrosse',
        home: team(2 * n),
        away: team(2 * n + 1),
      });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const bare = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const bareFrames = await floor(bare);
    const frame = median(bareFrames);
    const bareOpened = [];
    for (let i = 0; i < 5; i++) {
      await bare.goto(`data:text/html,${encodeURIComponent(barePage)}`);
      bareOpened.push(await bare.evaluate(() => performance.now()));
    }
    const measuring = await bare.evaluate(measureAll, MEASURED);
    await bare.close();

    const saved = () =>
      page.waitForFunction(
        () => document.querySelector('[role="status"][aria-label="Saving"]')!.textContent === 'Saved',
      );
    // The second time: the scripts are in the browser, as they are for who comes from the library.
    const open = async () => {
      await page.goto(`${world.url}/templates/many`, { waitUntil: 'commit' });
      await page.waitForFunction(
        (many) => document.querySelectorAll('[data-picture="workshop"] [data-id]').length === many,
        LAYERS,
        { polling: 'raf' },
      );
      return page.evaluate(() => performance.now());
    };
    await open();
    const opened = [];
    for (let i = 0; i < 5; i++) opened.push(await open());
    await watch(page);
    const middleOf = async (id: string) => {
      const box = (await page.locator(`[data-picture="workshop"] [data-id="${id}"]`).boundingBox())!;
      return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
    };
    const first = await middleOf('l44');
    await page.mouse.click(first.x, first.y);
    const one = await drag(page, first);
    // Ten at once.
    await page.keyboard.down('Shift');
    for (let i = 45; i < 54; i++) {
      const { x, y } = await middleOf(`l${i}`);
      await page.mouse.click(x, y);
    }
    await page.keyboard.up('Shift');
    const ten = await drag(page, await middleOf('l50'));
    await saved();

    /** From a key to the change that it makes in the picture. */
    const keyed = (key: string) =>
      page.evaluate((k) => {
        const picture = document.querySelector('[data-picture="workshop"]')!;
        return new Promise<number>((done, failed) => {
          const began = performance.now();
          const look = new MutationObserver((changes) => {
            if (!changes.some((c) => (c.target as HTMLElement).dataset['id'])) return;
            look.disconnect();
            done(performance.now() - began);
          });
          look.observe(picture, { subtree: true, attributes: true, attributeFilter: ['style'] });
          setTimeout(() => failed(new Error('The key changed nothing.')), 5000);
          document.body.dispatchEvent(
            new KeyboardEvent('keydown', { key: k, ctrlKey: true, bubbles: true, cancelable: true }),
          );
        });
      }, key);
    const steps: number[] = [];
    for (let i = 0; i < 10; i++) steps.push(await keyed('z'), await keyed('y'));

    // Typing into a value line: from the key to the text in the picture.
    await page.locator('[data-canvas]').focus();
    await page.keyboard.press('Escape');
    const text = await middleOf('l1');
    await page.mouse.click(text.x, text.y);
    await page.getByRole('button', { name: 'Bind Text' }).click();
    await page.getByRole('textbox', { name: 'Text', exact: true }).click();
    await page.evaluate(() => {
      const el = document.querySelector('[data-picture="workshop"] [data-id="l1"]')!;
      const taken: number[] = [];
      let pressed = 0;
      addEventListener('keydown', () => (pressed = performance.now()), { capture: true });
      new MutationObserver(() => taken.push(performance.now() - pressed)).observe(el, {
        subtree: true,
        childList: true,
        characterData: true,
      });
      (window as unknown as { taken: number[] }).taken = taken;
    });
    // Nobody types in the moment of a press: what the binding began is over.
    await saved();
    for (const sign of 'a sentence that is typed at speed') await page.keyboard.type(sign, { delay: 40 });
    const typed = await page.evaluate(() => (window as unknown as { taken: number[] }).taken);

    // A whole league.
    await page.goto(`${world.url}/templates/league`);
    await page.getByRole('status', { name: 'Saving' }).waitFor();
    // Somebody works here: the first press on a page costs what no other does.
    await page.getByRole('tab', { name: 'Inputs' }).click();
    await page.waitForTimeout(1500);
    await watch(page);
    await noted(page);
    await page.getByRole('tab', { name: 'Fit' }).click();
    const check = page.getByLabel('Fit check', { exact: true });
    await check.waitFor();
    const frames = await noted(page);
    const took = Number(await check.getAttribute('data-ms'));
    const tried = Number(await check.getAttribute('data-tried'));
    /** Times as frames of the bare page: what comes within one could not come sooner. */
    const inFrames = (times: readonly number[]) => ({
      value: median(times) / frame,
      p99: quantile(times, 0.99) / frame,
      unit: 'frames',
    });
    return [
      {
        name: `a template of ${LAYERS} layers is opened`,
        value: median(opened),
        p99: quantile(opened, 0.99),
        unit: 'ms',
      },
      { name: 'a bare page of as many elements', value: median(bareOpened), unit: 'ms' },
      {
        name: 'a template opened, against the bare page',
        value: median(opened) / median(bareOpened),
        unit: 'times',
        bound: { most: 20 },
      },
      { name: 'a frame of the bare page', value: frame, unit: 'ms' },
      {
        name: 'frames on time, a bare page that moves one element',
        value: 100 * onTime(bareFrames),
        unit: '%',
      },
      {
        name: `frames on time, one of ${LAYERS} layers dragged, of the bare page's`,
        value: (100 * onTime(one)) / onTime(bareFrames),
        unit: '%',
        bound: { least: 99 },
      },
      {
        name: `frames on time, ten of ${LAYERS} layers dragged, of the bare page's`,
        value: (100 * onTime(ten)) / onTime(bareFrames),
        unit: '%',
        bound: { least: 99 },
      },
      {
        name: 'undo or redo of a step, until it is in the picture',
        ...inFrames(steps),
        bound: { most: 1 },
      },
      {
        name: 'a key in a value line, until it is in the picture',
        ...inFrames(typed),
        bound: { most: 1 },
      },
      {
        name: `fit check, ${tried.toLocaleString('en')} contents tried`,
        value: took,
        unit: 'ms',
      },
      {
        name: '  for each, against a text that a bare page measures',
        value: took / tried / (measuring / MEASURED),
        unit: 'times',
        bound: { most: 0.1 },
      },
      {
        name: 'longest frame of the page meanwhile',
        value: Math.max(...frames) / frame,
        unit: 'frames',
        bound: { most: 3 },
      },
    ];
  } finally {
    await browser.close();
    await world.stop();
  }
}

import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { chromium, type Browser, type Page } from '@playwright/test';
import { WebSocketServer } from 'ws';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import { sharedDatabase, sleep, World } from '../tests/support/world.ts';
import { floorCommits } from './floor-commit.ts';
import { median, timesOf, type Figure } from './stats.ts';

const TAKES = 250;
/** The first ones are not counted: a show runs for hours, and nothing in it runs for the first time. */
const WARM = 100;
const BETWEEN = 120;
/** A picture that has not changed by then is looked for so often, and for so long, in ms. */
const LOOK = 20;
const LATEST = 5000;

type Noted = { at: number[] };

/** Writes down, in the page, when each key came to it. */
const noteKeys = (page: Page) =>
  page.evaluate(() => {
    const at: number[] = ((window as unknown as Noted).at = []);
    addEventListener('keydown', (e) => at.push(performance.timeOrigin + e.timeStamp), true);
  });

/** Writes down, in the page, when an element came into the picture or left it. */
const noteChanges = (page: Page) =>
  page.evaluate(() => {
    const at: number[] = ((window as unknown as Noted).at = []);
    const now = () => performance.timeOrigin + performance.now();
    const isItem = (node: Node) => (node as Element).getAttribute?.('data-item') === 'captain';
    new MutationObserver((changes) => {
      for (const { addedNodes } of changes) for (const node of addedNodes) if (isItem(node)) at.push(now());
    }).observe(document.getElementById('stage')!, { childList: true });
  });

const noted = (page: Page) => page.evaluate(() => (window as unknown as Noted).at);

/** A page with keys, a page with a picture, and how that is emptied. */
interface Way {
  desk: Page;
  air: Page;
  clear: () => Promise<unknown> | void;
}

/** Presses a key of each way in turn, so that all meet the same machine; gives how long after each the picture changed, in ms. */
async function keyToPicture(ways: readonly Way[]): Promise<number[][]> {
  for (const { desk, air } of ways) {
    await noteChanges(air);
    await noteKeys(desk);
  }
  for (let i = 0; i < TAKES; i++)
    for (const { desk, air, clear } of ways) {
      await desk.keyboard.press('Enter');
      await sleep(BETWEEN);
      // One that is late counts as late: cleared before it is there, it would not be seen at all.
      for (let waited = 0; (await noted(air)).length <= i && waited < LATEST; waited += LOOK)
        await sleep(LOOK);
      await clear();
      // What leaves has left.
      await sleep(2 * BETWEEN);
    }
  return Promise.all(
    ways.map(async ({ desk, air }) => {
      const [keys, changes] = [await noted(desk), await noted(air)];
      if (keys.length !== TAKES || changes.length !== TAKES)
        throw new Error(`${keys.length} keys and ${changes.length} changes were seen, not ${TAKES}`);
      return keys.map((at, i) => changes[i]! - at).slice(WARM);
    }),
  );
}

/** The least there can be: a page sends a word at a key, a server commits it and sends it on, another page puts an element in. */
const BARE = `<!doctype html><div id="stage"></div><script>
const ws = new WebSocket('ws://' + location.host);
addEventListener('keydown', () => ws.send('take'));
ws.onmessage = ({ data }) => {
  const stage = document.getElementById('stage');
  if (data === 'clear') return stage.replaceChildren();
  const el = document.createElement('div');
  el.dataset.item = 'captain';
  stage.append(el);
};
</script>`;

/** A program that does no more than it must, on an address of its own. */
async function bareProgram(commit: () => Promise<void>) {
  const server = createServer((_, response) => response.setHeader('content-type', 'text/html').end(BARE));
  const sockets = new WebSocketServer({ server });
  const tell = (text: string) => sockets.clients.forEach((s) => s.send(text));
  sockets.on('connection', (socket) => socket.on('message', () => void commit().then(() => tell('take'))));
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  return {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/`,
    clear: () => tell('clear'),
    end: () => {
      for (const socket of sockets.clients) socket.terminate();
      server.close();
    },
  };
}

/** From a key on the live view to the changed picture of an air page, committed, beside what a bare program takes. */
export async function key(): Promise<Figure[]> {
  const world = await World.start();
  const { port, password } = sharedDatabase();
  const database = await floorCommits({ port, password, database: world.databaseName });
  const bare = await bareProgram(() =>
    database.commit({ id: crypto.randomUUID(), field: 'home.shots', text: '1' }),
  );
  const browsers = await Promise.all([chromium.launch(chromiumOptions), chromium.launch(chromiumOptions)]);
  const [desks, airs] = browsers as [Browser, Browser];
  try {
    const open = async (browser: Browser, url: string) => {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await page.goto(url);
      return page;
    };
    const ways = [
      { desk: await open(desks, bare.url), air: await open(airs, bare.url), clear: bare.clear },
      {
        desk: await open(desks, `${world.url}/live`),
        air: await open(airs, `${world.url}/air/broadcast`),
        clear: () => world.act({ kind: 'clear', output: 'broadcast', zone: 'lower' }),
      },
    ];
    await ways[1]!.desk.locator('[data-item-tile="captain"]').click();
    await sleep(3000);
    const [least, all] = (await keyToPicture(ways)) as [number[], number[]];
    return [
      timesOf('key to picture, bare program that commits', least),
      timesOf('key to picture, committed', all),
      {
        name: 'key to picture against its floor',
        value: median(all) / median(least),
        unit: 'times',
        bound: { most: 2.5 },
      },
    ];
  } finally {
    for (const browser of browsers) await browser.close();
    bare.end();
    await database.end();
    await world.stop();
  }
}

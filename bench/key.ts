import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { chromium, type Page } from '@playwright/test';
import { WebSocketServer } from 'ws';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import { sharedDatabase, sleep, World } from '../tests/support/world.ts';
import { floorCommits } from './floor-commit.ts';
import { median, timesOf, type Figure } from './stats.ts';

const TAKES = 300;
const BETWEEN = 120;

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

/** Presses a key so often and gives how long after each the other page changed, in ms. */
async function keyToPicture(desk: Page, air: Page, clear: () => Promise<void>): Promise<number[]> {
  await noteChanges(air);
  await noteKeys(desk);
  for (let i = 0; i < TAKES; i++) {
    await desk.keyboard.press('Enter');
    await sleep(BETWEEN);
    await clear();
    await sleep(BETWEEN);
  }
  const [keys, changes] = [await noted(desk), await noted(air)];
  if (keys.length !== TAKES || changes.length !== TAKES)
    throw new Error(`${keys.length} keys and ${changes.length} changes were seen, not ${TAKES}`);
  return keys.map((at, i) => changes[i]! - at);
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

async function floor(desk: Page, air: Page, commit: () => Promise<void>): Promise<number[]> {
  const server = createServer((_, response) => response.setHeader('content-type', 'text/html').end(BARE));
  const sockets = new WebSocketServer({ server });
  const tell = (text: string) => sockets.clients.forEach((s) => s.send(text));
  sockets.on('connection', (socket) => socket.on('message', () => void commit().then(() => tell('take'))));
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  const url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/`;
  try {
    for (const page of [desk, air]) await page.goto(url);
    await sleep(1000);
    return await keyToPicture(desk, air, () => Promise.resolve(tell('clear')));
  } finally {
    for (const socket of sockets.clients) socket.terminate();
    server.close();
  }
}

/** From a key on the live view to the changed picture of an air page, committed, beside what a bare program takes. */
export async function key(): Promise<Figure[]> {
  const world = await World.start();
  const browsers = await Promise.all([chromium.launch(chromiumOptions), chromium.launch(chromiumOptions)]);
  try {
    const [desk, air] = await Promise.all(
      browsers.map((b) => b.newPage({ viewport: { width: 1280, height: 800 } })),
    );
    const { port, password } = sharedDatabase();
    const floorDatabase = await floorCommits({ port, password, database: world.databaseName });
    const bare = await floor(desk!, air!, () =>
      floorDatabase.commit({ id: crypto.randomUUID(), field: 'home.shots', text: '1' }),
    );
    await floorDatabase.end();
    await air!.goto(`${world.url}/air/broadcast`);
    await desk!.goto(`${world.url}/live`);
    await desk!.locator('[data-item-tile="captain"]').click();
    await sleep(3000);
    const all = await keyToPicture(desk!, air!, async () => {
      await world.act({ kind: 'clear', output: 'broadcast', zone: 'lower' });
    });
    return [
      timesOf('key to picture, bare program that commits', bare),
      timesOf('key to picture, committed', all),
      {
        name: 'key to picture against its floor',
        value: median(all) / median(bare),
        unit: 'times',
        bound: { most: 2.5 },
      },
    ];
  } finally {
    for (const browser of browsers) await browser.close();
    await world.stop();
  }
}

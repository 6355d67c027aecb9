import { fork } from 'node:child_process';
import { createServer, type Socket } from 'node:net';
import { chromium } from '@playwright/test';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import { encodeFrame } from '../src/sim/frame.ts';
import { newGame } from '../src/sim/game.ts';
import { freePort } from '../tests/support/ports.ts';
import { sleep, World } from '../tests/support/world.ts';
import { clientsOf, type Clients } from './clients.ts';
import { fill, OUTPUTS, socketOf } from './joining.ts';
import { median, quantile, type Figure } from './stats.ts';

const CLIENTS = 200;
/** Layers of each output, half of which show the score that changes. */
const LAYERS = 20;
const FRAMES = 300;
const BETWEEN = 100;
const JOINERS = 199;

const now = () => performance.timeOrigin + performance.now();

/** A device that sends each number to all that are connected, ten times a second. */
async function device(port: number) {
  const state = newGame();
  const lines = new Set<Socket>();
  const server = createServer((socket) => {
    socket.setNoDelay(true).on('error', () => {});
    lines.add(socket);
    socket.on('close', () => lines.delete(socket));
  });
  await new Promise<void>((done) => server.listen(port, '127.0.0.1', done));
  let n = 0;
  return {
    connected: async () => {
      while (lines.size === 0) await sleep(50);
    },
    /** Sends so many, each by its turn; gives which, and when each went out. */
    send: async (count: number): Promise<{ n: number; at: number }[]> => {
      const sent: { n: number; at: number }[] = [];
      let due = now();
      for (let i = 0; i < count; i++) {
        n = (n % 99) + 1;
        state.home.score = n;
        const frame = encodeFrame(state);
        sent.push({ n, at: now() });
        for (const socket of lines) socket.write(frame);
        due += BETWEEN;
        await sleep(Math.max(0, due - now()));
      }
      return sent;
    },
    close: () => {
      for (const socket of lines) socket.destroy();
      server.close();
    },
  };
}

/**
 * Sends frames and gives, in ms, how long after each every client had it, beside how many never did. A number comes again
 * after 99, when the one before is long through.
 */
async function delivered(
  clients: Clients,
  line: Awaited<ReturnType<typeof device>>,
  frames: number,
  meanwhile: () => Promise<void> = async () => {},
): Promise<{ late: number[]; missing: number }> {
  const [sent] = await Promise.all([line.send(frames), meanwhile()]);
  await sleep(1000);
  const heard = await clients.heard();
  const late = sent.flatMap(({ n, at }) =>
    heard.flatMap(([m, t]) => (m === n && t >= at && t < at + 5000 ? [t - at] : [])),
  );
  return { late, missing: frames * CLIENTS - late.length };
}

/** Two hundred clients over fifty outputs, ten frames a second; and two hundred pages that join at once meanwhile. */
export async function venue(): Promise<Figure[]> {
  const world = await World.start({ sim: false });
  const controller = await device(world.simPort);
  const [barePort, bareHttp] = [await freePort(), await freePort()];
  const bareLine = await device(barePort);
  const floor = fork(new URL('./floor.js', import.meta.url), [String(barePort), String(bareHttp)]);
  await new Promise((done) => floor.once('message', done));
  const browser = await chromium.launch(chromiumOptions);
  const following: Clients[] = [];
  const follow = async (urls: readonly string[]) => {
    const clients = await clientsOf(urls);
    following.push(clients);
    return clients;
  };
  const urls = (count: number) =>
    Array.from({ length: count }, (_, i) => socketOf(world, `air:o${i % OUTPUTS}`));
  try {
    await fill(world, LAYERS);
    await controller.connected();
    const bareClients = await follow(Array<string>(CLIENTS).fill(`ws://127.0.0.1:${bareHttp}/`));
    const bare = await delivered(bareClients, bareLine, FRAMES);
    bareClients.end();
    const clients = await follow(urls(CLIENTS));
    await sleep(2000);
    const all = await delivered(clients, controller, FRAMES);
    const page = await browser.newPage({ viewport: { width: 1920, height: 1080 } });
    let [joined, drawn] = [0, 0];
    const meanwhile = await delivered(clients, controller, 60, async () => {
      await sleep(1000);
      const from = performance.now();
      const seen = async () => {
        await page.goto(`${world.url}/air/o0`, { waitUntil: 'commit' });
        await page.locator('[data-layer="Layer 1"]').filter({ hasText: /\d/ }).waitFor();
        drawn = performance.now() - from;
      };
      const [joiners] = await Promise.all([follow(urls(JOINERS)), seen()]);
      joined = joiners.took;
      joiners.end();
    });
    const show = `${CLIENTS} clients of ${OUTPUTS} outputs, ten frames a second`;
    return [
      {
        name: `${show}: bare broadcast`,
        value: median(bare.late),
        p99: quantile(bare.late, 0.99),
        unit: 'ms',
      },
      { name: `${show}: delivered, median`, value: median(all.late), unit: 'ms' },
      { name: 'delivered, 99 %', value: quantile(all.late, 0.99), unit: 'ms', bound: { most: 50 } },
      { name: 'frames that did not come', value: all.missing, unit: '', bound: { most: 0 } },
      {
        name: `${JOINERS} more join at once: all have their picture`,
        value: joined,
        unit: 'ms',
        bound: { most: 3000 },
      },
      { name: 'and one in a browser has drawn it', value: drawn, unit: 'ms', bound: { most: 3000 } },
      {
        name: 'the latest frame meanwhile',
        value: Math.max(...meanwhile.late),
        p99: quantile(meanwhile.late, 0.99),
        unit: 'ms',
        bound: { most: 100 },
      },
      { name: 'frames that did not come meanwhile', value: meanwhile.missing, unit: '', bound: { most: 0 } },
    ];
  } finally {
    for (const clients of following) clients.end();
    floor.kill();
    for (const line of [controller, bareLine]) line.close();
    await browser.close();
    await world.stop();
  }
}

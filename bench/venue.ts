import { createServer, type Socket } from 'node:net';
import { chromium } from '@playwright/test';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import { encodeFrame } from '../src/sim/frame.ts';
import { newGame } from '../src/sim/game.ts';
import { freePort } from '../tests/support/ports.ts';
import { sleep, World } from '../tests/support/world.ts';
import { bareProgram } from './bare.ts';
import { clientsOf, type Clients } from './clients.ts';
import { fill, OUTPUTS, snapshotLength, socketOf } from './joining.ts';
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
  const barePort = await freePort();
  const bareLine = await device(barePort);
  const floor = await bareProgram(barePort);
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
    const page = await browser.newPage({ viewport: { width: 1920, height: 1080 } });
    /** Frames to so many clients; then as many more join at once, and a browser with them. */
    const measured = async (
      line: Awaited<ReturnType<typeof device>>,
      addresses: (count: number) => string[],
      http: string,
      text: string,
    ) => {
      const clients = await follow(addresses(CLIENTS));
      await sleep(2000);
      const alone = await delivered(clients, line, FRAMES);
      let [joined, drawn] = [0, 0];
      const meanwhile = await delivered(clients, line, 60, async () => {
        await sleep(1000);
        const from = performance.now();
        const seen = async () => {
          await page.goto(http, { waitUntil: 'commit' });
          await page.locator(text).filter({ hasText: /\d/ }).waitFor();
          drawn = performance.now() - from;
        };
        const [joiners] = await Promise.all([follow(addresses(JOINERS)), seen()]);
        joined = joiners.took;
        joiners.end();
      });
      clients.end();
      return { alone, meanwhile, joined, drawn };
    };
    const bytes = await snapshotLength(world, 'air:o0');
    const bare = await measured(
      bareLine,
      (count) => Array<string>(count).fill(floor.socket(bytes)),
      floor.http,
      '#text',
    );
    const all = await measured(controller, urls, `${world.url}/air/o0`, '[data-layer="Layer 1"]');
    const show = `${CLIENTS} clients of ${OUTPUTS} outputs, ten frames a second`;
    /** A figure of each, and the one as a share of the other. */
    const beside = (
      name: string,
      of: (m: typeof all) => number,
      most: number,
      p99?: (m: typeof all) => number,
    ): Figure[] => [
      { name: `${name}: bare`, value: of(bare), unit: 'ms', ...(p99 && { p99: p99(bare) }) },
      { name, value: of(all), unit: 'ms', ...(p99 && { p99: p99(all) }) },
      { name: `${name}, against bare`, value: of(all) / of(bare), unit: 'times', bound: { most } },
    ];
    return [
      ...beside(
        `${show}, delivered`,
        (m) => median(m.alone.late),
        3,
        (m) => quantile(m.alone.late, 0.99),
      ),
      ...beside('delivered, 99 %', (m) => quantile(m.alone.late, 0.99), 3),
      { name: 'frames that did not come', value: all.alone.missing, unit: '', bound: { most: 0 } },
      ...beside(`${JOINERS} more join at once, with as many bytes each`, (m) => m.joined, 15),
      ...beside('and one in a browser has drawn it', (m) => m.drawn, 8),
      ...beside('frames meanwhile, 99 %', (m) => quantile(m.meanwhile.late, 0.99), 5),
      {
        name: 'frames that did not come meanwhile',
        value: all.meanwhile.missing,
        unit: '',
        bound: { most: 0 },
      },
    ];
  } finally {
    for (const clients of following) clients.end();
    floor.end();
    for (const line of [controller, bareLine]) line.close();
    await browser.close();
    await world.stop();
  }
}

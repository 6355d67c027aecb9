import { connect, createServer, type Socket } from 'node:net';
import { chromium } from '@playwright/test';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import { freePort } from '../tests/support/ports.ts';
import { World } from '../tests/support/world.ts';
import type { Figure } from './stats.ts';

/** 400 kbit/s in each direction, over all connections together, in bytes a second; and how often a share is let through. */
const RATE = 50_000;
const TICK = 20;
const VIEWS = ['live', 'game', 'sources', 'patch', 'templates', 'data', 'media', 'outputs', 'tapes'];

interface Waiting {
  to: Socket;
  bytes: Buffer;
  done: () => void;
}

/** The most that a first view may bring, in kB: what the line carries in five seconds. */
const MOST = (RATE * 5) / 1000;

/** Lets bytes through at the line's rate, each connection in its turn, and counts them. */
function narrow(): { push: (w: Waiting) => void; stop: () => void; passed: () => number } {
  const queue: Waiting[] = [];
  let passed = 0;
  const timer = setInterval(() => {
    for (let left = (RATE * TICK) / 1000; left > 0 && queue.length > 0;) {
      const next = queue.shift()!;
      const n = Math.min(left, next.bytes.length, 1460);
      next.to.write(next.bytes.subarray(0, n));
      left -= n;
      passed += n;
      if (n < next.bytes.length) queue.push({ ...next, bytes: next.bytes.subarray(n) });
      else next.done();
    }
  }, TICK);
  return { push: (w) => queue.push(w), stop: () => clearInterval(timer), passed: () => passed };
}

/** A narrow line to a server of this machine, for one page alone. */
async function narrowLine(
  target: number,
): Promise<{ port: number; brought: () => number; close: () => void }> {
  const [up, down] = [narrow(), narrow()];
  const carry = (from: Socket, to: Socket, lane: ReturnType<typeof narrow>) => {
    from.on('data', (bytes: Buffer) => {
      from.pause();
      lane.push({ to, bytes, done: () => from.resume() });
    });
    from.on('end', () => to.end());
    from.on('error', () => to.destroy());
  };
  const line = createServer((page) => {
    const server = connect(target, '127.0.0.1');
    carry(page, server, up);
    carry(server, page, down);
  });
  const port = await freePort();
  await new Promise<void>((done) => line.listen(port, '127.0.0.1', done));
  return {
    port,
    brought: down.passed,
    close: () => {
      line.close();
      up.stop();
      down.stop();
    },
  };
}

/**
 * From the first request to the first view of each page, nothing cached, on a line of 400 kbit/s: what it brings, and how long
 * that takes against what the line alone needs for it.
 */
export async function slowLine(): Promise<Figure[]> {
  const world = await World.start();
  const browser = await chromium.launch(chromiumOptions);
  const figures: Figure[] = [];
  let [unanswered, slowest] = [0, 0];
  try {
    for (const view of VIEWS) {
      const line = await narrowLine(Number(new URL(world.url).port));
      const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
      const page = await context.newPage();
      const at = performance.now();
      await page.goto(`http://127.0.0.1:${line.port}/${view}`, { waitUntil: 'commit' });
      await page.locator('main :is(aside, section)').first().waitFor({ timeout: 60_000 });
      const [took, bytes] = [(performance.now() - at) / 1000, line.brought()];
      slowest = Math.max(slowest, took / (bytes / RATE));
      figures.push(
        { name: `first view of /${view} at 400 kbit/s`, value: took, unit: 's', bound: { most: 5 } },
        { name: '  what it brings', value: bytes / 1000, unit: 'kB', bound: { most: MOST } },
      );
      await page.waitForTimeout(3000);
      unanswered += await page.getByText(/does not answer/).count();
      await context.close();
      line.close();
    }
  } finally {
    await browser.close();
    await world.stop();
  }
  figures.push({
    name: 'the slowest against its line alone',
    value: slowest,
    unit: 'times',
    bound: { most: 1.5 },
  });
  figures.push({
    name: '  “does not answer” said meanwhile',
    value: unanswered,
    unit: '',
    bound: { most: 0 },
  });
  return figures;
}

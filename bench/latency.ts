import { createServer, type Socket } from 'node:net';
import { chromium, type Page } from '@playwright/test';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import { encodeFrame } from '../src/sim/frame.ts';
import { newGame } from '../src/sim/game.ts';
import { freePort } from '../tests/support/ports.ts';
import { sleep, World } from '../tests/support/world.ts';
import { bareProgram } from './bare.ts';
import { median, timesOf, type Figure } from './stats.ts';

const now = () => performance.timeOrigin + performance.now();
const SAMPLES = 120;
const POLLS = 30;

/** Writes down, in the page, when an element's text became what. */
async function watch(page: Page, selector: string): Promise<void> {
  await page.waitForSelector(selector);
  await page.evaluate((s) => {
    const target = document.querySelector(s)!;
    const seen: [string, number][] = ((window as unknown as { seen: [string, number][] }).seen = []);
    new MutationObserver(() =>
      seen.push([target.textContent!.trim(), performance.timeOrigin + performance.now()]),
    ).observe(target, {
      subtree: true,
      childList: true,
      characterData: true,
    });
  }, selector);
}

/** How far the page's time lies ahead of ours, in ms, by the quickest of many questions. */
async function offsetOf(page: Page): Promise<number> {
  let best = { rtt: Infinity, offset: 0 };
  for (let i = 0; i < 60; i++) {
    const before = now();
    const there = await page.evaluate(() => performance.timeOrigin + performance.now());
    const after = now();
    if (after - before < best.rtt) best = { rtt: after - before, offset: there - (before + after) / 2 };
  }
  return best.offset;
}

/** From each change sent to when the page showed it, in ms. */
async function delays(page: Page, sent: Map<string, number>): Promise<number[]> {
  const seen = await page.evaluate(() => (window as unknown as { seen: [string, number][] }).seen);
  const offset = await offsetOf(page);
  const first = new Map<string, number>();
  for (const [text, at] of seen) if (!first.has(text)) first.set(text, at - offset);
  return [...sent].flatMap(([text, at]) => (first.has(text) ? [first.get(text)! - at] : []));
}

/** The way from a controller's last byte to the text in a page, beside the bare floor and beside polling. */
export async function latency(): Promise<Figure[]> {
  const lines = new Set<Socket>();
  const controller = createServer((socket) => {
    socket.setNoDelay(true);
    lines.add(socket);
    socket.on('close', () => lines.delete(socket));
    socket.on('error', () => {});
  });
  const world = await World.start({ sim: false });
  const floorLine = createServer((socket) => {
    socket.setNoDelay(true);
    floorSockets.add(socket);
  });
  const floorSockets = new Set<Socket>();
  const floorTcp = await freePort();
  await new Promise<void>((done) => controller.listen(world.simPort, '127.0.0.1', done));
  await new Promise<void>((done) => floorLine.listen(floorTcp, '127.0.0.1', done));
  const floor = await bareProgram(floorTcp);
  const browser = await chromium.launch(chromiumOptions);
  const open = async (url: string) => {
    const page = await browser.newPage({ viewport: { width: 1920, height: 1080 } });
    await page.goto(url);
    return page;
  };

  const state = newGame();
  const sendTo = (sockets: Set<Socket>, score: number) => {
    state.home.score = score;
    const frame = encodeFrame(state);
    for (const socket of sockets) socket.write(frame);
    return now();
  };
  while (lines.size === 0) await sleep(50);
  sendTo(lines, 0);
  sendTo(floorSockets, 0);
  const air = await open(`${world.url}/air/broadcast`);
  const bare = await open(floor.http);
  await watch(air, '[data-layer="home score"]');
  await watch(bare, '#text');
  await sleep(500);

  const sent = { air: new Map<string, number>(), bare: new Map<string, number>() };
  const collected = { air: [] as number[], bare: [] as number[] };
  const collect = async () => {
    collected.air.push(...(await delays(air, sent.air)));
    collected.bare.push(...(await delays(bare, sent.bare)));
    for (const page of [air, bare])
      await page.evaluate(() => (window as unknown as { seen: unknown[] }).seen.splice(0));
    sent.air.clear();
    sent.bare.clear();
  };
  // Each in turn, at a pace at which no change meets another's movement.
  for (let i = 1; i <= SAMPLES; i++) {
    const score = i % 100;
    sent.bare.set(String(score), sendTo(floorSockets, score));
    await sleep(230 + Math.random() * 20);
    sent.air.set(String(score), sendTo(lines, score));
    await sleep(230 + Math.random() * 20);
    if (i % 60 === 0) await collect();
  }

  const polling = await browser.newPage();
  await polling.goto(`${world.url}/healthz`);
  await polling.setContent('<p id="text">-</p>');
  await polling.evaluate(() => {
    setInterval(async () => {
      const { fields } = (await (await fetch('/state/fields.json')).json()) as {
        fields: { key: string; text: string }[];
      };
      document.getElementById('text')!.firstChild!.nodeValue = fields.find(
        (f) => f.key === 'home.score',
      )!.text;
    }, 1000);
  });
  await watch(polling, '#text');
  const sentPolled = new Map<string, number>();
  for (let i = 1; i <= POLLS; i++) {
    sentPolled.set(String(i), sendTo(lines, i));
    await sleep(1050 + Math.random() * 900);
  }
  const polled = await delays(polling, sentPolled);

  const takes: number[] = [];
  await air.evaluate(() => {
    const seen: number[] = ((window as unknown as { taken: number[] }).taken = []);
    new MutationObserver((list) => {
      if (list.some((m) => [...m.addedNodes].some((n) => n instanceof HTMLElement && n.dataset['item'])))
        seen.push(performance.timeOrigin + performance.now());
    }).observe(document.getElementById('stage')!, { childList: true });
  });
  const offset = await offsetOf(air);
  for (let i = 0; i < 40; i++) {
    const at = now();
    await world.act({ kind: 'take', item: i % 2 ? 'captain' : 'goalkeeper' });
    await sleep(400);
    const shown = await air.evaluate(() => (window as unknown as { taken: number[] }).taken.splice(0)[0]);
    if (shown !== undefined) takes.push(shown - offset - at);
  }

  await browser.close();
  floor.end();
  controller.close();
  floorLine.close();
  for (const socket of [...lines, ...floorSockets]) socket.destroy();
  await world.stop();
  return [
    timesOf('last byte to text, bare floor', collected.bare),
    timesOf('last byte to text, air page', collected.air),
    {
      name: 'air page against the floor',
      value: median(collected.air) / median(collected.bare),
      unit: 'times',
      bound: { most: 3 },
    },
    timesOf('last byte to text, page polling once a second', polled),
    {
      name: 'polling against the air page',
      value: median(polled) / median(collected.air),
      unit: 'times',
      bound: { least: 100 },
    },
    timesOf('take request to picture, committed', takes),
  ];
}

import { readFileSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import { WebSocket } from 'ws';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { randomOf } from '../tests/support/random.ts';
import { snapshot } from '../tests/support/snapshot.ts';
import { sleep, World } from '../tests/support/world.ts';
import { median, type Figure } from './stats.ts';

/** As long as a game of an hour with its breaks is at that speed, s. */
const SECONDS = Number(process.env['FOOTHILL_SOAK'] ?? 200);
const SPEED = 20;
const OUTPUTS = ['broadcast', 'main-board', 'ribbon'];
/** An operator clicks once in so long, ms, more or less. */
const CLICK = 150;

/** How much memory a process has, MB. */
const memoryOf = (pid: number) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

/** Follows a stream and counts the numbers that are missing in it. */
function follow(world: World, stream: string) {
  const socket = new WebSocket(`ws://127.0.0.1:${world.port}/socket?stream=${stream}`);
  socket.once('open', () => socket.send('{"t":"ping","at":0}'));
  const told = { last: -1, gaps: 0, deltas: 0 };
  socket.on('message', (data: Buffer) => {
    const [, t, seq] = /^\{"t":"(\w+)","seq":(\d+)/.exec(String(data.subarray(0, 80))) ?? [];
    if (t === 'delta' && Number(seq) !== told.last + 1) told.gaps++;
    if (t === 'delta') told.deltas++;
    if (t === 'delta' || t === 'snapshot') told.last = Number(seq);
  });
  return { told, end: () => socket.terminate() };
}

/** Somebody who presses whatever there is to press, until it is over. */
async function operator(world: World, name: string, seed: number, over: () => boolean): Promise<number> {
  const below = randomOf(seed);
  const one = <T>(of: readonly T[]): T => of[below(of.length)]!;
  const { documents, lanes } = await snapshot<DeskSnapshot>(world, 'desk');
  const items = documents.item.filter((i) => i.zones.length > 0);
  let done = 0;
  while (!over()) {
    const { output, zone } = one(lanes);
    const item = one(items).key;
    const asked: Record<string, unknown> = one([
      { kind: 'take', item },
      { kind: 'take', item },
      { kind: 'clear', output, zone },
      { kind: 'back', output, zone },
      { kind: 'next', output, zone, item },
      { kind: 'recall-look', look: one(documents.look).key },
      { kind: 'pin', field: one(['home.score', 'away.score']), text: String(below(99)) },
      { kind: 'release', field: one(['home.score', 'away.score']) },
      { kind: 'undo' },
      { kind: 'undo' },
      { kind: 'redo' },
      { kind: 'fire', trigger: one(documents.trigger).key },
    ]);
    // A refusal is an answer too: what was pressed may mean nothing there.
    const told = await world.act({ ...asked, desk: `desk-of-${name}`, view: 'live', who: name });
    if (told.status >= 500) throw new Error(told.reason);
    if (told.ok) done++;
    await sleep(below(2 * CLICK));
  }
  return done;
}

/** All texts and items of a page as they stand. */
const saidBy = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('[data-item], [data-layer]')]
      .filter((e) => e.checkVisibility())
      .map((e) => `${e.dataset['item'] ?? e.dataset['layer']}: ${e.dataset['item'] ? '' : e.textContent}`)
      .sort()
      .join('\n'),
  );

/** One game at twenty times its speed, all outputs open, two people who click at random. */
export async function soak(): Promise<Figure[]> {
  const world = await World.start();
  const browser = await chromium.launch(chromiumOptions);
  const streams = [...OUTPUTS.map((o) => `air:${o}`), 'desk', 'desk'].map((s) => follow(world, s));
  try {
    const open = (output: string) =>
      browser.newPage({ viewport: { width: 960, height: 540 } }).then(async (page) => {
        await page.goto(`${world.url}/air/${output}?scale=fit`);
        return page;
      });
    const pages: Page[] = [];
    for (const output of OUTPUTS) pages.push(await open(output));
    await world.command({ kind: 'autopilot', on: true, seed: 11, speed: SPEED });
    const until = performance.now() + SECONDS * 1000;
    const over = () => performance.now() > until;
    const memory: number[] = [];
    const [clicksOne, clicksTwo] = await Promise.all([
      operator(world, 'ode', 1, over),
      operator(world, 'ada', 2, over),
      (async () => {
        for (; !over(); await sleep(1000)) memory.push(memoryOf(world.engine.pid!));
      })(),
    ]);
    await world.command({ kind: 'autopilot', on: false });
    await world.command({ kind: 'game', action: { kind: 'stop' } });
    // What goes off by itself is gone, and what moves has come to rest.
    await sleep(12_000);
    let unlike = 0;
    for (const [i, output] of OUTPUTS.entries()) {
      const fresh = await open(output);
      await fresh.waitForSelector('#stage');
      await sleep(2000);
      if ((await saidBy(fresh)) !== (await saidBy(pages[i]!))) unlike++;
      await fresh.close();
    }
    const logged = new Set(await world.loggedActions());
    const lost = world.acknowledged.filter((id) => !logged.has(id)).length;
    const quarter = Math.floor(memory.length / 4);
    const [third, last] = [memory.slice(2 * quarter, 3 * quarter), memory.slice(3 * quarter)];
    const of = `${SECONDS} s of a game at ${SPEED}x`;
    return [
      { name: `${of}: actions of two operators`, value: clicksOne + clicksTwo, unit: '' },
      { name: 'deltas of five streams', value: streams.reduce((n, s) => n + s.told.deltas, 0), unit: '' },
      { name: 'memory at its end', value: median(last), unit: 'MB' },
      {
        name: 'memory, last quarter over the one before',
        value: median(last) / median(third),
        unit: '',
        bound: { most: 1.05 },
      },
      {
        name: 'numbers missing in streams',
        value: streams.reduce((n, s) => n + s.told.gaps, 0),
        unit: '',
        bound: { most: 0 },
      },
      { name: 'acknowledged actions lost', value: lost, unit: '', bound: { most: 0 } },
      { name: 'outputs whose copies differ at the end', value: unlike, unit: '', bound: { most: 0 } },
    ];
  } finally {
    for (const stream of streams) stream.end();
    await browser.close();
    await world.stop();
  }
}

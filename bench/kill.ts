import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from '@playwright/test';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import { home } from '../scripts/lib/settings.mjs';
import { freeRun } from '../tests/support/ports.ts';
import { sleep } from '../tests/support/world.ts';
import { bareProgram } from './bare.ts';
import { median, quantile, timesOf, type Figure } from './stats.ts';

const KILLS = Number(process.env['FOOTHILL_KILLS'] ?? 15);
/** A kill after which nothing right shows for so long counts as this, in ms. */
const GIVEN_UP = 15_000;
/** The engine and the pages have settled before the next one; then it comes at any moment, ms. */
const REST = 2000;
const ANY_MOMENT = 1500;
const ITEMS = ['captain', 'goalkeeper'];

/** Takes one item after another until the engine is gone; gives what was acknowledged last, and what was asked then. */
async function takes(url: string): Promise<{ acknowledged: string; asked: string }> {
  let acknowledged = '';
  for (let i = 0; ; i++) {
    const asked = ITEMS[i % ITEMS.length]!;
    const body = JSON.stringify({ id: randomUUID(), kind: 'take', item: asked });
    const headers = { 'content-type': 'application/json' };
    const told = await fetch(`${url}/api/actions`, { method: 'POST', headers, body })
      .then((r) => r.json() as Promise<{ ok: boolean }>)
      .catch(() => null);
    if (!told) return { acknowledged, asked };
    if (told.ok) acknowledged = asked;
  }
}

/** How long a bare program takes that is killed, started again at once and asked for a page, in ms. */
async function bareRestart(): Promise<number> {
  const first = await bareProgram();
  const at = performance.now();
  first.end();
  const again = await bareProgram();
  await (await fetch(again.http)).text();
  const took = performance.now() - at;
  again.end();
  return took;
}

/** Counts, in the page, the frames in which the score does not stand. */
const noteBlanks = (page: Page) =>
  page.evaluate(() => {
    const noted = window as unknown as { blank: number };
    noted.blank = 0;
    const look = () => {
      if (!document.querySelector('[data-layer="home score"]')?.textContent?.trim()) noted.blank++;
      requestAnimationFrame(look);
    };
    look();
  });

/**
 * From kill -9 of the engine, at any moment, to the right picture on the air page, with all as the start command runs it: the
 * score changes at the controller while there is no engine, and an operator takes without a pause.
 */
export async function killed(): Promise<Figure[]> {
  const data = mkdtempSync(join(tmpdir(), 'foothill-kill-'));
  const run = await freeRun();
  const [sim, port, db] = [run, run + 16, run + 17];
  const env = {
    ...process.env,
    FOOTHILL_DATA: data,
    FOOTHILL_PORT: String(port),
    FOOTHILL_DB_PORT: String(db),
    FOOTHILL_SIM_PORT: String(sim),
  };
  const start = spawn(process.execPath, [join(home, 'scripts/start.mjs'), '--demo'], {
    env,
    stdio: 'ignore',
  });
  const browser = await chromium.launch(chromiumOptions);
  const waits: number[] = [];
  const floors: number[] = [];
  let [lost, blank] = [0, 0];
  try {
    const url = `http://127.0.0.1:${port}`;
    for (let i = 0; ; i++) {
      const up = await fetch(`${url}/healthz`).then(
        (r) => r.ok,
        () => false,
      );
      if (up) break;
      if (i > 300) throw new Error('the demo did not start');
      await sleep(200);
    }
    const page = await browser.newPage();
    await page.goto(`${url}/air/broadcast`);
    const score = page.locator('[data-layer="home score"]');
    await score.waitFor();
    await noteBlanks(page);
    const command = (body: object) =>
      fetch(`http://127.0.0.1:${sim + 1}/do`, { method: 'POST', body: JSON.stringify(body) });
    // Nobody else scores or shoots: what is taken back is the goal.
    await command({ kind: 'autopilot', on: false });
    // A goal, and the next time it is taken back: no board counts to a hundred.
    const change = (by: number) =>
      command({ kind: 'game', action: by > 0 ? { kind: 'goal', side: 'home' } : { kind: 'undo' } });
    for (let i = 0; i < KILLS; i++) {
      await sleep(REST);
      floors.push(await bareRestart());
      const taking = takes(url);
      await sleep(Math.random() * ANY_MOMENT);
      const by = i % 2 ? -1 : 1;
      const before = Number((await score.textContent())!.trim());
      const shown = page
        .waitForFunction(
          (wanted) => document.querySelector('[data-layer="home score"]')?.textContent?.trim() === wanted,
          String(before + by),
          { polling: 10, timeout: GIVEN_UP },
        )
        .catch(() => null);
      const at = performance.now();
      process.kill(Number(readFileSync(join(data, 'run/engine.pid'), 'utf8').split(/\s/)[0]), 'SIGKILL');
      await change(by);
      waits.push((await shown) ? performance.now() - at : GIVEN_UP);
      const { acknowledged, asked } = await taking;
      const there = await page
        .locator('[data-item]')
        .evaluateAll((all) => all.map((e) => (e as HTMLElement).dataset['item']));
      // What was asked when it was killed may be done, and the answer lost; what was acknowledged must be.
      if (acknowledged && !there.includes(acknowledged) && !there.includes(asked)) lost++;
    }
    blank = await page.evaluate(() => (window as unknown as { blank: number }).blank);
  } finally {
    await browser.close();
    const ended = new Promise((done) => start.once('exit', done));
    start.kill('SIGINT');
    await Promise.race([ended, sleep(15_000)]);
    start.kill('SIGKILL');
    rmSync(data, { recursive: true, force: true, maxRetries: 20, retryDelay: 100 });
  }
  return [
    {
      name: 'engine killed, to the right picture',
      value: median(waits) / 1000,
      p99: quantile(waits, 0.99) / 1000,
      unit: 's',
      bound: { most: 2 },
    },
    timesOf('  bare program killed, to its answer', floors),
    {
      name: '  engine against its floor',
      value: median(waits) / median(floors),
      unit: 'times',
      bound: { most: 8 },
    },
    { name: `acknowledged takes lost in ${KILLS} kills`, value: lost, unit: '', bound: { most: 0 } },
    { name: 'frames without the score', value: blank, unit: '', bound: { most: 0 } },
  ];
}

import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { chromiumOptions } from '../scripts/lib/browser.mjs';
import { home } from '../scripts/lib/settings.mjs';
import { freeRun, sleep } from '../tests/support/world.ts';
import { median, quantile, type Figure } from './stats.ts';

const KILLS = 15;
/** A kill after which nothing right shows for so long counts as this, in ms. */
const GIVEN_UP = 15_000;
/** The engine and the pages have settled before the next one. */
const REST = 2500;

/**
 * From kill -9 of the engine to the right picture on the air page, with all as the start command runs it: the score changes
 * at the controller while there is no engine.
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
    const goal = () =>
      fetch(`http://127.0.0.1:${sim + 1}/do`, {
        method: 'POST',
        body: JSON.stringify({ kind: 'game', action: { kind: 'goal', side: 'home' } }),
      });
    for (let i = 0; i < KILLS; i++) {
      await sleep(REST);
      const before = Number((await score.textContent())!.trim());
      const shown = page
        .waitForFunction(
          (wanted) => document.querySelector('[data-layer="home score"]')?.textContent?.trim() === wanted,
          String(before + 1),
          { polling: 10, timeout: GIVEN_UP },
        )
        .catch(() => null);
      const at = performance.now();
      process.kill(Number(readFileSync(join(data, 'run/engine.pid'), 'utf8').split(/\s/)[0]), 'SIGKILL');
      await goal();
      waits.push((await shown) ? performance.now() - at : GIVEN_UP);
    }
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
  ];
}

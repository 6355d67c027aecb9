// Takes the pictures of docs/screenshots from a running demo (npm run demo), with a made-up moment of the game.
import { chromium } from '@playwright/test';
import { join } from 'node:path';
import { chromiumOptions } from './lib/browser.mjs';
import { home, readSettings } from './lib/settings.mjs';
import { sleep } from './lib/say.mjs';

const { port, simPort } = readSettings();
const at = `http://127.0.0.1:${port}`;
const console_ = `http://127.0.0.1:${simPort + 1}`;
const post = (url, body) => fetch(url, { method: 'POST', body: JSON.stringify(body) });
const command = (body) => post(`${console_}/do`, body);
const score = async (...actions) => {
  for (const action of actions) await command({ kind: 'game', action });
};
const act = (action) => post(`${at}/api/actions`, { id: crypto.randomUUID(), ...action });

await command({ kind: 'autopilot', on: false });
await command({ kind: 'new-game' });
const goals = (side, n) => Array.from({ length: n }, () => ({ kind: 'goal', side }));
await score(...goals('home', 6), ...goals('away', 4), { kind: 'next-period' }, { kind: 'next-period' });
await score({ kind: 'penalty', side: 'away', player: 26, minutes: 2 }, { kind: 'clock', ms: 254_000 });
await score({ kind: 'possession', side: 'home' }, { kind: 'shot-clock', ms: 14_900 }, { kind: 'start' });
await act({ kind: 'take', item: 'card-7' });

const browser = await chromium.launch(chromiumOptions);
const shots = join(home, 'docs/screenshots');
const live = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await live.goto(`${at}/live`);
await live.click('[data-field="home.score"]');
await sleep(6000);
await live.screenshot({ path: join(shots, 'live.png') });
const air = await browser.newPage({ viewport: { width: 1920, height: 1080 } });
await air.goto(`${at}/air/broadcast`);
await sleep(1500);
await air.evaluate(
  () => (document.documentElement.style.background = 'url(/media/stand-in/arena.svg) 0 0 / cover'),
);
await sleep(500);
await air.screenshot({ path: join(shots, 'air.png') });
const sources = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await sources.goto(`${at}/sources`);
await sleep(1500);
await sources.screenshot({ path: join(shots, 'sources.png') });
/** One view at the usual size, after what is done there. */
async function shot(path, name, prepare = () => {}) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${at}${path}`);
  await sleep(1500);
  await prepare(page);
  await sleep(700);
  await page.screenshot({ path: join(shots, `${name}.png`) });
  await page.close();
}
await shot('/sources', 'documents', (page) => page.click('[data-source="statistics"]'));
await shot('/sources', 'pad', (page) => page.click('[data-source="pad"]'));
await shot('/patch', 'patch');
await shot('/templates', 'templates', (page) => page.click('[data-template="lower-third"]'));
await shot('/templates', 'fit', async (page) => {
  await page.getByRole('button', { name: 'Fit check' }).click();
  await page.locator('[data-fit]').first().waitFor();
});
await shot('/templates/lower-third', 'workshop', (page) =>
  page.locator('[data-layer-row="team alone"]').click(),
);
await shot('/templates/lower-third', 'changes', async (page) => {
  await page.keyboard.press('w');
  await page.getByRole('tab', { name: /^Inputs/ }).click();
  await page.getByRole('tab', { name: 'Board' }).click();
  await sleep(2500);
});
await shot('/game', 'game');
await shot('/preflight', 'preflight', () => sleep(2500));
await shot('/sources', 'frame-map', async (page) => {
  await page.getByRole('button', { name: 'Add a source' }).click();
  await page.getByLabel('Name').fill('Unknown console');
  await page.getByLabel('Port').fill(String(simPort + 3));
  await page.getByRole('button', { name: 'Connect' }).click();
  await sleep(3000);
  await page.getByRole('button', { name: 'Find the frame' }).click();
  await page.locator('[data-byte="9"]').hover();
  await page.mouse.down();
  await page.locator('[data-byte="15"]').hover();
  await page.mouse.up();
  await page.getByRole('form', { name: 'New reading' }).getByLabel('Name').fill('game clock');
  await page.keyboard.press('Enter');
  await page.keyboard.press('l');
  await sleep(3500);
  await score({ kind: 'goal', side: 'home' });
  await page.getByRole('button', { name: /^byte 8:/ }).click();
  // What the button changed is a reading at that press, named by typing over.
  await page.keyboard.type('home score');
});
await act({ kind: 'remove-source', source: 'unknown-console' });
await score({ kind: 'undo' });
await shot('/data', 'data', async (page) => {
  await page.click('[data-entry="leaders.points"]');
  await page.locator('tbody tr').first().locator('td').first().click();
});
await shot('/media', 'media', (page) => page.click('[data-media="headshots/herons/7.svg"]'));
await shot('/rundown', 'rundown', (page) =>
  page.getByText('Scoreboard bar', { exact: true }).first().click(),
);
await shot('/outputs', 'outputs', (page) => page.getByRole('button', { name: /^Main board/ }).click());
await shot('/tapes', 'tapes', async (page) => {
  await page.getByRole('button', { name: /^Rehearse with/ }).click();
  await page.getByRole('button', { name: 'Rehearse now' }).click();
  const moments = page.getByRole('list', { name: 'Moments' }).getByRole('button');
  await moments.nth(18).click();
  await sleep(4000);
});
await act({ kind: 'rehearse', do: 'end' });
const simulator = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await simulator.goto(console_);
await sleep(800);
await simulator.screenshot({ path: join(shots, 'simulator.png') });
await browser.close();
await act({ kind: 'clear', output: 'broadcast', zone: 'lower' });
await command({ kind: 'autopilot', on: true });

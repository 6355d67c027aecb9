import type { Page } from '@playwright/test';
import { expect, test, worldForFile } from './support/test.ts';
import { recordedLoop } from './support/loop.ts';

const world = worldForFile();

/** How far the loop of a page is from one that began at the epoch, in s, and how long it is. */
const phaseOf = (page: Page) =>
  page.locator('video').evaluate((v: HTMLVideoElement) => ({
    length: v.duration,
    phase: (performance.timeOrigin + performance.now()) / 1000 - v.currentTime,
  }));

test('a loop is at the same place in a page that has it from the start, in one that joins, and after another took its place', async ({
  browser,
}) => {
  const first = await browser.newPage();
  await first.goto(`${world.url}/air/broadcast`);
  const loop = await recordedLoop(first, 40);
  for (const path of ['loops/one.webm', 'loops/two.webm']) {
    const sent = await fetch(`${world.url}/api/media?name=${loop.name}`, {
      method: 'POST',
      body: loop.buffer,
    });
    const { about } = (await sent.json()) as { about: object };
    expect(await world.act({ kind: 'media', path, entry: { path, ...about } })).toMatchObject({ ok: true });
  }
  const item = { item: 'loop', name: 'Loop', template: 'sponsor-plate', output: 'broadcast', zone: 'lower' };
  expect(await world.act({ kind: 'put-item', ...item })).toMatchObject({ ok: true });
  for (const mark of ['loops/one.webm', 'loops/two.webm']) {
    expect(await world.act({ kind: 'edit', item: 'loop', inputs: { mark } })).toMatchObject({ ok: true });
    expect(await world.act({ kind: 'take', item: 'loop' })).toMatchObject({ ok: true });
    await expect(first.locator('video')).toHaveCount(1);
  }
  const second = await browser.newPage();
  await second.goto(`${world.url}/air/broadcast`);
  await expect(second.locator('video')).toHaveCount(1);
  await expect
    .poll(async () => {
      const [a, b] = [await phaseOf(first), await phaseOf(second)];
      expect(a.length).toBeGreaterThan(1);
      const apart = Math.abs(a.phase - b.phase) % a.length;
      return Math.min(apart, a.length - apart);
    })
    .toBeLessThan(0.05);
});

import type { Page } from '@playwright/test';
import { lastAction } from './support/page.ts';
import { onAirIn } from './support/snapshot.ts';
import { expect, test, worldForFile } from './support/test.ts';

/** A quarter of a game on three outputs, two operators at once, the controller failing: what the audience sees of it. */
const world = worldForFile();
test.use({ viewport: { width: 1280, height: 800 } });

/** The clock stops with it. */
const GOAL = { kind: 'goal', side: 'home' } as const;
const OUTPUTS = ['broadcast', 'main-board', 'ribbon'];

interface Watched {
  seen: { scores: string[]; clocks: string[]; blanks: number };
}

/** Where no scoreboard is on air. */
const OFF = 'no scoreboard';

/** Notes in every frame what the audience can read: each score, the clock as it changes, frames without either. */
async function watch(air: Page): Promise<void> {
  await expect(air.locator('[data-layer="game clock"]').first()).toHaveText(/\d/);
  await air.evaluate((off) => {
    const seen = { scores: [] as string[], clocks: [] as string[], blanks: 0 };
    (window as unknown as Watched).seen = seen;
    const note = (list: string[], said: string) => {
      if (list.at(-1) !== said) list.push(said);
    };
    const look = () => {
      requestAnimationFrame(look);
      const bar = document.querySelector('[data-item="bar"]');
      if (!bar) return note(seen.scores, off);
      const text = (layer: string) => bar.querySelector(`[data-layer="${layer}"]`)?.textContent ?? '';
      if (!text('home score') || !text('game clock')) seen.blanks++;
      note(seen.scores, text('home score'));
      note(seen.clocks, text('game clock'));
    };
    look();
  }, OFF);
}

const seenBy = (air: Page) => air.evaluate(() => (window as unknown as Watched).seen);
/** A clock's text in s. */
const secondsOf = (text: string) => text.split(':').reduce((sum, part) => sum * 60 + Number(part), 0);
const on = async (key: string) => (await onAirIn(world))[key];

test('a quarter is run by two at three outputs, the controller fails in play, and no page shows anything of it', async ({
  page: ada,
  browser,
}) => {
  const airs = await Promise.all(
    OUTPUTS.map(async (output) => {
      const air = await browser.newPage({ viewport: { width: 960, height: 540 } });
      await air.goto(`${world.url}/air/${output}?scale=fit`);
      await watch(air);
      return air;
    }),
  );
  const ode = await (await browser.newContext({ viewport: { width: 1280, height: 800 } })).newPage();
  for (const desk of [ada, ode]) {
    await desk.goto(`${world.url}/live`);
    await expect(desk.locator('[data-lane-row="broadcast/lower"]')).toBeVisible();
  }
  const score = (desk: Page) => desk.locator('[data-field="home.score"]');
  const onAll = (text: string) =>
    Promise.all(
      airs.map((air) => expect(air.locator('[data-item="bar"] [data-layer="home score"]')).toHaveText(text)),
    );

  await world.score({ kind: 'clock', ms: 300_000 }, { kind: 'start' });
  await world.score(GOAL, { kind: 'start' });
  await onAll('1');
  // One has the goal over everything, the other sees what was done and takes it off again.
  await ada.keyboard.press('Shift+H');
  await expect(lastAction(ode)).toContainText('Home goal');
  await expect(ode.locator('[data-lane-row="main-board/takeover"]')).toContainText('Home goal');
  await ode.keyboard.press('Shift+H');
  await expect(lastAction(ada)).toContainText('Home goal');
  await expect.poll(() => on('main-board/takeover')).toBeNull();

  // Two things for one zone at once: one is on, and who lost is told which.
  await ada.locator('[data-item-tile="captain"]').click();
  await ode.locator('[data-item-tile="goalkeeper"]').click();
  await Promise.all([ada.keyboard.press('Enter'), ode.keyboard.press('Enter')]);
  await expect.poll(() => on('broadcast/lower')).not.toBeNull();
  const won = await on('broadcast/lower');
  const [loser, name] = won === 'captain' ? [ode, 'Away captain'] : [ada, 'Home goalkeeper'];
  await expect(lastAction(loser)).toContainText(`${name} was taken there a moment ago at another desk`);

  // A look by one, taken back by who recalled it; the other sees both.
  const before = await onAirIn(world);
  await ada.keyboard.press('F4');
  await expect(lastAction(ode)).toContainText('Break');
  const during = await onAirIn(world);
  await ada.keyboard.press('Control+z');
  await expect(ada.getByRole('status', { name: 'Undo of what is on air' })).toContainText('Break');
  await ada.keyboard.press('Control+z');
  await expect.poll(() => onAirIn(world)).toEqual(before);
  await expect(lastAction(ode)).toContainText('Undid');

  // Edits are held at one desk: nobody sees them before they are sent, and the other goes on meanwhile.
  await ode.keyboard.press('x');
  await score(ode).click();
  await ode.keyboard.press('=');
  await expect(score(ode)).toContainText('held at 2, not sent');
  await ada.keyboard.press('Delete');
  await expect.poll(() => on('broadcast/lower')).toBeNull();
  await expect(score(ada)).not.toContainText('2');
  await ode.keyboard.press('Escape');

  // The controller fails in play: both are told, one answers by one key, and the clock goes on.
  await world.command({ kind: 'fault', fault: 'freeze', on: true });
  const lost = (desk: Page) => desk.getByRole('alert', { name: 'Controller lost' });
  for (const desk of [ada, ode]) await expect(lost(desk)).toContainText('Controller is lost.');
  await ode.keyboard.press('k');
  await expect.poll(async () => (await world.field('clock.game')).running).toBe(true);
  await expect(lost(ada)).toHaveCount(0);
  // A goal meanwhile is given by hand, by the other.
  await score(ada).click();
  await ada.keyboard.press('=');
  await onAll('2');
  await world.score(GOAL, { kind: 'start' });
  await world.command({ kind: 'fault', fault: 'freeze', on: false });
  for (const desk of [ada, ode])
    await expect(desk.getByRole('group', { name: 'Return control' })).toContainText('Controller is back');
  await ada.keyboard.press('g');
  for (const desk of [ada, ode])
    await expect(desk.getByRole('group', { name: 'Return control' })).toHaveCount(0);
  await ada.keyboard.press('r');
  await expect(score(ada)).not.toContainText('pinned');
  await onAll('2');

  await world.score({ kind: 'stop' });
  for (const [i, air] of airs.entries()) {
    const { scores, clocks, blanks } = await seenBy(air);
    const stayed = Object.keys(during).some((lane) => lane.startsWith(OUTPUTS[i]!) && during[lane] === 'bar');
    expect(scores).toEqual(['0', '1', ...(stayed ? [] : [OFF, '1']), '2']);
    expect(blanks).toBe(0);
    const fell = clocks.map(secondsOf);
    // The quarter was set to five minutes; from then on it only ever fell, second by second but for what the failure cost.
    const from = fell.findIndex((s) => s <= 300);
    expect(fell.slice(from).every((s, i, all) => i === 0 || s < all[i - 1]!)).toBe(true);
  }
});

import { expect, test, worldForFile } from './support/test.ts';
import type { Layer } from '../src/core/layers/kinds.ts';
import { box, FakeServer, item, layer, style, text } from './support/fake-server.ts';
import { stillFor } from './support/page.ts';
import { openStage } from './support/stage-page.ts';

/** The air page against a server that says just what a test wants it to say. */
const world = worldForFile({ sim: false });
test.use({ viewport: { width: 1920, height: 1080 } });

const url = () => world.url;
const now = () => Date.now();

test('a gap in the numbers asks for a snapshot; what was missed is there, what is old is not taken twice', async ({
  page,
}) => {
  const layers = [text('a')];
  const server = new FakeServer(url, [item(layers, { a: { text: '1' } })]);
  await server.open(page);
  await expect(layer(page, 'a')).toHaveText('1');
  server.set('a', { text: '2' });
  await expect(layer(page, 'a')).toHaveText('2');
  server.seq--;
  server.set('a', { text: 'old' });
  server.seq += 5;
  server.snapshot = server.snapshot.bind(server, [item(layers, { a: { text: '9' } })]);
  server.set('a', { text: '8' });
  await expect(layer(page, 'a')).toHaveText('9');
  expect(server.asked).toBe(1);
});

test('a change waits for one that runs, and only the newest is shown; the old text is never named', async ({
  page,
}) => {
  const server = new FakeServer(url, [
    item([text('a', { moments: { change: { kind: 'roll', ms: 6000 } } })], { a: { text: '1' } }),
  ]);
  await server.open(page);
  await expect(layer(page, 'a')).toHaveText('1');
  await page.evaluate(() => {
    const seen: string[] = ((window as unknown as { seen: string[] }).seen = []);
    const target = document.querySelector('[data-layer="a"]')!;
    new MutationObserver(() => seen.push(target.textContent!)).observe(target, {
      subtree: true,
      childList: true,
    });
  });
  for (const t of ['2', '3', '4', '5']) server.set('a', { text: t });
  await expect(page.locator('[aria-hidden=true]', { hasText: '1' })).toHaveCount(1);
  await expect(layer(page, 'a')).toHaveText('5');
  expect(await page.evaluate(() => (window as unknown as { seen: string[] }).seen)).toEqual(['2', '5']);
  await expect(page.locator('#stage [aria-hidden=true]')).toHaveCount(0);
});

test('texts shrink to their boxes, never grow, and share a scale where they should', async ({ page }) => {
  const long = 'A name that is far too long for it';
  const server = new FakeServer(url, [
    item(
      [
        text('short', { fitWith: 'names' }),
        text('long', { ...box(0, 80, 200, 80), fitWith: 'names' }),
        text('low', box(300, 0, 400, 30)),
        text('free', box(300, 80, 400, 100)),
      ],
      { short: { text: 'Ox' }, long: { text: long }, low: { text: 'Low' }, free: { text: 'Free' } },
    ),
  ]);
  await server.open(page);
  await expect(layer(page, 'long')).toHaveText(long);
  const rect = (name: string) =>
    layer(page, name)
      .locator('span')
      .evaluate((e) => e.getBoundingClientRect().toJSON() as { width: number; height: number });
  const [short, longest, low, free] = [
    await rect('short'),
    await rect('long'),
    await rect('low'),
    await rect('free'),
  ];
  expect(longest.width).toBeGreaterThan(195);
  expect(longest.width).toBeLessThanOrEqual(200.5);
  expect(short.height).toBeCloseTo(longest.height, 1);
  expect(low.height).toBeLessThanOrEqual(30.5);
  expect(free.height).toBeCloseTo(72, 0);
  server.set('long', { text: 'Ant' });
  await expect.poll(async () => (await rect('short')).height).toBeCloseTo(72, 0);
});

test('layers show by their values, one of a group by what it stands for, and while a clock stands in a window', async ({
  page,
}) => {
  const clock = (ms: number, running = false) => ({
    value: ms,
    running,
    direction: 'down' as const,
    anchor: now(),
    until: running ? 0 : ms,
  });
  const layers: Layer[] = [
    text('shown', { shows: { field: 'x' } }),
    {
      kind: 'one-of',
      id: 'pick',
      name: 'pick',
      ...box(0, 0, 10, 10),
      which: { field: 'y' },
      layers: [text('left', { member: 'l' }), text('right')],
    },
    {
      kind: 'group',
      id: 'late',
      name: 'late',
      ...box(0, 0, 100, 50),
      windowClock: { field: 'c' },
      windowBelow: 10_000,
      windowAbove: 0,
      layers: [text('inside')],
    },
    {
      kind: 'clock',
      id: 'clock',
      name: 'clock',
      ...box(0, 100, 200, 80),
      clock: { field: 'c' },
      ...style,
      tenthsBelow: 60_000,
    },
    {
      kind: 'pips',
      id: 'pips',
      name: 'pips',
      ...box(300, 0, 90, 9),
      count: { field: 'n' },
      of: 3,
      on: '#fff',
      off: '#000',
      gap: 2,
    },
    { kind: 'picture', id: 'mark', name: 'mark', ...box(400, 0, 50, 50), picture: { field: 'p' } },
    { kind: 'line', id: 'rule', name: 'rule', ...box(0, 90, 50, 9), toX: { field: 'n' }, dash: '4 2' },
  ];
  const t = { text: 'x' };
  const server = new FakeServer(url, [
    item(layers, {
      shown: { ...t, shows: false },
      pick: { which: 'l' },
      left: t,
      right: t,
      late: { windowClock: clock(20_000) },
      inside: t,
      clock: { clock: clock(20_000) },
      pips: { count: 1 },
      mark: { picture: '/media/stand-in/arena.svg' },
      rule: { toX: 40 },
    }),
  ]);
  await server.open(page);
  await expect(layer(page, 'clock')).toHaveText('20.0');
  for (const name of ['shown', 'right', 'late']) await expect(layer(page, name)).toBeHidden();
  await expect(layer(page, 'left')).toBeVisible();
  await expect(layer(page, 'pips').locator('[data-on=true]')).toHaveCount(1);
  await expect(layer(page, 'mark').locator('img')).toHaveAttribute('src', '/media/stand-in/arena.svg');
  await expect(layer(page, 'rule').locator('line')).toHaveAttribute('x2', '40');
  await expect(layer(page, 'rule').locator('line')).toHaveAttribute('stroke-dasharray', '4 2');
  server.set('rule', { toX: 50, rotation: 90, opacity: 0.5 });
  await expect(layer(page, 'rule').locator('line')).toHaveAttribute('x2', '50');
  await expect(layer(page, 'rule')).toHaveCSS('rotate', '90deg');
  await expect(layer(page, 'rule')).toHaveCSS('opacity', '0.5');
  server.set('shown', { shows: true });
  server.set('pick', { which: 'right' });
  server.set('late', { windowClock: clock(9000) });
  server.set('clock', { clock: clock(700, true) });
  server.set('pips', { count: 3 });
  server.set('mark', { picture: '/media/marks/none.svg' });
  for (const name of ['shown', 'right', 'inside']) await expect(layer(page, name)).toBeVisible();
  await expect(layer(page, 'left')).toBeHidden();
  await expect(layer(page, 'pips').locator('[data-on=true]')).toHaveCount(3);
  await expect(layer(page, 'clock')).toHaveText('0.0');
  await expect(layer(page, 'mark').locator('img')).toHaveAttribute('src', '/media/stand-in/arena.svg');
  server.set('clock', { clock: null });
  server.set('late', { windowClock: null });
  await expect(layer(page, 'clock')).toHaveText('');
  await expect(layer(page, 'late')).toBeHidden();
});

test('what leaves loses its name at once and goes; what comes stands; the same item again changes in place', async ({
  page,
}) => {
  const moments = { enter: { kind: 'wipe' as const, ms: 200 }, exit: { kind: 'slide' as const, ms: 6000 } };
  const first = item([text('a', { moments })], { a: { text: 'first' } });
  const second = item([text('b', { moments })], { b: { text: 'second' } }, { item: 'two' });
  const server = new FakeServer(url, [first]);
  await server.open(page);
  await expect(layer(page, 'a')).toHaveText('first');
  await layer(page, 'a').evaluate((e) => (e.id = 'kept'));
  server.ops({ op: 'take', item: { ...first, states: { a: { text: 'again' } } } });
  await expect(page.locator('#kept')).toHaveText('again');
  server.ops({ op: 'take', item: second });
  await expect(layer(page, 'b')).toHaveText('second');
  await expect(layer(page, 'a')).toHaveCount(0);
  await expect(page.locator('#kept')).toHaveCount(1);
  await expect(page.locator('#kept')).toHaveCount(0);
  server.ops({ op: 'clear', mount: 'z' });
  await expect(page.locator('#stage > *')).toHaveCount(0);
});

test('another form of the same layout is taken in place: what is the same layer stays, whatever it is called', async ({
  page,
}) => {
  const group = (id: string, layers: Layer[], more: object = {}): Layer =>
    ({ kind: 'group', id, name: id, ...box(0, 0, 300, 100), layers, ...more }) as Layer;
  const first = item([group('g', [text('a'), text('b')])], { a: { text: '1' }, b: { text: '2' } });
  const server = new FakeServer(url, [first]);
  await server.open(page);
  await expect(layer(page, 'a')).toHaveText('1');
  await page.evaluate(() => {
    for (const e of document.querySelectorAll<HTMLElement>('[data-id]')) e.id = `kept-${e.dataset['id']}`;
  });
  // Renamed, moved out of its group, behind what is new; another has gone, and one is of another kind.
  const renamed = text('a', { name: 'score', x: 40, size: 30 });
  const layout = {
    ...first.layout,
    layers: [text('c', { text: 'fixed' }), renamed, group('g', [group('b', [])], { clip: true })],
  };
  server.ops({ op: 'take', item: { ...first, layout, states: { a: { text: '1' } } } });
  await expect(layer(page, 'score')).toHaveText('1');
  await expect(page.locator('#kept-a')).toHaveAttribute('data-layer', 'score');
  await expect(page.locator('#kept-a')).toHaveCSS('left', '40px');
  await expect(page.locator('#kept-a span')).toHaveCSS('font-size', '30px');
  await expect(page.locator('#kept-g')).toHaveCSS('overflow', 'hidden');
  await expect(page.locator('#kept-b')).toHaveCount(0);
  const order = page.locator('[data-item] [data-id]');
  expect(await order.evaluateAll((all) => all.map((e) => (e as HTMLElement).dataset['id']))).toEqual([
    'c',
    'a',
    'g',
    'b',
  ]);
  server.set('a', { text: '3' });
  await expect(page.locator('#kept-a')).toHaveText('3');
  await expect(layer(page, 'c')).toHaveText('fixed');
});

test('the pose of any moment is shown at any time in it, and everything moves again afterwards', async ({
  page,
}) => {
  const moments = {
    enter: { kind: 'slide', ms: 400, delay: 100, from: 'left' },
    exit: { kind: 'fade', ms: 200 },
    change: { kind: 'roll', ms: 400 },
    idle: { kind: 'fade', ms: 1000 },
  };
  const one = item([text('a', { moments })], { a: { text: 'one' } });
  await openStage(page, one);
  const poses = await page.evaluate((given) => {
    const el = document.querySelector<HTMLElement>('[data-id="a"]')!;
    const pose = (moment: 'enter' | 'exit' | 'change' | 'idle', ms: number) => {
      window.stage.pose(moment, ms);
      const { transform, opacity } = getComputedStyle(el);
      return `${transform} ${Number(opacity).toFixed(1)}`;
    };
    const said = [pose('enter', 0), pose('enter', 100), pose('enter', 499), pose('enter', 900)];
    said.push(pose('exit', 0), pose('exit', 200), pose('exit', 5000));
    said.push(pose('change', 200), pose('change', 400), pose('idle', 500));
    // It stays in its pose while the layout changes beside it.
    const wide = { ...given.layout.layers[0]!, x: 30 };
    window.stage.take({ ...given, layout: { ...given.layout, layers: [wide] } } as never, true);
    said.push(`${el.style.left} ${getComputedStyle(el).opacity}`);
    window.stage.pose(null);
    const idling = el.getAnimations().map((a) => a.playState);
    return { said, idling };
  }, one);
  const [far, seen] = ['matrix(1, 0, 0, 1, -200, 0)', 'none 1.0'];
  expect(poses.said.slice(0, 2)).toEqual([`${far} 1.0`, `${far} 1.0`]);
  expect(poses.said[2]).toMatch(/^matrix\(1, 0, 0, 1, -0\.\d+, 0\) 1\.0$/);
  expect(poses.said.slice(3, 7)).toEqual([seen, seen, 'none 0.0', 'none 0.0']);
  expect(poses.said[7]).toMatch(/^matrix\(1, 0, 0, 1, 0, 32\) 0\.0$/);
  expect(poses.said.slice(8)).toEqual([seen, 'none 0.4', '30px 0.4']);
  expect(poses.idling).toEqual(['running']);
});

test('a lost connection holds the picture and stops its clocks; the page comes back by itself', async ({
  page,
}) => {
  const running = { value: 59_000, running: true, direction: 'down' as const, anchor: now(), until: 0 };
  const layers: Layer[] = [
    {
      kind: 'clock',
      id: 'c',
      name: 'c',
      ...box(0, 0, 300, 80),
      clock: { field: 'c' },
      ...style,
      tenthsBelow: 60_000,
    },
  ];
  const server = new FakeServer(url, [item(layers, { c: { clock: running } })]);
  await server.open(page);
  await expect(layer(page, 'c')).toHaveText(/^\d\d\.\d$/);
  await page.evaluate(() => {
    // The next connections fail, as with the server gone.
    const Real = WebSocket;
    (window as unknown as { real: typeof WebSocket }).real = Real;
    window.WebSocket = class extends Real {
      constructor() {
        super('ws://127.0.0.1:9/');
      }
    };
  });
  await server.drop();
  const held = await stillFor(600, layer(page, 'c'));
  await page.evaluate(() => (window.WebSocket = (window as unknown as { real: typeof WebSocket }).real));
  await expect.poll(() => server.sockets).toBe(2);
  await expect.poll(() => layer(page, 'c').textContent()).not.toBe(held);
});

import { expect, test, type Page, type WebSocketRoute } from '@playwright/test';
import type { Layer, TextStyle } from '../src/core/template/layers.ts';
import type { LayerProps } from '../src/core/resolve/resolver.ts';
import type { AirItem, AirOp } from '../src/core/wire/wire.ts';
import { World } from './support/world.ts';

/** The air page against a server that says just what a test wants it to say. */
let world: World;
test.beforeAll(async () => {
  world = await World.start({ sim: false });
});
test.afterAll(async () => {
  await world.stop();
});
test.use({ viewport: { width: 1920, height: 1080 } });

const style = (more: Partial<TextStyle> = {}): TextStyle => ({
  font: 'Barlow Condensed',
  weight: 700,
  size: 60,
  colour: { fixed: '#fff' },
  anchor: { x: 'left', y: 'middle' },
  ...more,
});
const box = (x: number, y: number, width: number, height: number) => ({ x, y, width, height });
const text = (name: string, more: object = {}): Layer => ({
  kind: 'text',
  name,
  box: box(0, 0, 200, 80),
  text: { fixed: '' },
  style: style(),
  ...more,
});

function item(layers: Layer[], states: Record<string, LayerProps>, more: Partial<AirItem> = {}): AirItem {
  const layout = { key: 'l', width: 800, height: 200, layers };
  return {
    mount: 'z',
    zone: 'z',
    box: box(100, 100, 800, 200),
    item: 'one',
    template: 't',
    layout,
    states,
    ...more,
  };
}

class FakeServer {
  asked = 0;
  sockets = 0;
  private socket!: WebSocketRoute;
  seq = 0;
  constructor(private items: AirItem[]) {}

  async open(page: Page): Promise<void> {
    await page.routeWebSocket(/\/socket/, (socket) => {
      this.socket = socket;
      this.sockets++;
      this.snapshot();
      socket.onMessage((data) => {
        const message = JSON.parse(String(data)) as { t: string; at: number };
        if (message.t === 'ping') socket.send(JSON.stringify({ t: 'pong', at: message.at, now: message.at }));
        if (message.t === 'snapshot') {
          this.asked++;
          this.snapshot();
        }
      });
    });
    await page.goto(`${world.url}/air/broadcast`);
  }
  snapshot(items = this.items): void {
    this.items = items;
    this.socket.send(
      JSON.stringify({
        t: 'snapshot',
        seq: this.seq,
        body: { output: { key: 'broadcast', width: 1920, height: 1080 }, items },
      }),
    );
  }
  ops(...ops: AirOp[]): void {
    this.seq++;
    this.socket.send(JSON.stringify({ t: 'delta', seq: this.seq, ops }));
  }
  set(layer: string, props: LayerProps): void {
    this.ops({ op: 'layers', deltas: [{ mount: 'z', layer, props }] });
  }
  async drop(): Promise<void> {
    await this.socket.close();
  }
}

const layer = (page: Page, name: string) => page.locator(`[data-layer="${name}"]`);
const now = () => Date.now();

test('a gap in the numbers asks for a snapshot; what was missed is there, what is old is not taken twice', async ({
  page,
}) => {
  const layers = [text('a')];
  const server = new FakeServer([item(layers, { a: { text: '1' } })]);
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
  const server = new FakeServer([
    item([text('a', { moments: { change: { kind: 'roll', ms: 2000 } } })], { a: { text: '1' } }),
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
  const server = new FakeServer([
    item(
      [
        text('short', { fitWith: 'names' }),
        text('long', { box: box(0, 80, 200, 80), fitWith: 'names' }),
        text('low', { box: box(300, 0, 400, 30) }),
        text('free', { box: box(300, 80, 400, 100) }),
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

test('layers show by their values, one of a group by its name, and while a clock stands in a window', async ({
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
      name: 'pick',
      box: box(0, 0, 10, 10),
      which: { field: 'y' },
      layers: [text('left'), text('right')],
    },
    {
      kind: 'group',
      name: 'late',
      box: box(0, 0, 100, 50),
      window: { clock: { field: 'c' }, below: 10_000, above: 0 },
      layers: [text('inside')],
    },
    {
      kind: 'clock',
      name: 'clock',
      box: box(0, 100, 200, 80),
      clock: { field: 'c' },
      style: style(),
      tenthsBelow: 60_000,
    },
    {
      kind: 'pips',
      name: 'pips',
      box: box(300, 0, 90, 9),
      count: { field: 'n' },
      of: { fixed: 3 },
      on: { fixed: '#fff' },
      off: { fixed: '#000' },
      gap: 2,
    },
    { kind: 'picture', name: 'mark', box: box(400, 0, 50, 50), picture: { field: 'p' }, fit: 'contain' },
  ];
  const t = { text: 'x' };
  const server = new FakeServer([
    item(layers, {
      shown: { ...t, shows: false },
      pick: { which: 'left' },
      left: t,
      right: t,
      late: { window: clock(20_000) },
      inside: t,
      clock: { clock: clock(20_000) },
      pips: { count: 1, of: 3, on: '#ffffff', off: '#000000' },
      mark: { picture: '/media/stand-in/arena.svg' },
    }),
  ]);
  await server.open(page);
  await expect(layer(page, 'clock')).toHaveText('20.0');
  for (const name of ['shown', 'right', 'late']) await expect(layer(page, name)).toBeHidden();
  await expect(layer(page, 'left')).toBeVisible();
  await expect(layer(page, 'pips').locator('[data-on=true]')).toHaveCount(1);
  await expect(layer(page, 'mark').locator('img')).toHaveAttribute('src', '/media/stand-in/arena.svg');
  server.set('shown', { shows: true });
  server.set('pick', { which: 'right' });
  server.set('late', { window: clock(9000) });
  server.set('clock', { clock: clock(700, true) });
  server.set('pips', { count: 3 });
  server.set('mark', { picture: '/media/marks/none.svg' });
  for (const name of ['shown', 'right', 'inside']) await expect(layer(page, name)).toBeVisible();
  await expect(layer(page, 'left')).toBeHidden();
  await expect(layer(page, 'pips').locator('[data-on=true]')).toHaveCount(3);
  await expect(layer(page, 'clock')).toHaveText('0.0');
  await expect(layer(page, 'mark').locator('img')).toHaveAttribute('src', '/media/stand-in/arena.svg');
  server.set('clock', { clock: null });
  server.set('late', { window: null });
  await expect(layer(page, 'clock')).toHaveText('');
  await expect(layer(page, 'late')).toBeHidden();
});

test('what leaves loses its name at once and goes; what comes stands; the same item again changes in place', async ({
  page,
}) => {
  const moments = { enter: { kind: 'wipe' as const, ms: 200 }, exit: { kind: 'slide' as const, ms: 3000 } };
  const first = item([text('a', { moments })], { a: { text: 'first' } });
  const second = item([text('b', { moments })], { b: { text: 'second' } }, { item: 'two' });
  const server = new FakeServer([first]);
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
  server.ops({ op: 'clear', zone: 'z' });
  await expect(page.locator('#stage > *')).toHaveCount(0);
});

test('a lost connection holds the picture and stops its clocks; the page comes back by itself', async ({
  page,
}) => {
  const running = { value: 59_000, running: true, direction: 'down' as const, anchor: now(), until: 0 };
  const layers: Layer[] = [
    {
      kind: 'clock',
      name: 'c',
      box: box(0, 0, 300, 80),
      clock: { field: 'c' },
      style: style(),
      tenthsBelow: 60_000,
    },
  ];
  const server = new FakeServer([item(layers, { c: { clock: running } })]);
  await server.open(page);
  await expect(layer(page, 'c')).toHaveText(/^5\d\.\d$/);
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
  await page.waitForTimeout(200);
  const held = await layer(page, 'c').textContent();
  await page.waitForTimeout(600);
  expect(await layer(page, 'c').textContent()).toBe(held);
  await page.evaluate(() => (window.WebSocket = (window as unknown as { real: typeof WebSocket }).real));
  await expect.poll(() => server.sockets).toBe(2);
  await expect.poll(() => layer(page, 'c').textContent()).not.toBe(held);
});

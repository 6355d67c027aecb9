import { expect, test, worldForFile } from './support/test.ts';
import { FakeServer, item, layer, text } from './support/fake-server.ts';

/** What several layers do in one change, against a server that says just what a test wants it to say. */
const world = worldForFile({ sim: false });
const url = () => world.url;
test.use({ viewport: { width: 1920, height: 1080 } });

test('a layer that cannot be drawn stays as it was and harms no other; it is told, and the whole picture asked for', async ({
  page,
}) => {
  const names = ['a', 'b', 'c'];
  const saying = (says: string) =>
    item(
      names.map((n) => text(n)),
      Object.fromEntries(names.map((n) => [n, { text: says }])),
    );
  const server = new FakeServer(url, [saying('1')]);
  await server.open(page);
  for (const name of names) await expect(layer(page, name)).toHaveText('1');
  await layer(page, 'b').evaluate((e: HTMLElement) =>
    Object.defineProperty(e.style, 'opacity', {
      get: () => '',
      set: () => {
        throw new Error('made up');
      },
    }),
  );
  const deltas = names.map((n) => ({ mount: 'z', layer: n, props: { text: '2', opacity: 0.5 } }));
  server.snapshot = server.snapshot.bind(server, [saying('2')]);
  server.ops({ op: 'layers', deltas });
  for (const name of ['a', 'c']) await expect(layer(page, name)).toHaveText('2');
  await expect.poll(() => server.faults).toEqual([{ item: 'one', layer: 'b', text: 'made up' }]);
  // The whole picture, which it can draw, mends it too.
  await expect.poll(() => server.asked).toBe(1);
  await expect(layer(page, 'b')).toHaveText('2');
  // What comes next is drawn; one that goes on failing is not told by every frame.
  server.ops({ op: 'layers', deltas });
  server.set('a', { text: '3' });
  await expect(layer(page, 'a')).toHaveText('3');
  expect(server.faults).toHaveLength(1);
});

test('what one change brings to an item shows at one moment, however each layer moves; what comes meanwhile is not lost', async ({
  page,
}) => {
  const fade = { change: { kind: 'fade' as const, ms: 800 } };
  const short = { change: { kind: 'roll' as const, ms: 200 } };
  const names = ['name', 'score', 'rank'];
  const server = new FakeServer(url, [
    item(
      [text('name'), text('score', { moments: fade }), text('rank', { moments: short })],
      Object.fromEntries(names.map((n) => [n, { text: 'old' }])),
    ),
  ]);
  await server.open(page);
  for (const name of names) await expect(layer(page, name)).toHaveText('old');
  /** Frame by frame: whether the name is new, and whether the old score is still there. */
  const seen = page.evaluate(async () => {
    const frames: [boolean, boolean][] = [];
    const named = (n: string) => document.querySelector(`[data-layer="${n}"]`)!;
    for (let after = 0; after < 20;) {
      await new Promise(requestAnimationFrame);
      const copies = [...document.querySelectorAll('[aria-hidden=true]')];
      const leaves = copies.some((c) => c.textContent === 'old' && c.nextElementSibling === named('score'));
      frames.push([named('name').textContent === 'new', leaves]);
      if (named('name').textContent === 'new') after++;
    }
    return frames;
  });
  const deltas = names.map((n) => ({ mount: 'z', layer: n, props: { text: 'new' } }));
  server.ops({ op: 'layers', deltas });
  const frames = await seen;
  expect(frames.filter(([, leaves]) => leaves).length).toBeGreaterThan(3);
  // Never a new name over a score that leaves.
  expect(frames.filter(([isNew, leaves]) => isNew && leaves)).toEqual([]);
  await expect(layer(page, 'rank')).toHaveText('new');
  // A word that comes while another waits stands in the end.
  server.ops({ op: 'layers', deltas: deltas.map((d) => ({ ...d, props: { text: 'third' } })) });
  server.set('name', { text: 'last' });
  await expect(layer(page, 'name')).toHaveText('last');
  await expect(layer(page, 'score')).toHaveText('third');
});

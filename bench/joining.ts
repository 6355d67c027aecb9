import { WebSocket } from 'ws';
import type { Layer } from '../src/core/layers/kinds.ts';
import type { DeskSnapshot } from '../src/core/wire/wire.ts';
import { snapshot } from '../tests/support/snapshot.ts';
import { quoted, World } from '../tests/support/world.ts';
import { bareProgram } from './bare.ts';
import { clientsOf } from './clients.ts';
import { pauseOf } from './pause.ts';
import { median, type Figure } from './stats.ts';

export const OUTPUTS = 50;
const LAYERS = 200;
const PAGES = 200;
const DESKS = 50;
const MANY_DESKS = 200;
const TIMES = 3;

/** A layout of so many layers, each of which shows a field. */
const layersOf = (length: number) =>
  Array.from({ length }, (_, i): Layer => ({
    kind: 'text',
    id: `l${i}`,
    name: `Layer ${i}`,
    x: 0,
    y: i,
    width: 100,
    height: 20,
    text: { field: i % 2 ? 'home.score' : 'away.score', fallback: '' },
    font: 'Barlow Condensed',
    size: 20,
  }));
const templateOf = (layers: number) => ({
  schema: 3,
  key: 'many',
  name: 'Many layers',
  inputs: [],
  layouts: [{ key: 'all', width: 1920, height: 1080, layers: layersOf(layers) }],
});
const itemOf = (n: number) => ({
  schema: 1,
  key: `i${n}`,
  number: 100 + n,
  name: `Item ${n}`,
  template: 'many',
  zones: [{ output: `o${n}`, zone: 'all' }],
});
const outputOf = (n: number) => ({
  schema: 1,
  key: `o${n}`,
  name: `Output ${n}`,
  width: 1920,
  height: 1080,
  zones: [{ key: 'all', name: 'All', x: 0, y: 0, width: 1920, height: 1080 }],
});

const rows = (table: string, columns: string, values: readonly (string | number)[][]) =>
  `INSERT INTO ${table} (${columns}) VALUES ${values
    .map((row) => `(${row.map((v) => (typeof v === 'number' ? v : quoted(v))).join(',')})`)
    .join(',')};`;

/** A show of fifty outputs, each with its own item on air, of so many layers. */
export async function fill(world: World, layers: number): Promise<void> {
  const numbers = Array.from({ length: OUTPUTS }, (_, n) => n);
  await world.killEngine();
  await world.query(
    [
      `USE foothill_${world.port};`,
      rows('documents', 'kind, `key`, schemaVersion, revision, body', [
        ['template', 'many', 2, 1, JSON.stringify(templateOf(layers))],
        ...numbers.map((n) => ['item', `i${n}`, 1, 1, JSON.stringify(itemOf(n))]),
        ...numbers.map((n) => ['output', `o${n}`, 1, 1, JSON.stringify(outputOf(n))]),
      ]),
      rows(
        'lanes',
        'output, zone, next, onAir',
        numbers.map((n) => [
          `o${n}`,
          'all',
          `i${n}`,
          JSON.stringify({ item: `i${n}`, layout: 'all', inputs: {}, takenAt: 1 }),
        ]),
      ),
    ].join('\n'),
  );
  await world.startEngine();
}

/** Where a stream is followed. */
export const socketOf = (world: World, stream: string) =>
  `ws://127.0.0.1:${world.port}/socket?stream=${stream}`;

/** Joins a stream; done when the picture is there. */
const join = (address: string) =>
  new Promise<{ socket: WebSocket; bytes: number }>((done, failed) => {
    const socket = new WebSocket(address);
    socket.once('message', (data: Buffer) => {
      done({ socket, bytes: data.length });
      // As a page does: whoever says nothing is none, and let go.
      socket.send('{"t":"ping","at":0}');
    });
    socket.once('error', failed);
  });

/** How many bytes the first picture of a stream has. */
export async function snapshotLength(world: World, stream: string): Promise<number> {
  const { socket, bytes } = await join(socketOf(world, stream));
  socket.terminate();
  return bytes;
}

/** Where the pages and the desks of the show join, each stream by what `address` makes of it. */
const joiners = (address: (stream: string) => string) =>
  Array.from({ length: PAGES }, (_, i) => `air:o${i % OUTPUTS}`)
    .concat(Array.from({ length: DESKS }, () => 'desk'))
    .map(address);

/** Many pages that join a large show at once, and one change that many desks are told of; each beside a bare broadcast of as many bytes. */
export async function joining(): Promise<Figure[]> {
  const world = await World.start();
  const bare = await bareProgram();
  try {
    await fill(world, LAYERS);
    const bytes = { air: await snapshotLength(world, 'air:o0'), desk: await snapshotLength(world, 'desk') };
    // What else the machine does only ever adds to a pause, so the least of a few counts.
    const joined = async (watched: string, addresses: string[]) => {
      const joins: { took: number; pause: number }[] = [];
      for (let time = 0; time < TIMES; time++) {
        let took = 0;
        const pause = await pauseOf(watched, async () => {
          const clients = await clientsOf(addresses);
          took = clients.took;
          clients.end();
        });
        joins.push({ took, pause });
      }
      return { took: median(joins.map((j) => j.took)), pause: Math.min(...joins.map((j) => j.pause)) };
    };
    const air = socketOf(world, 'air:broadcast');
    const least = await joined(
      bare.socket(),
      joiners((stream) => bare.socket(stream === 'desk' ? bytes.desk : bytes.air)),
    );
    const all = await joined(
      air,
      joiners((stream) => socketOf(world, stream)),
    );

    // One picture leaves the library and comes again, by turns with as many bytes to as many bare sockets.
    const desks = await Promise.all(
      Array.from({ length: MANY_DESKS }, () => join(socketOf(world, 'desk')).then((j) => j.socket)),
    );
    const others = await Promise.all(
      Array.from({ length: MANY_DESKS }, () => join(bare.socket(30)).then((j) => j.socket)),
    );
    /** Done when each of the sockets was told what `is` it; gives the longest that it was told in, in bytes. */
    const told = async (sockets: readonly WebSocket[], is: (text: string) => boolean) =>
      Math.max(
        ...(await Promise.all(
          sockets.map(
            (socket) =>
              new Promise<number>((done) => {
                const look = (data: Buffer) => {
                  if (!is(String(data))) return;
                  socket.off('message', look);
                  done(data.length);
                };
                socket.on('message', look);
              }),
          ),
        )),
      );
    const path = 'marks/herons.svg';
    const { media } = await snapshot<DeskSnapshot>(world, 'desk');
    const entry = media.find((m) => m.path === path)!;
    const saves: { took: number; pause: number; bare: number }[] = [];
    for (let time = 0; time < 4 * TIMES; time++) {
      let [took, length] = [0, 0];
      const pause = await pauseOf(air, async () => {
        const from = performance.now();
        const all = told(desks, (text) => text.includes('"kind":"media","key":"marks/herons"'));
        await world.act({ kind: 'media', path, entry: time % 2 ? entry : null });
        length = await all;
        took = performance.now() - from;
      });
      const floor = await pauseOf(bare.socket(), async () => {
        const all = told(others, (text) => text.startsWith('{"t":"delta"'));
        bare.broadcast(length);
        await all;
      });
      saves.push({ took, pause, bare: floor });
    }
    for (const socket of [...desks, ...others]) socket.terminate();
    // A moment that a ping may miss: the middle of a few.
    const [paused, barePause] = [median(saves.map((s) => s.pause)), median(saves.map((s) => s.bare))];
    const show = `${PAGES} air pages and ${DESKS} desks join ${OUTPUTS} outputs of ${LAYERS} layers`;
    return [
      { name: `${show}: all have their picture, bare`, value: least.took, unit: 'ms' },
      { name: `${show}: all have their picture`, value: all.took, unit: 'ms' },
      // They are let in a few at a time, so that no picture waits: see the pause.
      { name: 'against bare', value: all.took / least.took, unit: 'times', bound: { most: 15 } },
      { name: 'longest pause meanwhile, bare', value: least.pause, unit: 'ms' },
      { name: 'longest pause of the engine meanwhile', value: all.pause, unit: 'ms' },
      { name: 'against bare', value: all.pause / least.pause, unit: 'times', bound: { most: 3 } },
      {
        name: `one media save with ${MANY_DESKS} desks: all know it`,
        value: median(saves.map((s) => s.took)),
        unit: 'ms',
      },
      { name: 'longest pause, a bare broadcast of as many bytes', value: barePause, unit: 'ms' },
      { name: 'longest pause of the engine (media)', value: paused, unit: 'ms' },
      { name: 'against bare', value: paused / barePause, unit: 'times', bound: { most: 3 } },
    ];
  } finally {
    bare.end();
    await world.stop();
  }
}

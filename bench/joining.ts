import { WebSocket } from 'ws';
import type { Layer } from '../src/core/layers/kinds.ts';
import { quoted, World } from '../tests/support/world.ts';
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
const join = (world: World, stream: string) =>
  new Promise<WebSocket>((done, failed) => {
    const socket = new WebSocket(socketOf(world, stream));
    socket.once('message', () => done(socket));
    socket.once('error', failed);
  });

const pages = () =>
  Array.from({ length: PAGES }, (_, i) => `air:o${i % OUTPUTS}`).concat(
    Array.from({ length: DESKS }, () => 'desk'),
  );

/** Many pages that join a large show at once, and one change that many desks are told of. */
export async function joining(): Promise<Figure[]> {
  const world = await World.start();
  try {
    await fill(world, LAYERS);
    // What else the machine does only ever adds to a pause, so the least of a few counts.
    const joins: { took: number; pause: number }[] = [];
    for (let time = 0; time < TIMES; time++) {
      let took = 0;
      const pause = await pauseOf(world, async () => {
        const joiners = await clientsOf(pages().map((stream) => socketOf(world, stream)));
        took = joiners.took;
        joiners.end();
      });
      joins.push({ took, pause });
    }

    const sockets = await Promise.all(Array.from({ length: MANY_DESKS }, () => join(world, 'desk')));
    let saved = 0;
    const path = 'marks/herons.svg';
    const saving = await pauseOf(world, async () => {
      const told = sockets.map(
        (socket) =>
          new Promise<void>((done) => {
            socket.on('message', (data: Buffer) => {
              if (String(data).includes(`"kind":"media","key":"marks/herons"`)) done();
            });
          }),
      );
      const from = performance.now();
      await world.act({ kind: 'media', path, entry: null });
      await Promise.all(told);
      saved = performance.now() - from;
    });
    for (const socket of sockets) socket.terminate();
    const show = `${PAGES} air pages and ${DESKS} desks join ${OUTPUTS} outputs of ${LAYERS} layers`;
    return [
      { name: `${show}: all have their picture`, value: median(joins.map((j) => j.took)), unit: 'ms' },
      {
        name: 'longest pause of the engine meanwhile',
        value: Math.min(...joins.map((j) => j.pause)),
        unit: 'ms',
        bound: { most: 50 },
      },
      { name: `one media save with ${MANY_DESKS} desks: all know it`, value: saved, unit: 'ms' },
      {
        name: 'longest pause of the engine meanwhile (media)',
        value: saving,
        unit: 'ms',
        bound: { most: 50 },
      },
    ];
  } finally {
    await world.stop();
  }
}

import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createServer as createHttp } from 'node:http';
import { connect, type AddressInfo } from 'node:net';
import { join } from 'node:path';
import { gzipSync, zipSync } from 'fflate';
import { Flood } from '../tests/support/flood.ts';
import { sleep, World } from '../tests/support/world.ts';
import { bareProgram } from './bare.ts';
import { clientsOf } from './clients.ts';
import { socketOf } from './joining.ts';
import { pauseOf } from './pause.ts';
import type { Figure } from './stats.ts';

/** Each case runs so often: what else the machine does only ever adds to a pause, so the least counts. */
const TIMES = 4;
/** What a pause is measured by: a busy server's plainest work, so many bytes to so many sockets. */
const BYTES = 64 * 1024;
const SOCKETS = 200;
const bytes = (text: string) => new TextEncoder().encode(text);

const memoryOf = (world: World) =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${world.engine.pid}/status`, 'utf8'))![1]) / 1024;

const served = async (answer: Parameters<typeof createHttp>[1]) => {
  const server = createHttp(answer);
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  return { server, url: `http://127.0.0.1:${(server.address() as AddressInfo).port}/` };
};

const source = (key: string, transport: object, more: object = {}) => ({
  kind: 'source',
  bundle: {
    schema: 1,
    source: { schema: 1, key, name: key, transport, limits: { late: 1000, lost: 2000 }, ...more },
    map: null,
    document: null,
    patch: null,
  },
});

/** A workbook whose one cell is the last that a sheet can have. */
const farCell = () =>
  zipSync({
    'xl/workbook.xml': bytes('<workbook><sheets><sheet name="s" r:id="r1"/></sheets></workbook>'),
    'xl/_rels/workbook.xml.rels': bytes(
      '<Relationships><Relationship Id="r1" Target="worksheets/s.xml"/></Relationships>',
    ),
    'xl/worksheets/s.xml': bytes(
      '<worksheet><sheetData><row><c r="XFD1048576"><v>1</v></c></row></sheetData></worksheet>',
    ),
  });

/** Two hundred that ask to follow and hang up in the middle of it. */
async function resetAt(port: number): Promise<void> {
  for (let i = 0; i < 200; i++) {
    const socket = connect(port, '127.0.0.1');
    socket.on('error', () => {});
    socket.write('GET // HTTP/1.1\r\nHost: x\r\nConnection: Upgrade\r\nUpgrade: websocket\r\n\r\n');
    setTimeout(() => socket.resetAndDestroy(), 2);
  }
  await sleep(400);
}

/** What tried hard to stop the engine once, each with the longest pause that it makes now and what memory it leaves. */
export async function nasty(): Promise<Figure[]> {
  const world = await World.start({ sim: false });
  const air = socketOf(world, 'air:broadcast');
  const inbox = join(world.statisticsFile, '..');
  mkdirSync(inbox, { recursive: true });
  let n = 0;
  const fromFile = async (name: string, content: Uint8Array | string) => {
    const file = `${n++}-${name}`;
    writeFileSync(join(inbox, file), content);
    const key = `f${n}`;
    await world.act(source(key, { kind: 'file', path: join(inbox, file), every: 60_000 }));
    await fetch(`${world.url}/api/sources/${key}`, { method: 'POST', body: '{"fetch":true}' });
    await sleep(1500);
    await world.act({ kind: 'remove-source', source: key });
  };
  const put = (formula: string) =>
    world.act({
      kind: 'put-document',
      what: 'derived',
      body: { schema: 1, key: 'x', derived: { what: 'field', key: 'x', name: 'X', value: { formula } } },
    });
  const turns = (how: string, inner: string) =>
    'abcdefg'.split('').reduceRight((at, v) => `[1,2,3,4,5,6,7,8,9,0].${how}(${v}, ${at})`, inner);
  const flood = new Flood();
  await flood.join(world, 4096);
  const half = await served((_, r) => {
    r.writeHead(200, { 'content-encoding': 'gzip' }).write(
      gzipSync(bytes('x'.repeat(90_000))).subarray(0, 40),
    );
    setTimeout(() => r.destroy(), 50);
  });
  const floor = await bareProgram();
  /** What is done, and where it has a floor of its own, that. */
  const cases: [string, () => Promise<unknown>, (() => Promise<unknown>)?][] = [
    ['nothing', () => sleep(800)],
    ['a pattern that backtracks elsewhere', () => put(`"${'a'.repeat(400)}!".matches("^(a+)+$") ? 1 : 2`)],
    ['loops in loops', () => put(turns('all', 'true'))],
    ['lists of lists of texts', () => put(`size(${turns('map', '"0123456789"')})`)],
    ['a sheet of a million columns', () => fromFile('wide.csv', `${'a,'.repeat(1e6)}b\n1\n`)],
    ['a workbook whose one cell is its last', () => fromFile('far.xlsx', farCell())],
    [
      '600,000 elements of a drawing, one within the other',
      () => fetch(`${world.url}/api/media?name=a.svg`, { method: 'POST', body: '<svg>'.repeat(600_000) }),
    ],
    [
      '2 MB of start bytes',
      async () => {
        flood.say(new Uint8Array(2_000_000).fill(2));
        await sleep(800);
      },
    ],
    ['10,000 frames a second', () => flood.pour(1000)],
    [
      'a body nested 100,000 deep',
      () =>
        fetch(`${world.url}/api/actions`, {
          method: 'POST',
          body: `${'{"a":'.repeat(80_000)}1${'}'.repeat(80_000)}`,
        }),
    ],
    [
      'a packed body that breaks off',
      async () => {
        await world.act(source('half', { kind: 'http', url: half.url, every: 250 }));
        await sleep(700);
        await world.act({ kind: 'remove-source', source: 'half' });
      },
    ],
    [
      '200 sockets that are reset',
      () => resetAt(world.port),
      // Mostly what the system itself takes for them.
      () => resetAt(Number(new URL(floor.http).port)),
    ],
  ];
  const many = await clientsOf(Array<string>(SOCKETS).fill(floor.socket(30)));
  const leastPause = async (work: () => Promise<unknown>) => {
    const pauses: number[] = [];
    for (let i = 0; i < TIMES; i++) pauses.push(await pauseOf(floor.socket(), work));
    return Math.min(...pauses);
  };
  const least = await leastPause(async () => {
    // Again and again: whoever asks now and then meets one of them.
    for (let n = 0; n < 12; n++) {
      floor.broadcast(BYTES);
      await sleep(50);
    }
  });
  many.end();
  const figures: Figure[] = [
    { name: `pause: a bare broadcast of ${BYTES / 1024} kB to ${SOCKETS} sockets`, value: least, unit: 'ms' },
  ];
  for (const [name, work, bareWork] of cases) {
    const pauses: number[] = [];
    const before = memoryOf(world);
    for (let i = 0; i < TIMES; i++) pauses.push(await pauseOf(air, work));
    const after = memoryOf(world);
    figures.push({
      name: `pause: ${name}`,
      value: Math.min(...pauses),
      p99: Math.max(...pauses),
      unit: 'ms',
    });
    figures.push({
      name: '  against that of the bare broadcast',
      value: Math.min(...pauses) / (bareWork ? await leastPause(bareWork) : least),
      unit: 'times',
      bound: { most: 3 },
    });
    figures.push({ name: `  memory after, ${Math.round(before)} MB before`, value: after, unit: 'MB' });
  }
  floor.end();
  flood.close();
  half.server.close();
  await world.stop();
  return figures;
}

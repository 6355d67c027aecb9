import { readdirSync } from 'node:fs';
import { connect, type Socket } from 'node:net';
import { expect, test, worldForFile } from './support/test.ts';
import { Flood, frameOf } from './support/flood.ts';

const world = worldForFile({ sim: false, kept: false });

/** Says something to the server on a bare socket; gives the first line of its answer, or how the line ended. */
function say(text: string, then: (socket: Socket) => void = () => {}): Promise<string> {
  return new Promise((done) => {
    const socket = connect(world.port, '127.0.0.1');
    socket.once('data', (data) => {
      done(String(data).split('\r\n')[0]!);
      socket.destroy();
    });
    socket.once('error', (error) => done(error.message));
    socket.once('close', () => done('closed'));
    socket.write(text);
    then(socket);
  });
}

/** The very same process still answers. */
async function isWell(): Promise<void> {
  const { pid, exitCode } = world.engine;
  expect(exitCode).toBeNull();
  expect((await fetch(`${world.url}/healthz`)).status).toBe(200);
  expect(world.engine.pid).toBe(pid);
}

const UPGRADE =
  'Connection: Upgrade\r\nUpgrade: websocket\r\nSec-WebSocket-Version: 13\r\nSec-WebSocket-Key: AAAAAAAAAAAAAAAAAAAAAA==\r\n';
const HOST = 'Host: 127.0.0.1\r\n';

test('addresses that cannot be read, and refused sockets that are reset, end nothing', async () => {
  for (const url of ['//', 'http://[', '/%', '/socket?stream=%', '/socket?stream=constructor', '/socket'])
    expect(await say(`GET ${url} HTTP/1.1\r\n${HOST}${UPGRADE}\r\n`), url).toMatch(/HTTP\/1.1 4\d\d/);
  for (const url of ['//', '/%', '/air/%E0%A4%A', '/media/by-hash/..%2f', '/tapes/%00.jsonl.gz'])
    expect(await say(`GET ${url} HTTP/1.1\r\n${HOST}\r\n`), url).toMatch(/HTTP\/1.1 4\d\d/);
  for (let i = 0; i < 20; i++)
    await say(`GET /nowhere HTTP/1.1\r\n${HOST}${UPGRADE}\r\n`, (s) =>
      setTimeout(() => s.resetAndDestroy(), i),
    );
  await isWell();
});

test('a page that asks for snapshot after snapshot and reads none costs little memory', async () => {
  const mask = (text: string) => {
    const body = Buffer.from(text);
    return Buffer.concat([Buffer.from([0x81, 0x80 | body.length, 0, 0, 0, 0]), body]);
  };
  const memory = async () => {
    const { readFileSync } = await import('node:fs');
    return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${world.engine.pid}/status`, 'utf8'))![1]) / 1024;
  };
  const before = await memory();
  const socket = connect(world.port, '127.0.0.1');
  socket.on('error', () => {});
  socket.write(`GET /socket?stream=desk HTTP/1.1\r\n${HOST}${UPGRADE}\r\n`);
  await new Promise((done) => socket.once('data', done));
  socket.pause();
  for (let i = 0; i < 3000; i++) socket.write(mask('{"t":"snapshot"}'));
  await expect.poll(() => isWell().then(() => true)).toBe(true);
  expect((await memory()) - before).toBeLessThan(120);
  socket.destroy();
});

test('bodies are bounded while they come, and what is odd in them is a sentence', async () => {
  const chunked = await say(
    `POST /api/actions HTTP/1.1\r\n${HOST}Transfer-Encoding: chunked\r\n\r\n`,
    (socket) => {
      const part = 'a'.repeat(64 * 1024);
      for (let i = 0; i < 200; i++) socket.write(`${part.length.toString(16)}\r\n${part}\r\n`);
    },
  );
  expect(chunked).toContain('413');
  const post = async (body: string) => {
    const response = await fetch(`${world.url}/api/actions`, { method: 'POST', body });
    return { status: response.status, ...((await response.json()) as { ok: boolean; reason: string }) };
  };
  const deep = `${'{"a":'.repeat(1500)}1${'}'.repeat(1500)}`;
  const cases: [string, RegExp][] = [
    ['{"id":"abcdefgh","kind":"take","item":"x","__proto__":null}', /__proto__/],
    [`{"id":"abcdefgh","kind":"put-document","what":"game","body":${deep}}`, /nested/],
    ['{"id":"abcdefgh ","kind":"clear","zone":"top"}', /id: must be/],
    ['{"id":"abcdefgh","kind":"edit","item":"x","inputs":{"__proto__":"y"}}', /no item|There is no/],
    ['\xff\xfe', /not JSON/],
    ['[]', /one of/],
  ];
  for (const [body, why] of cases) {
    const said = await post(body);
    expect(said.status, body.slice(0, 60)).toBeLessThan(500);
    expect(said, body.slice(0, 60)).toMatchObject({
      ok: false,
      reason: expect.stringMatching(why) as unknown,
    });
  }
  await isWell();
});

test('a formula that costs too much says so, does not hold up a start, and can be changed', async () => {
  const put = (formula: string) =>
    world.act({
      kind: 'put-document',
      what: 'derived',
      body: {
        schema: 1,
        key: 'nasty',
        derived: { what: 'field', key: 'nasty', name: 'Nasty', value: { formula } },
      },
    });
  const nested = 'abcdefg'
    .split('')
    .reduceRight((inner, name) => `[1,2,3,4,5,6,7,8,9,0].map(${name}, ${inner})`, '"0123456789"');
  expect(await put('1 + 1')).toMatchObject({ ok: true });
  await expect.poll(async () => (await world.field('nasty')).value).toBe(2);
  for (const formula of [`"${'a'.repeat(300)}!".matches("^(a+)+$") ? 1 : 2`, `size(${nested})`])
    expect((await put(formula)).status).toBeLessThan(500);
  // The last good value stands where it costs too much.
  expect((await world.field('nasty')).value).toBe(2);
  await world.killEngine();
  await world.startEngine();
  await isWell();
  expect(await put('40 + 2')).toMatchObject({ ok: true });
  await expect.poll(async () => (await world.field('nasty')).value).toBe(42);
});

test('a line that floods leaves the pages their answers, and its newest state stands', async () => {
  const flood = new Flood();
  await flood.join(world);
  let over = false;
  // Each frame by itself, as a device would say it, then a burst of starts without an end.
  const pouring = (async () => {
    while (!over) await flood.pour(100, '\x02'.repeat(20_000));
  })();
  for (let i = 0; i < 20; i++) {
    await isWell();
    expect(await world.act({ kind: 'pin', field: 'away.score', text: String(i) })).toMatchObject({
      ok: true,
    });
  }
  over = true;
  await pouring;
  // The first one is still taken with the starts before it: nothing in it says that it is not.
  for (let i = 0; i < 2; i++) flood.say(frameOf(97));
  await expect.poll(async () => (await world.field('home.shots')).value).toBe(97);
  flood.close();
});

test('a page, a worker and an answer say what a browser may do with them; parts of a page say no more than they must', async () => {
  const said = async (path: string) => (await fetch(world.url + path)).headers;
  const page = await (await fetch(`${world.url}/live`)).text();
  const files = readdirSync('dist/astro/client/_astro');
  const [style] = /\/_astro\/[^"]+\.css/.exec(page)!;
  const worker = files.find((f) => /worker.*\.js$/.test(f))!;
  for (const path of ['/live', '/healthz', '/icon.svg', '/nothing', `/_astro/${worker}`])
    expect((await said(path)).get('content-security-policy'), path).toContain("default-src 'self'");
  const plain = await said(style);
  expect(plain.get('content-security-policy')).toBeNull();
  expect(plain.get('x-content-type-options')).toBe('nosniff');
  expect(plain.get('cache-control')).toContain('immutable');
});

import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { createServer, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { gzipSync } from 'node:zlib';
import { pino } from 'pino';
import { machineTime } from '../../scheduler.ts';
import { afterEach, describe, expect, it } from 'vitest';
import { parseSource } from '../../../core/source/source-doc.ts';
import type { DocMap } from '../../../core/tree/doc-map.ts';
import { DocumentSource, type Fetcher } from './document-source.ts';
import { readHostPolicy, refuseAddress } from './hosts.ts';
import { httpFetcher } from './http.ts';
import type { DocumentReader } from './reader.ts';
import { readBytes, type ReadJob } from './work.ts';
import type { SourceListener } from '../source-listener.ts';

setFlagsFromString('--expose-gc');
const collectGarbage = runInNewContext('gc') as () => void;
const bytes = (text: string) => new TextEncoder().encode(text);
let closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.reverse()) await close();
  closing = [];
});

const serve = async (answer: RequestListener): Promise<string> => {
  const server: Server = createServer(answer);
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  closing.push(() => {
    server.closeAllConnections();
    return server.close();
  });
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
};
const fetcherOf = (url: string, more: object = {}, policy = readHostPolicy(undefined)) =>
  httpFetcher(
    { kind: 'http', url, every: 1000, timeout: 20_000, limit: 1000, header: null, ...more },
    policy,
  );

describe('web addresses', () => {
  it('asks anew only for what changed, sends its header, unpacks', async () => {
    const seen: (string | undefined)[] = [];
    const url = await serve((request, response) => {
      seen.push(request.headers['x-key'] as string);
      if (request.headers['if-none-match'] === '"1"') return response.writeHead(304).end();
      response.writeHead(200, { etag: '"1"', 'content-encoding': 'gzip' }).end(gzipSync('{"a":1}'));
    });
    const one = fetcherOf(url, { header: { name: 'X-Key', value: 'k' } });
    expect(Buffer.from((await one.fetch())!.bytes).toString()).toBe('{"a":1}');
    expect(await one.fetch()).toBeNull();
    expect(seen).toEqual(['k', 'k']);
  });

  it.each<[string, RequestListener, RegExp]>([
    ['a 500', (_, r) => r.writeHead(500, 'Broken').end(), /answered 500 Broken/],
    ['a circle', (_, r) => r.writeHead(302, { location: '/' }).end(), /redirects in a circle/],
    ['a file', (_, r) => r.writeHead(302, { location: 'file:///etc/passwd' }).end(), /no address of the web/],
    [
      'a forbidden host',
      (_, r) => r.writeHead(302, { location: 'http://169.254.1.1/' }).end(),
      /no address that a feed/,
    ],
    [
      '200 MB named',
      (_, r) => r.writeHead(200, { 'content-length': 2e8 }).write('x'),
      /longer than the limit/,
    ],
    ['200 MB unnamed', (_, r) => r.end('x'.repeat(5000)), /longer than the limit/],
    [
      'a bomb',
      (_, r) => r.writeHead(200, { 'content-encoding': 'gzip' }).end(gzipSync('x'.repeat(1e6))),
      /longer than the limit/,
    ],
    [
      'a break',
      (_, r) => (r.writeHead(200, { 'content-length': 50 }).write('x'), setTimeout(() => r.destroy(), 20)),
      /broke off/,
    ],
    [
      'a packed body that breaks off',
      (_, r) => {
        r.writeHead(200, { 'content-encoding': 'gzip' }).write(gzipSync('x'.repeat(900)).subarray(0, 12));
        setTimeout(() => r.destroy(), 20);
      },
      /broke off/,
    ],
    [
      'what is not packed as it says',
      (_, r) => r.writeHead(200, { 'content-encoding': 'br' }).end('plain'),
      /broke off/,
    ],
    [
      'another protocol',
      (_, r) =>
        r.socket!.write('HTTP/1.1 101 Switching Protocols\r\nConnection: upgrade\r\nUpgrade: x\r\n\r\n'),
      /answered 101 and left HTTP/,
    ],
    ['nothing, and hangs up', (_, r) => r.socket!.end(), /cannot be reached|broke off/],
    ['what is no HTTP', (_, r) => r.socket!.end('SSH-2.0\r\n'), /no HTTP/],
    [
      'a header without an end',
      (_, r) => r.socket!.write(`HTTP/1.1 200 OK\r\nx: ${'y'.repeat(40_000)}`),
      /header without an end/,
    ],
    [
      'an unknown way of packing',
      (_, r) => r.writeHead(200, { 'content-encoding': 'constructor' }).end('x'),
      /packed in a way that is not known/,
    ],
  ])('says what came instead of a document: %s', async (_name, answer, says) => {
    await expect(fetcherOf(await serve(answer)).fetch()).rejects.toThrow(says);
  });

  it.each<[string, RequestListener, number, RegExp]>([
    ['silence', () => {}, 400, /did not answer within 0.4 s/],
    [
      'a packed body that stops',
      (_, r) =>
        r.writeHead(200, { 'content-encoding': 'gzip' }).write(gzipSync('x'.repeat(900)).subarray(0, 12)),
      2000,
      /did not come to its end in time/,
    ],
    [
      'word that it is coming, again and again',
      (_, r) => {
        const more = setInterval(() => r.socket!.write('HTTP/1.1 103 Early Hints\r\n\r\n'), 20);
        r.socket!.on('close', () => clearInterval(more));
      },
      400,
      /did not answer within 0.4 s/,
    ],
    [
      'a header of a byte at a time',
      (_, r) => {
        r.socket!.write('HTTP/1.1 200 OK\r\nx: ');
        const more = setInterval(() => r.socket!.write('y'), 20);
        r.socket!.on('close', () => clearInterval(more));
      },
      400,
      /did not answer within 0.4 s/,
    ],
    // Memory is tidied up meanwhile: whatever was to give up the wait must outlive that.
    [
      'a drip',
      (_, r) => (r.write('x'), void setTimeout(collectGarbage, 50)),
      2000,
      /did not come to its end in time/,
    ],
  ])('gives up in time: %s', async (_name, answer, timeout, says) => {
    await expect(fetcherOf(await serve(answer), { timeout }).fetch()).rejects.toThrow(says);
  });

  it('keeps its header from hosts that it is sent on to', async () => {
    const seen: unknown[] = [];
    const other = await serve(
      (request, response) => (seen.push(request.headers['x-key']), response.end('{}')),
    );
    const url = await serve((_, response) => response.writeHead(302, { location: other }).end());
    await fetcherOf(url, { header: { name: 'X-Key', value: 'secret' } }).fetch();
    expect(seen).toEqual([undefined]);
  });

  it('reaches only hosts that the policy allows, by name and by address', async () => {
    const url = await serve((_, r) => r.end('{}'));
    const outside = readHostPolicy('public, private');
    await expect(fetcherOf(url, {}, outside).fetch()).rejects.toThrow(/is a loopback address/);
    const named = url.replace('127.0.0.1', 'localhost');
    await expect(fetcherOf(named, {}, outside).fetch()).rejects.toThrow(/is a loopback address/);
    expect(() => readHostPolicy('venue')).toThrow(/"venue"/);
  });

  it.each([
    ['127.0.0.1', 'loopback', null],
    ['::ffff:127.0.0.1', 'public', /loopback/],
    ['10.1.2.3', 'private', null],
    ['8.8.4.4', 'private', /public/],
    ['::ffff:7f00:1', 'public', /loopback/],
    ['::ffff:0:127.0.0.1', 'public', /loopback/],
    ['64:ff9b::127.0.0.1', 'public', /loopback/],
    ['64:ff9b::a9fe:a9fe', 'loopback,private,public', /no address/],
    ['64:ff9b:1::10.1.2.3', 'public', /private/],
    ['2002:7f00:1::', 'public', /loopback/],
    ['::127.0.0.1', 'public', /loopback/],
    ['::1', 'public', /loopback/],
    ['fd00::7', 'public', /private/],
    ['2606:4700::1111', 'public', null],
    ['fe80::1%eth0', 'loopback,private,public', /no address/],
    ['fe80::1', 'loopback,private,public', /no address/],
    ['0.0.0.0', 'loopback,private,public', /no address/],
  ])('%s under %s', (address, policy, says) => {
    const refused = refuseAddress(address, readHostPolicy(policy));
    if (says) expect(refused).toMatch(says);
    else expect(refused).toBeNull();
  });
});

describe('DocumentSource', () => {
  /** A source over a fetcher, whose documents are read here and not in another thread. */
  function sourceOf(
    fetcher: Fetcher,
    map: DocMap | null,
    heard: { read?: SourceListener['read']; asked?: (job: ReadJob) => void } = {},
  ): DocumentSource {
    const doc = parseSource({
      schema: 1,
      key: 's',
      name: 'S',
      transport: { kind: 'file', path: '/s.json', every: 60_000 },
      limits: { late: 1000, lost: 2000 },
    });
    const read = (job: ReadJob) => (heard.asked?.(job), readBytes(job));
    const source = new DocumentSource(
      doc.ok ? doc.value : null!,
      map,
      fetcher,
      { read } as unknown as DocumentReader,
      {
        read: heard.read ?? (() => {}),
        received: () => {},
        now: Date.now,
        scheduler: machineTime,
        atOneTime: (work) => work(),
        log: pino({ level: 'silent' }),
      },
    );
    closing.push(() => source.stop());
    return source;
  }

  it('lets the last good document stand, says why, and takes up the next good one', async () => {
    const answers: (string | null)[] = ['{"score":1}', '{"sco', null, '{"score":2}'];
    const asked: boolean[] = [];
    const fetcher: Fetcher = {
      forget: () => asked.push(true),
      fetch: () => {
        const text = answers.shift() ?? null;
        return Promise.resolve(text === null ? null : { bytes: bytes(text), type: '' });
      },
    };
    const scores: unknown[] = [];
    const score = { name: 'score', place: '/document/score', as: 'number' as const };
    const source = sourceOf(
      fetcher,
      { schema: 1, key: 's', tables: [], readings: [score] },
      { read: (read) => scores.push(read.readings[0]!.value) },
    );
    await source.fetchNow();
    await source.fetchNow();
    expect(source.state()).toMatchObject({
      connected: false,
      trouble: { text: expect.stringContaining('breaks off') as string },
    });
    expect(source.last!.readings[0]).toMatchObject({ value: 1 });
    expect(asked).toEqual([true]);
    await source.fetchNow();
    await source.fetchNow();
    expect(scores).toEqual([1, 2]);
    const tried = await source.tryMap(null)!;
    expect(tried.tree).toMatchObject({ name: 'document' });
    await expect.poll(() => source.state().connected).toBe(true);
  });

  it('finds a cell in the newest document, once for each document, and keeps the last answer meanwhile', async () => {
    const answers = [1, 2].map((goals) => bytes(`{"players":[{"no":"7","goals":${goals}},{"no":"9"}]}`));
    const column = (name: string) => ({ name, place: name, as: 'text' as const });
    const table = {
      key: 'p',
      name: 'P',
      rows: '/document/players',
      columns: [column('no'), column('goals')],
      keyed: ['no'],
      limit: 10,
    };
    let sought = 0;
    const source = sourceOf(
      { forget: () => {}, fetch: () => Promise.resolve({ bytes: answers.shift()!, type: '' }) },
      { schema: 1, key: 's', readings: [], tables: [table] },
      { asked: ({ find }) => find && sought++ },
    );
    const cell = { table: 'p', row: '7', column: 'goals' };
    expect(source.whereIs(cell)).toBeNull();
    await source.fetchNow();
    const raw = () => source.whereIs(cell)?.raw;
    await expect.poll(raw).toBe('1');
    expect(source.whereIs(cell)).toMatchObject({ format: 'JSON', place: "/document/players[no='7']/goals" });
    expect(sought).toBe(1);
    await source.fetchNow();
    expect(raw()).toBe('1');
    await expect.poll(raw).toBe('2');
    expect(sought).toBe(2);
    expect(source.whereIs({ ...cell, row: '8' })).toBeNull();
  });

  it('asks anew at once when it is told to fetch while an address hangs, and calls that no trouble', async () => {
    let hangs = true;
    const url = await serve((_, response) => {
      if (!hangs) response.end('{"a":1}');
    });
    const source = sourceOf(fetcherOf(url, { timeout: 60_000 }), null);
    const first = source.fetchNow();
    await new Promise((done) => setTimeout(done, 30));
    hangs = false;
    await source.fetchNow();
    await first;
    await expect.poll(() => source.last).not.toBeNull();
    expect(source.state()).toMatchObject({ trouble: null, counts: { good: 1, badChecks: 0 } });
  });
});

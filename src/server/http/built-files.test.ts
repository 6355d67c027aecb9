import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { brotliCompressSync } from 'node:zlib';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { builtFiles } from './built-files.ts';

const folder = mkdtempSync(join(tmpdir(), 'foothill-built-'));
mkdirSync(join(folder, '_astro'));
const file = (name: string, body: string | Buffer) => writeFileSync(join(folder, '_astro', name), body);
file('a.js', 'export {}');
file('a.js.br', brotliCompressSync('export {}'));
file('b.woff2', 'font');
writeFileSync(join(folder, 'secret'), 'no');
const built = builtFiles(folder);
const server = createServer((asked, answer) => {
  answer.setHeader('content-security-policy', 'none');
  const failed = () => answer.writeHead(500).end();
  if (!built(asked, answer, asked.url!, failed)) answer.writeHead(404).end();
});
beforeAll(() => new Promise<void>((done) => server.listen(0, '127.0.0.1', done)));
afterAll(() => {
  server.close();
  rmSync(folder, { recursive: true });
});

/** Asks as a browser does, for what is not unpacked or mended on the way. */
const ask = (path: string, headers: Record<string, string> = {}, method = 'GET') =>
  new Promise<{ status: number; headers: NodeJS.Dict<string | string[]>; bytes: number }>((done, failed) => {
    const { port } = server.address() as AddressInfo;
    request({ port, host: '127.0.0.1', path, headers, method }, (answer) => {
      let bytes = 0;
      answer.on('data', (part: Buffer) => (bytes += part.length));
      answer.on('end', () => done({ status: answer.statusCode!, headers: answer.headers, bytes }));
    })
      .on('error', failed)
      .end();
  });

describe('built files from memory', () => {
  test('packed for whoever unpacks, whole for others, and for good', async () => {
    const packed = await ask('/_astro/a.js', { 'accept-encoding': 'gzip, br' });
    expect(packed.headers).toMatchObject({
      'content-encoding': 'br',
      'content-type': 'text/javascript',
      'cache-control': 'public, max-age=31536000, immutable',
      vary: 'Accept-Encoding',
    });
    expect(packed.headers['content-security-policy']).toBeUndefined();
    const whole = await ask('/_astro/a.js');
    expect(whole.headers['content-encoding']).toBeUndefined();
    expect(whole.bytes).toBe(9);
    expect((await ask('/_astro/b.woff2', { 'accept-encoding': 'br' })).headers).toMatchObject({
      'content-type': 'font/woff2',
      'content-length': '4',
    });
    expect(await ask('/_astro/a.js', {}, 'HEAD')).toMatchObject({ status: 200, bytes: 0 });
  });
  test.each([
    ['/_astro/none.js'],
    ['/_astro/../secret'],
    ['/secret'],
    ['/_astro/'],
    ['/_astro/a.js', { range: 'bytes=0-1' }],
    ['/_astro/a.js', {}, 'POST'],
  ])('is left to others: %s %j %s', async (path, headers?, method?) => {
    expect((await ask(path, headers as Record<string, string>, method)).status).toBe(404);
  });
  test('what cannot be read is said, and is there when it can be', async () => {
    file('late.js', '');
    const late = builtFiles(folder);
    rmSync(join(folder, '_astro/late.js'));
    const outcome = () =>
      new Promise((done) => {
        const answer = { removeHeader() {}, writeHead: (s: number) => ({ end: () => done(s) }) };
        late({ method: 'GET', headers: {} } as never, answer as never, '/_astro/late.js', () =>
          done('failed'),
        );
      });
    expect(await outcome()).toBe('failed');
    file('late.js', '');
    expect(await outcome()).toBe(200);
  });
});

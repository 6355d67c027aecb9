import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { afterAll, afterEach, describe, expect, it } from 'vitest';
import { Pictures } from './pictures.ts';

const folder = mkdtempSync(join(tmpdir(), 'foothill-pictures-'));
const file = join(folder, 'looks.mjs');
/** Looks at pictures as their names say: one brings it down, one never ends, one is refused. */
writeFileSync(
  file,
  `let looked = 0;
  process.on('message', ({ id, inspect, shrink }) => {
    if (shrink) return process.send({ id, result: shrink.subarray(0, 1) });
    if (inspect.name === 'bad') process.abort();
    if (inspect.name === 'odd') return process.send({ id, problem: 'It is odd.' });
    if (inspect.name !== 'endless') process.send({ id, result: { problem: inspect.name + ++looked } });
  });
  process.on('disconnect', () => process.exit());`,
);
let pictures: Pictures;
const open = (patience?: number) => (pictures = new Pictures(pathToFileURL(file), patience));
const look = (name: string) => pictures.inspect(new Uint8Array(3), name);

describe('who looks at pictures', () => {
  afterEach(() => pictures.close());
  afterAll(() => rmSync(folder, { recursive: true }));

  it('answers in turn, and goes on with the next after one that brought it down', async () => {
    open();
    const bad = look('bad');
    const next = [look('a'), look('odd'), look('b')];
    await expect(bad).rejects.toThrow('what looked at it broke down');
    expect(await Promise.allSettled(next)).toMatchObject([
      { value: { problem: 'a1' } },
      { reason: { message: 'It cannot be read (It is odd.)' } },
      { value: { problem: 'b2' } },
    ]);
    expect(await pictures.shrunk(new Uint8Array([7, 8]))).toEqual(new Uint8Array([7]));
  });

  it('gives up on one that takes too long, and takes no more than it can hold', async () => {
    open(4000);
    const endless = look('endless');
    const rest = Array.from({ length: 64 }, (_, i) => look(`${i} `));
    await expect(look('one more')).rejects.toThrow('Too many pictures wait');
    await expect(endless).rejects.toThrow('longer than 4 s');
    expect((await Promise.all(rest)).at(-1)).toEqual({ problem: '63 64' });
  });
});

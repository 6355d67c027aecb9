import { readFile } from 'node:fs/promises';
import { describe, expect, it } from 'vitest';
import { faceRule, fontsOf } from '../../core/media/fonts.ts';
import { parseMedia } from '../../core/media/media-doc.ts';
import { MediaIndex } from '../../core/media/media.ts';
import { familiesIn } from '../../core/text/families.ts';
import { blockFont } from '../../../tests/support/font.ts';
import { unpackedSize } from './font.ts';
import { inspect } from './inspect.ts';

const fontsource = (path: string) => readFile(`node_modules/@fontsource${path}-normal.woff2`);
const own = '-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght';

/** A packed font of which each table says that it is so long. */
function bomb(tables: number, length: number): Uint8Array {
  const head = Buffer.alloc(48);
  head.write('wOF2');
  head.writeUInt16BE(tables, 12);
  const groups = [4, 3, 2, 1, 0].map((i) => (Math.floor(length / 128 ** i) % 128) | (i ? 128 : 0));
  return Buffer.concat([
    head,
    ...Array.from({ length: Math.min(tables, 20) }, () => Buffer.from([1, ...groups])),
  ]);
}

describe('a font that is brought in', () => {
  it.each([
    // How it is named, and what it is, by its own bytes.
    ['blocks.otf', () => blockFont('Harbor Blocks'), 'font/otf', 'Harbor Blocks', [400, 400]],
    [
      'b.OTF',
      () => blockFont('Harbor Blocks Bold', { weight: 700 }),
      'font/otf',
      'Harbor Blocks',
      [700, 700],
    ],
    ['c.otf', () => blockFont('Harbor', { width: 3 }), 'font/otf', 'Harbor Condensed', [400, 400]],
    ['d.otf', () => blockFont('A "B"; }{'), 'font/otf', 'A B', [400, 400]],
    ['e.otf', () => blockFont('***'), 'font/otf', 'Font without a name', [400, 400]],
    ['book.woff2', () => fontsource(own), 'font/woff2', 'Atkinson Hyperlegible Next', [200, 800]],
  ] as const)('%s is taken', async (name, bytes, type, family, weights) => {
    const found = await inspect(await bytes(), name);
    expect(found).toMatchObject({ about: { type, face: { family, weights }, width: 0, length: null } });
    const { about } = found as Extract<typeof found, { about: object }>;
    expect(parseMedia({ path: `fonts/${name}`, ...about }).ok).toBe(true);
  });

  const blocks = blockFont('Harbor Blocks');
  it.each([
    ['blocks.ttf', blocks, 'blocks.ttf is not what its name says it is.'],
    ['half.otf', blocks.subarray(0, blocks.length / 2), /damaged/],
    ['start.otf', Buffer.from('OTTO'), /damaged/],
    ['lies.otf', Buffer.concat([Buffer.from('OTTO\xff\xff', 'latin1'), Buffer.alloc(2000, 255)]), /damaged/],
    ['much.ttf', Buffer.concat([Buffer.from([0, 1, 0, 0]), Buffer.alloc(10_000_000)]), /10 MB is the limit/],
    ['bomb.woff2', bomb(4, 2 ** 31), /unpacks to more than 50 MB/],
    ['short.woff2', bomb(300, 9), /is damaged/],
    ['head.woff2', bomb(0, 0).subarray(0, 20), /is damaged/],
    ['page.woff2', Buffer.from('<html>'), /not what its name says/],
    ['font.woff', blocks, /is not a picture .* or a font/],
  ])('%s is refused', async (name, bytes, problem) => {
    expect(await inspect(bytes, name)).toEqual({ problem: expect.stringMatching(problem) as string });
  });

  it('is weighed before it is unpacked', async () => {
    const bytes = await fontsource(own);
    const size = unpackedSize(bytes)!;
    expect(size).toBeGreaterThan(bytes.length);
    expect(size).toBeLessThan(10 * bytes.length);
  });

  it('is refused where that family ships', async () => {
    const bytes = await fontsource('-variable/oswald/files/oswald-latin-wght');
    expect(await inspect(bytes, 'mine.woff2')).toEqual({
      problem: 'mine.woff2 has the font Oswald, which is in the list of fonts already.',
    });
  });
});

describe('the fonts of the library', () => {
  const at = (path: string, hash: string, family: string, from: number, to = from) => ({
    ...{ path, hash: hash.repeat(64), type: 'font/otf' as const, size: 9, width: 0, height: 0 },
    ...{ alpha: null, length: null, face: { family, weights: [from, to] as [number, number] } },
  });
  const entries = [at('fonts/a.otf', 'a', 'Quill', 400), at('fonts/b.otf', 'b', 'Quill', 700, 900)];

  it('are families with the weights of all their files', () => {
    expect(familiesIn([...entries, at('fonts/c.otf', 'c', 'Ash', 300)])).toEqual([
      { name: 'Ash', style: 'yours', weights: [300, 300] },
      { name: 'Quill', style: 'yours', weights: [400, 900] },
    ]);
  });

  it('are declared once each, and are no pictures', () => {
    const rules = [...fontsOf([...entries, { ...entries[0]!, path: 'again.otf' }])].map(([h, f]) =>
      faceRule(h, f),
    );
    expect(rules).toEqual([
      `@font-face{font-family:"Quill";font-weight:400;src:url(/media/by-hash/${'a'.repeat(64)})}\n`,
      `@font-face{font-family:"Quill";font-weight:700 900;src:url(/media/by-hash/${'b'.repeat(64)})}\n`,
    ]);
    const index = new MediaIndex(entries);
    expect([index.address('fonts/a.otf'), index.pictures(), index.list().length]).toEqual([null, [], 2]);
  });

  it.each([
    [{ family: 'x"}', weights: [1, 2] }],
    [{ family: 'X', weights: [900, 100] }],
    [{ family: 'X' }],
    ['X'],
  ])('cannot be kept with %j', (face) => expect(parseMedia({ ...entries[0], face }).ok).toBe(false));
});

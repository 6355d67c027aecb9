import { crc32, deflateSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { MediaIndex, plainPath, type MediaEntry } from '../../core/media/media.ts';
import { parseMedia } from '../../core/media/media-doc.ts';
import sharp from 'sharp';
import { gifSize } from './gif.ts';
import { inspect } from './inspect.ts';
import { shrunk } from './small.ts';
import { cleanSvg } from './svg.ts';

const bytes = (...parts: (number[] | string | Uint8Array)[]) =>
  Uint8Array.from(parts.flatMap((p) => (typeof p === 'string' ? [...Buffer.from(p, 'latin1')] : [...p])));
const be = (n: number) => [n >>> 24, (n >> 16) & 255, (n >> 8) & 255, n & 255];
const chunk = (type: string, data: Uint8Array) =>
  bytes(be(data.length), type, data, be(crc32(bytes(type, data))));
const png = (colour: number, width = 3, height = 2) =>
  bytes(
    [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a],
    chunk('IHDR', bytes(be(width), be(height), [8, colour, 0, 0, 0])),
    chunk('IDAT', deflateSync(Buffer.alloc(height * (1 + width * (colour === 6 ? 4 : 3))))),
    chunk('IEND', bytes()),
  );
/** Two frames of 5 by 4, of 100 and 250 ms. */
const gif = await sharp(
  ['#f00', '#00f'].map((background) => ({
    create: { width: 5, height: 4, channels: 4 as const, background },
  })) as never,
  { join: { animated: true } },
)
  .gif({ delay: [100, 250] })
  .toBuffer();
/** As a phone takes it that is held upright: 300 by 200, to be turned; every pixel another. */
const photo = await sharp(Buffer.from(Array.from({ length: 180_000 }, (_, i) => (i * 7919) % 251)), {
  raw: { width: 300, height: 200, channels: 3 },
})
  .withMetadata({ orientation: 6 })
  .jpeg()
  .toBuffer();
const part = (whole: Uint8Array) => whole.subarray(0, whole.length / 2);
const id = (hex: string) => [...Buffer.from(hex, 'hex')];
const el = (name: string, ...parts: Parameters<typeof bytes>) => {
  const content = bytes(...parts);
  // Sizes in two bytes, as their leading bits 01 say.
  return bytes(id(name), [0x40 | (content.length >> 8), content.length & 255], content);
};
const double = (n: number) => {
  const b = Buffer.alloc(8);
  b.writeDoubleBE(n);
  return b;
};
const head = el('1a45dfa3', el('4282', 'webm'));
const track = (...more: Uint8Array[]) =>
  el(
    '1654ae6b',
    el(
      'ae',
      el('d7', [1]),
      el('83', [1]),
      el('86', 'V_VP9'),
      el('e0', el('b0', [7, 128]), el('ba', [4, 56]), ...more),
    ),
  );
const webm = bytes(
  head,
  el(
    '18538067',
    el('1549a966', el('2ad7b1', [0x0f, 0x42, 0x40]), el('4489', double(2500))),
    track(el('53c0', [1])),
  ),
);
/** As a browser records: a segment of unknown size, no duration, then pictures, the second 100 ms after the first. */
const recorded = bytes(
  head,
  id('18538067'),
  [0x01, 255, 255, 255, 255, 255, 255, 255],
  track(),
  el('1f43b675', el('e7', [0]), el('a3', [0x81, 0, 0, 0x80, 1]), el('a3', [0x81, 0, 100, 0x80, 1])),
);

describe('what is brought in', () => {
  it.each([
    ['a.png', png(6), { type: 'image/png', width: 3, height: 2, alpha: true, length: null }],
    ['a.PNG', png(2), { alpha: false }],
    ['a.gif', gif, { type: 'image/gif', width: 5, height: 4, length: 350 }],
    ['a.webm', webm, { type: 'video/webm', width: 1920, height: 1080, alpha: true, length: 2500 }],
    ['b.webm', recorded, { width: 1920, height: 1080, alpha: false, length: 100 }],
    ['a.jpg', photo, { type: 'image/jpeg', width: 200, height: 300, alpha: false, length: null }],
    [
      'a.svg',
      bytes('<svg viewBox="0 0 40 30"><path d="M0 0"/></svg>'),
      { type: 'image/svg+xml', width: 40, height: 30 },
    ],
  ])('%s is looked at by its own bytes', async (name, content, about) => {
    const found = await inspect(content, name);
    expect('problem' in found ? found.problem : found.about).toMatchObject(about);
  });

  it.each([
    ['a.png', bytes('<svg/>'), 'a.png is not what its name says it is.'],
    ['a.jpg', png(6), 'a.jpg is not what its name says it is.'],
    ['a.svg', bytes('<html><svg/></html>'), 'a.svg is not what its name says it is.'],
    ['a.svg', bytes('<svg><g></svg>'), 'a.svg is not what its name says it is.'],
    ['a.webm', bytes('not a loop at all'), 'a.webm is not what its name says it is.'],
    ['a.webm', head, 'a.webm is not what its name says it is.'],
    ['a.webm', bytes([0x1a]), 'a.webm is not what its name says it is.'],
    ['a.png', part(png(6, 300, 200)), 'a.png is damaged: a part of it is missing.'],
    ['a.jpg', part(photo), 'a.jpg is damaged: a part of it is missing.'],
    [
      'a.exe',
      png(6),
      'a.exe is not a picture (PNG, JPEG, WebP, GIF, SVG), a WebM loop or a font (TTF, OTF, WOFF2).',
    ],
    ['a.png', bytes(), 'a.png is empty.'],
    ['a.png', png(6, 20_000, 1), 'a.png has 20000 by 1 pixels; 16384 along a side is the limit.'],
  ])('%s is refused when it is not that, or too large', async (name, content, problem) => {
    expect(await inspect(content, name)).toEqual({ problem });
  });
});

describe('an animated GIF', () => {
  const word = (n: number) => [n & 255, n >> 8];
  const block = (x: number, y: number, w: number, h: number) =>
    bytes([0x2c], word(x), word(y), word(w), word(h), [0, 2, 2, 0x44, 1, 0]);
  const of = (w: number, h: number, ...blocks: Uint8Array[]) =>
    bytes('GIF89a', word(w), word(h), [0x80, 0, 0, 0, 0, 0, 255, 255, 255], ...blocks, [0x3b]);
  const delay = bytes([0x21, 0xf9, 4, 0, 10, 0, 0, 0]);
  it.each([
    ['its first picture reaches beyond its screen', of(1, 1, delay, block(4, 2, 16_000, 10)), [16_004, 12]],
    ['its screen is larger', of(300, 200, block(0, 0, 3, 2)), [300, 200]],
    [
      'a later picture reaches further',
      of(8, 8, delay, block(0, 0, 8, 8), delay, block(0, 0, 900, 9)),
      [8, 8],
    ],
    ['it ends before its picture', of(8, 8).subarray(0, 14), null],
    ['it has no picture', of(8, 8), null],
  ])('is as large as browsers draw it where %s', (_, content, size) => {
    const found = gifSize(content);
    expect(found && [found.width, found.height]).toEqual(size);
  });
});

describe('a picture made small', () => {
  it.each([
    ['upright', photo, { format: 'webp', width: 200, height: 300 }],
    ['with its sides as they were', png(6, 1600, 400), { width: 320, height: 80, hasAlpha: true }],
    ['by its first frame', gif, { width: 5, height: 4 }],
  ])('is %s', async (_, bytes, about) => {
    const small = await shrunk(bytes);
    expect(await sharp(Buffer.from(small!)).metadata()).toMatchObject(about);
  });
  it.each([
    ['a half one', part(photo)],
    ['a drawing', bytes('<svg xmlns="http://www.w3.org/2000/svg"/>')],
    ['one too large to be decoded', png(2, 16_000, 8_000)],
  ])('is none of %s', async (_, bytes) => expect(await shrunk(bytes)).toBeNull());
});

describe('drawings', () => {
  const X = ' xmlns="http://www.w3.org/2000/svg"';
  it.each([
    ['<svg><script>alert(1)</script><path d="M0"/></svg>', `<svg${X}><path d="M0"/></svg>`],
    [
      '<?xml version="1.0"?><!DOCTYPE svg><svg onload="x()"><rect ONCLICK="y()" width="3"/></svg>',
      `<svg${X}><rect width="3"/></svg>`,
    ],
    ['<svg><foreignObject><body><p>hi</p></body></foreignObject></svg>', `<svg${X}/>`],
    [
      '<svg><image href="http://elsewhere.example/x.png"/><use href="#a"/></svg>',
      `<svg${X}><image/><use href="#a"/></svg>`,
    ],
    [
      '<svg><rect fill="url(http://x.example)" stroke="url(#g)"/></svg>',
      `<svg${X}><rect stroke="url(#g)"/></svg>`,
    ],
    [
      '<svg><style>a{fill:image-set("http://x.example/a" 1x)}</style><rect style="mask:src(&quot;//x&quot;)" fill="-webkit-image-set(url(#a) 1x)"/></svg>',
      `<svg${X}><style/><rect/></svg>`,
    ],
    [
      '<svg><style>@import "x"; a{}</style><style>b{fill:url(#k)}</style></svg>',
      `<svg${X}><style/><style>b{fill:url(#k)}</style></svg>`,
    ],
    [
      '<svg><a href="javascript:x"><text>Fox &amp; Hen</text></a></svg>',
      `<svg${X}><a><text>Fox &amp; Hen</text></a></svg>`,
    ],
    [
      '<svg><set attributeName="href" to="javascript:x"/><rect style="fill:ur\\6c(http://x)"/></svg>',
      `<svg${X}><rect/></svg>`,
    ],
    [
      '<svg viewBox="0 0 4 4"><linearGradient id="g"><stop offset="0"/></linearGradient><clipPath id="c"/></svg>',
      `<svg${X} viewBox="0 0 4 4"><linearGradient id="g"><stop offset="0"/></linearGradient><clipPath id="c"/></svg>`,
    ],
  ])('%s is cleaned', async (text, clean) => expect((await cleanSvg(text))?.svg).toBe(clean));
  it.each([
    ['entities of its own', '<!DOCTYPE svg [<!ENTITY a "b">]><svg>&a;</svg>'],
    ['what is none', '<html><svg/></html>'],
  ])('refuses %s', async (_, text) => expect(await cleanSvg(text)).toBeNull());
  it.each([
    ['600,000 elements within one another', `${'<svg>'.repeat(600_000)}`, 'is nested more than 200 deep'],
    ['600,000 elements', `<svg>${'<g/>'.repeat(600_000)}</svg>`, 'has more than 50000 elements'],
    [
      '200,000 attributes',
      `<svg ${Array.from({ length: 200_000 }, (_, i) => `a${i}="1"`).join(' ')}/>`,
      'has an element of more than 1000 attributes',
    ],
    [
      'attributes everywhere',
      `<svg>${`<g ${Array.from({ length: 900 }, (_, i) => `a${i}=""`).join(' ')}/>`.repeat(600)}</svg>`,
      'has more than 500000 attributes',
    ],
    ['10 MB of text', `<svg><desc>${'x'.repeat(1e7)}</desc></svg>`, 'has more than 8 MB of text'],
  ])('says what is too much of %s', async (_, text, says) => {
    await expect(cleanSvg(text)).rejects.toThrow(says);
    expect(await inspect(bytes(text), 'big.svg')).toEqual({
      problem: `big.svg ${says}, which is more than is taken.`,
    });
  });
  it.each([
    ['width="10cm" height="2in"', 378, 192],
    ['width="72pt" height="6pc"', 96, 96],
    ['width="1e2" height="50%" viewBox="0 0 7 9"', 100, 129],
    ['width="50"', 50, 150],
    ['width="3 furlongs" viewBox="0 0 7 9"', 7, 9],
  ])('are as large as browsers draw them: %s', async (size, width, height) => {
    expect(await cleanSvg(`<svg ${size}/>`)).toMatchObject({ width, height });
  });
});

describe('the library', () => {
  const entry = (path: string, hash = 'a'.repeat(64)): MediaEntry => ({
    path,
    hash,
    type: 'image/png',
    size: 1,
    width: 1,
    height: 1,
    alpha: true,
    length: null,
  });
  it.each([
    ['Head Shots/Herons/07.PNG', 'head-shots/herons/07'],
    ['headshots//Jos\u00e9 Ángel.jpeg', 'headshots/jose-angel'],
    ['  A_b-c  .svg', 'a-b-c'],
    ['.png', ''],
  ])('takes %j for %j', (path, plain) => expect(plainPath(path)).toBe(plain));

  it('finds a picture however its path is written, and gives its address', () => {
    const index = new MediaIndex([entry('Headshots/Herons/07.png')]);
    expect(index.address('headshots/HERONS/07')).toBe(`/media/by-hash/${'a'.repeat(64)}`);
    expect(index.address('headshots/herons/7')).toBeNull();
    expect(index.address('/media/marks/x.svg')).toBe('/media/marks/x.svg');
    index.put(entry('headshots/herons/07.webp', 'b'.repeat(64)));
    expect(index.list()).toHaveLength(1);
    index.remove('HEADSHOTS/herons/07');
    expect(index.list()).toEqual([]);
  });

  it.each(['../x.png', 'a//b.png', '/a.png', 'a\\b.png', 'a?b'])('refuses the path %j', (path) => {
    expect(parseMedia(entry(path)).ok).toBe(false);
  });
});

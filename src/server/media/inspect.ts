import { createHash } from 'node:crypto';
import { imageSize } from 'image-size';
import type { MediaEntry } from '../../core/media/media.ts';
import { cleanSvg } from './svg.ts';
import { readWebm } from './webm.ts';

/** The largest content, in bytes, and the most pixels along one side. */
export const LARGEST = 40_000_000;
const WIDEST = 16_384;

const TYPES = new Map<string, MediaEntry['type']>([
  ['png', 'image/png'],
  ['jpg', 'image/jpeg'],
  ['jpeg', 'image/jpeg'],
  ['webp', 'image/webp'],
  ['gif', 'image/gif'],
  ['svg', 'image/svg+xml'],
  ['webm', 'video/webm'],
]);

export type Inspected = { bytes: Uint8Array; about: Omit<MediaEntry, 'path'> } | { problem: string };

/**
 * Looks at what was brought in: what it is by its own bytes, its size, whether it can be seen through, how long a loop
 * takes. A drawing is cleaned. What is not what its name says, or is too large, is refused in a sentence.
 */
export async function inspect(given: Uint8Array, name: string): Promise<Inspected> {
  const named = TYPES.get(/\.(\w+)$/.exec(name)?.[1]?.toLowerCase() ?? '');
  if (!named) return { problem: `${name} is not a PNG, JPEG, WebP, GIF, SVG or WebM file.` };
  if (given.length === 0) return { problem: `${name} is empty.` };
  if (given.length > LARGEST)
    return {
      problem: `${name} has ${(given.length / 1e6).toFixed(1)} MB; ${LARGEST / 1e6} MB is the limit.`,
    };
  const found = await whatIs(given);
  if (found?.type !== named) return { problem: `${name} is not what its name says it is.` };
  const { bytes, ...about } = found;
  if (about.width > WIDEST || about.height > WIDEST)
    return {
      problem: `${name} has ${about.width} by ${about.height} pixels; ${WIDEST} along a side is the limit.`,
    };
  const hash = createHash('sha256').update(bytes).digest('hex');
  return { bytes, about: { ...about, hash, size: bytes.length } };
}

type Found = Omit<MediaEntry, 'path' | 'hash' | 'size'> & { bytes: Uint8Array };

/** What a content is, by its own bytes alone; null for what the library does not take. */
export async function whatIs(given: Uint8Array): Promise<Found | null> {
  const start = Buffer.from(given.buffer, given.byteOffset, Math.min(64, given.length)).toString('latin1');
  if (/^(\xef\xbb\xbf)?\s*</.test(start)) return drawing(given);
  return start.startsWith('\x1a\x45\xdf\xa3') ? video(given) : raster(given);
}

async function drawing(given: Uint8Array): Promise<Found | null> {
  const clean = await cleanSvg(new TextDecoder().decode(given));
  if (!clean) return null;
  const { svg, width, height } = clean;
  return {
    bytes: new TextEncoder().encode(svg),
    type: 'image/svg+xml',
    width,
    height,
    alpha: true,
    length: null,
  };
}

function video(given: Uint8Array): Found | null {
  const loop = readWebm(given);
  return loop && { bytes: given, type: 'video/webm', ...loop };
}

function raster(given: Uint8Array): Found | null {
  try {
    const { type, width, height } = imageSize(given);
    const media = TYPES.get(type ?? '');
    if (!media || !width || !height) return null;
    const length = media === 'image/gif' ? gifLength(given) : null;
    return { bytes: given, type: media, width, height, alpha: alphaOf(given, media), length };
  } catch {
    return null;
  }
}

/** Whether a raster picture has a channel of transparency, by the headers of its format. */
function alphaOf(b: Uint8Array, type: MediaEntry['type']): boolean | null {
  if (type === 'image/jpeg') return false;
  // PNG (ISO/IEC 15948): colour types 4 and 6 have alpha; a palette may have it in a tRNS chunk.
  if (type === 'image/png') return b[25] === 4 || b[25] === 6 || Buffer.from(b).includes('tRNS');
  // WebP (RFC 9649): the extended header's alpha flag, or the lossless header's alpha bit.
  if (type === 'image/webp') {
    const kind = Buffer.from(b.subarray(12, 16)).toString();
    return kind === 'VP8X'
      ? ((b[20] ?? 0) & 0x10) !== 0
      : kind === 'VP8L'
        ? ((b[24] ?? 0) & 0x10) !== 0
        : false;
  }
  return type === 'image/gif' ? true : null;
}

/** One turn of a GIF in ms, by the delays of its graphic control extensions (GIF89a); null for a single frame. */
function gifLength(b: Uint8Array): number | null {
  let frames = 0;
  let hundredths = 0;
  for (let i = 0; i + 7 < b.length; i++) {
    if (b[i] !== 0x21 || b[i + 1] !== 0xf9 || b[i + 2] !== 4) continue;
    frames++;
    hundredths += b[i + 4]! | (b[i + 5]! << 8);
  }
  return frames > 1 ? hundredths * 10 : null;
}

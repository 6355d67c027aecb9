import { createHash } from 'node:crypto';
import { BufferSource, Input, WEBM } from 'mediabunny';
import { isRaster, type MediaEntry } from '../../core/media/media.ts';
import { fontIn } from './font.ts';
import { gifSize } from './gif.ts';
import type { Found } from './found.ts';
import { cleanSvg, TooMuch } from './svg.ts';
import { DECODED, opened, WIDEST } from './small.ts';

/** The largest content, in bytes. */
export const LARGEST = 40_000_000;

const TYPES = new Map<string, MediaEntry['type']>([
  ['png', 'image/png'],
  ['jpg', 'image/jpeg'],
  ['jpeg', 'image/jpeg'],
  ['webp', 'image/webp'],
  ['gif', 'image/gif'],
  ['svg', 'image/svg+xml'],
  ['webm', 'video/webm'],
  ['ttf', 'font/ttf'],
  ['otf', 'font/otf'],
  ['woff2', 'font/woff2'],
]);

export type Inspected = { bytes: Uint8Array; about: Omit<MediaEntry, 'path'> } | { problem: string };

/**
 * Looks at what was brought in: what it is by its own bytes, its size, whether it can be seen through, how long a loop
 * takes. A drawing is cleaned. What is not what its name says, or is too large, is refused in a sentence.
 */
export async function inspect(given: Uint8Array, name: string): Promise<Inspected> {
  const named = TYPES.get(/\.(\w+)$/.exec(name)?.[1]?.toLowerCase() ?? '');
  if (!named)
    return {
      problem: `${name} is not a picture (PNG, JPEG, WebP, GIF, SVG), a WebM loop or a font (TTF, OTF, WOFF2).`,
    };
  if (given.length === 0) return { problem: `${name} is empty.` };
  if (given.length > LARGEST)
    return {
      problem: `${name} has ${(given.length / 1e6).toFixed(1)} MB; ${LARGEST / 1e6} MB is the limit.`,
    };
  if (named.startsWith('font/')) {
    const font = await fontIn(given, name, named);
    return 'problem' in font ? font : inspected(font);
  }
  const found = await whatIs(given).catch((error: unknown) => {
    if (error instanceof TooMuch) return error;
    throw error;
  });
  if (found instanceof TooMuch) return { problem: `${name} ${found.message}, which is more than is taken.` };
  if (found?.type !== named) return { problem: `${name} is not what its name says it is.` };
  if (found.width > WIDEST || found.height > WIDEST)
    return {
      problem: `${name} has ${found.width} by ${found.height} pixels; ${WIDEST} along a side is the limit.`,
    };
  if (isRaster(found) && !(await isWhole(given, found)))
    return { problem: `${name} is damaged: a part of it is missing.` };
  return inspected(found);
}

/** What was found, with what its bytes are known by. */
function inspected({ bytes, ...about }: Found): Inspected {
  const hash = createHash('sha256').update(bytes).digest('hex');
  return { bytes, about: { ...about, hash, size: bytes.length } };
}

/** What a content is, by its own bytes alone; null for what the library does not take. Throws TooMuch for a drawing that is too large. */
export async function whatIs(given: Uint8Array): Promise<Found | null> {
  const start = Buffer.from(given.buffer, given.byteOffset, Math.min(64, given.length)).toString('latin1');
  if (/^(\xef\xbb\xbf)?\s*</.test(start)) return drawing(given);
  return start.startsWith('\x1a\x45\xdf\xa3') ? video(given) : raster(given, start);
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

async function video(given: Uint8Array): Promise<Found | null> {
  const input = new Input({ source: new BufferSource(given), formats: [WEBM] });
  try {
    const track = await input.getPrimaryVideoTrack();
    if (!track) return null;
    const [width, height] = [await track.getDisplayWidth(), await track.getDisplayHeight()];
    // A recording says nothing of how long it is: then its last picture does.
    const seconds = (await input.getDurationFromMetadata()) ?? (await input.computeDuration());
    const length = Number.isFinite(seconds) && seconds > 0 ? Math.round(seconds * 1000) : null;
    return { bytes: given, type: 'video/webm', width, height, alpha: await track.canBeTransparent(), length };
  } catch {
    return null;
  } finally {
    input.dispose();
  }
}

/** How files of each raster format begin: PNG (ISO/IEC 15948), JPEG (ITU-T T.81), GIF87a and 89a, WebP (RFC 9649). */
const BEGINS: [RegExp, MediaEntry['type']][] = [
  [/^\x89PNG\r\n\x1a\n/, 'image/png'],
  [/^\xff\xd8\xff/, 'image/jpeg'],
  [/^GIF8[79]a/, 'image/gif'],
  [/^RIFF.{4}WEBP/s, 'image/webp'],
];

async function raster(given: Uint8Array, start: string): Promise<Found | null> {
  const type = BEGINS.find(([sign]) => sign.test(start))?.[1];
  if (!type) return null;
  try {
    const { autoOrient, hasAlpha, delay } = await opened(given).metadata();
    const { width, height } = (type === 'image/gif' && gifSize(given)) || autoOrient;
    const length = delay && delay.length > 1 ? delay.reduce((sum, ms) => sum + ms, 0) : null;
    return { bytes: given, type, width, height, alpha: hasAlpha, length };
  } catch {
    return null;
  }
}

/** Whether all pixels of a raster picture are there; one that is too large to be decoded here is taken at its word. */
async function isWhole(
  given: Uint8Array,
  { width, height }: Pick<Found, 'width' | 'height'>,
): Promise<boolean> {
  if (width * height > DECODED) return true;
  try {
    await opened(given).resize(8, 8, { fit: 'fill' }).raw().toBuffer();
    return true;
  } catch {
    return false;
  }
}

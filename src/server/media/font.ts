import type { Font, FontCollection } from 'fontkit';
import type { MediaFace } from '../../core/media/media.ts';
import { FAMILY_NAME } from '../../core/media/media-doc.ts';
import { shipped } from '../../core/text/families.ts';
import type { Found } from './found.ts';

/** The largest font, in bytes: every page that shows it carries it. */
const LARGEST_FONT = 10_000_000;
/** The most that a packed font may unpack to, in bytes. */
const LARGEST_UNPACKED = 50_000_000;
/** As many glyphs are drawn to see that a font is whole. */
const DRAWN = 400;

/** How the formats begin: TrueType and OpenType (ISO/IEC 14496-22, section 4.2), WOFF2 (W3C WOFF 2.0, section 4.1). */
const BEGINS: [RegExp, Found['type']][] = [
  [/^(\0\x01\0\0|true)/, 'font/ttf'],
  [/^OTTO/, 'font/otf'],
  [/^wOF2/, 'font/woff2'],
];

/** Words at the end of a family's name that say a weight, which is no part of it. */
const WEIGHT =
  /[ -](thin|hairline|(extra|ultra|semi|demi)[ -]?(light|bold)|light|regular|normal|book|medium|bold|black|heavy)$/i;

/** What a font file has, by its own bytes: its family and weights; or in a sentence why it is not taken. `named` is what its name says. */
export async function fontIn(
  given: Uint8Array,
  name: string,
  named: Found['type'],
): Promise<Found | { problem: string }> {
  if (given.length > LARGEST_FONT)
    return {
      problem: `${name} has ${(given.length / 1e6).toFixed(1)} MB; ${LARGEST_FONT / 1e6} MB is the limit for a font.`,
    };
  const start = Buffer.from(given.buffer, given.byteOffset, 4).toString('latin1');
  const type = BEGINS.find(([sign]) => sign.test(start))?.[1];
  if (type !== named) return { problem: `${name} is not what its name says it is.` };
  if (type === 'font/woff2' && (unpackedSize(given) ?? Infinity) > LARGEST_UNPACKED)
    return { problem: `${name} is damaged, or unpacks to more than ${LARGEST_UNPACKED / 1e6} MB.` };
  const face = await faceOf(given);
  if (!face) return { problem: `${name} is damaged: its letters cannot be read.` };
  const known = shipped(face.family);
  if (known) return { problem: `${name} has the font ${known.name}, which is in the list of fonts already.` };
  return { bytes: given, type, width: 0, height: 0, alpha: null, length: null, face };
}

/** A number as WOFF2 has it (W3C WOFF 2.0, section 4.1, UIntBase128), and where it ends; null where it is none. */
function base128(bytes: Uint8Array, at: number): { value: number; end: number } | null {
  let value = 0;
  for (let i = 0; i < 5; i++) {
    const byte = bytes[at + i];
    if (byte === undefined) return null;
    value = value * 128 + (byte & 127);
    if (byte < 128) return { value, end: at + i + 1 };
  }
  return null;
}

/**
 * What the tables of a WOFF2 font say that they unpack to, in bytes (W3C WOFF 2.0, section 4.2): whoever unpacks it makes room
 * for that first. Null where the directory cannot be read.
 */
export function unpackedSize(bytes: Uint8Array): number | null {
  if (bytes.length < 48) return null;
  let at = 48;
  let sum = 0;
  for (let left = bytes[12]! * 256 + bytes[13]!; left > 0; left--) {
    const flags = bytes[at];
    if (flags === undefined) return null;
    const tag = flags & 63;
    const original = base128(bytes, at + (tag === 63 ? 5 : 1));
    if (!original) return null;
    // Outlines and their places are transformed unless they say otherwise; of all others none is.
    const transformed = tag === 10 || tag === 11 ? flags >> 6 !== 3 : flags >> 6 !== 0;
    const held = transformed ? base128(bytes, original.end) : original;
    if (!held) return null;
    sum += Math.max(original.value, held.value);
    at = held.end;
  }
  return sum;
}

/** The family and the weights of a font that can be drawn; null where it cannot. */
async function faceOf(given: Uint8Array): Promise<MediaFace | null> {
  const { create } = await import('fontkit');
  try {
    const read: Font | FontCollection = create(Buffer.from(given));
    if (!('numGlyphs' in read)) return null;
    const letters = read.characterSet.slice(0, DRAWN);
    if (letters.length === 0 || !drawn(read, letters)) return null;
    const family = familyOf(read);
    const axis = (read.variationAxes as Record<string, { min: number; max: number }>)['wght'];
    const weight = (w: number) => Math.max(1, Math.min(1000, Math.round(w) || 400));
    const only = weight(read['OS/2'].usWeightClass);
    return { family, weights: axis ? [weight(axis.min), weight(axis.max)] : [only, only] };
  } catch {
    return null;
  }
}

/** Whether the outlines of these letters are there: a font that was cut short reads well until one looks at them. */
function drawn(font: Font, letters: readonly number[]): boolean {
  let lines = 0;
  for (const letter of letters) {
    const glyph = font.glyphForCodePoint(letter);
    if (!Number.isFinite(glyph.advanceWidth)) return false;
    lines += glyph.path.commands.length;
  }
  return lines > 0;
}

/** The family as layers name it: without the weight, with the width and the slope, which a layer cannot ask for. */
function familyOf(font: Font): string {
  const named = (key: string) =>
    String((font as unknown as { getName(k: string): unknown }).getName(key) ?? '');
  const tidy = (text: string) =>
    text
      .replace(/[^\p{L}\p{N} ._+-]/gu, ' ')
      .replace(/\s+/g, ' ')
      .trim();
  let family = tidy(named('preferredFamily') || font.familyName || font.postscriptName || '');
  family = family.replace(WEIGHT, '') || family;
  const width = font['OS/2'].usWidthClass;
  if (width < 5 && !/cond|narrow|compress/i.test(family)) family += ' Condensed';
  if (width > 5 && !/wide|expand|extend/i.test(family)) family += ' Expanded';
  if (font.italicAngle !== 0 && !/ital|obli/i.test(family)) family += ' Italic';
  const name = family.slice(0, 60).trim();
  return FAMILY_NAME.test(name) ? name : 'Font without a name';
}

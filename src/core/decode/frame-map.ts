import * as v from 'valibot';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';

const byte = wholeNumber(0, 255);
const place = wholeNumber(0, 4095);

const framing = v.variant('kind', [
  v.object({
    kind: v.literal('delimited'),
    start: v.pipe(v.array(byte), v.minLength(1), v.maxLength(8)),
    end: v.pipe(v.array(byte), v.minLength(1), v.maxLength(8)),
    /** The longest whole frame in bytes; a start without an end within it is garbage. */
    maxLength: wholeNumber(2, 4096),
  }),
  v.object({
    kind: v.literal('fixed'),
    start: v.optional(v.pipe(v.array(byte), v.maxLength(8)), []),
    length: wholeNumber(1, 4096),
  }),
]);

/** Places are byte offsets from the frame's first byte; a negative one counts from its end. */
const fromEnd = wholeNumber(-4096, 4095);

const check = v.variant('kind', [
  v.object({ kind: v.literal('none') }),
  v.object({
    kind: v.picklist(['xor', 'sum8', 'crc16']),
    /** The bytes covered: `from` included, `to` not. */
    from: fromEnd,
    to: fromEnd,
    /** Where the check stands. */
    at: fromEnd,
    /** As bytes (big end first), or as upper- or lower-case hexadecimal text. */
    as: v.picklist(['bytes', 'hex']),
    crc: v.optional(
      v.object({
        poly: wholeNumber(0, 65535),
        init: wholeNumber(0, 65535),
        reflect: v.boolean(),
        xorOut: wholeNumber(0, 65535),
      }),
    ),
  }),
]);

/** What spaces mean: `blank` is a blank value, `zero` the number 0, `keep` no word at all: the last value stands. */
const blank = v.optional(v.picklist(['blank', 'zero', 'keep']), 'blank');
const readingBase = { name: nameSchema, offset: place, length: wholeNumber(1, 256), blank };

const reading = v.variant('kind', [
  v.object({ ...readingBase, kind: v.literal('text') }),
  v.object({ ...readingBase, kind: v.literal('integer') }),
  v.object({ ...readingBase, kind: v.literal('clock') }),
  v.object({
    ...readingBase,
    kind: v.literal('flag'),
    on: v.pipe(v.string(), v.minLength(1)),
    off: v.optional(v.string()),
  }),
]);

export const frameMapSchema = v.object({
  schema: v.literal(1),
  key: keySchema,
  name: nameSchema,
  framing,
  check,
  /** None while only the cut is known. */
  readings: v.pipe(v.array(reading), v.maxLength(400)),
});

/** The description of a controller's byte frames: how one starts and ends, its check, its readings. */
export type FrameMap = v.InferOutput<typeof frameMapSchema>;
export type ReadingDef = FrameMap['readings'][number];

/** Reads a frame map; refuses one whose readings share a name or lie outside the frame. */
export function parseFrameMap(input: unknown): Parsed<FrameMap> {
  return parseDocument(frameMapSchema, input, (map) => {
    const longest = map.framing.kind === 'fixed' ? map.framing.length : map.framing.maxLength;
    const seen = new Set<string>();
    return map.readings.flatMap((r) => {
      const problems: string[] = [];
      if (seen.has(r.name)) problems.push(`readings: "${r.name}" is there twice`);
      if (r.offset + r.length > longest)
        problems.push(`readings: "${r.name}" lies outside a frame of ${longest} bytes`);
      seen.add(r.name);
      return problems;
    });
  });
}

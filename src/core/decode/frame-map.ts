import * as v from 'valibot';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';

const byte = wholeNumber(0, 255);
const place = wholeNumber(0, 4095);

const framing = v.variant('kind', [
  v.object({
    kind: v.literal('delimited'),
    /** None where lines only end. */
    start: v.pipe(v.array(byte), v.maxLength(8)),
    end: v.pipe(v.array(byte), v.minLength(1), v.maxLength(8)),
    /** The longest whole frame in bytes; a start without an end within it is garbage. */
    maxLength: wholeNumber(2, 4096),
    /** The shortest: an end before it is a byte like any other. */
    minLength: v.optional(wholeNumber(2, 4096)),
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
const text = (most: number) => v.pipe(v.string(), v.minLength(1), v.maxLength(most));
const readingBase = {
  name: nameSchema,
  /** Where its bytes stand; of a reading that is a field (`field`) both are left out. */
  offset: v.optional(place, 0),
  length: v.optional(wholeNumber(0, 256), 0),
  /** Further places, whose characters follow in this order. */
  more: v.optional(v.pipe(v.array(v.object({ offset: place, length: wholeNumber(1, 256) })), v.maxLength(8))),
  /** The field that it is, in frames that are cut into fields: its place, from 1, or its name. */
  field: v.optional(v.union([wholeNumber(1, 400), text(80)])),
  /** The address of the messages that carry it; it is read out of no others. */
  address: v.optional(text(64)),
  /** Its characters stand last first. */
  reversed: v.optional(v.boolean()),
  /** Of packed decimal (`bcd`): each byte holds one digit, in its lower half. */
  unpacked: v.optional(v.boolean()),
  blank,
};

const reading = v.variant('kind', [
  /** `page` is the code page of its bytes; plain ASCII where none is said. */
  v.object({
    ...readingBase,
    kind: v.literal('text'),
    page: v.optional(v.picklist(['utf-8', 'windows-1252', 'iso-8859-2', 'windows-1251', 'ibm866'])),
  }),
  v.object({ ...readingBase, kind: v.literal('integer') }),
  /**
   * `digits`: without a colon, the last two are seconds (1234 is 12:34); `bcd`: the same, two digits a byte; `bytes`: a byte
   * each for hours, minutes and seconds, as far as there are bytes.
   */
  v.object({
    ...readingBase,
    kind: v.literal('clock'),
    written: v.optional(v.picklist(['digits', 'bcd', 'bytes'])),
    /** The last digit, or of `bytes` the last byte, is tenths. */
    tenths: v.optional(v.boolean()),
  }),
  /** Packed decimal: two digits a byte, a nibble above 9 is a blank. */
  v.object({ ...readingBase, kind: v.literal('bcd') }),
  /** A whole number in 1 to 4 bytes, two's complement where it is signed. */
  v.object({
    ...readingBase,
    length: v.optional(wholeNumber(0, 4), 0),
    kind: v.literal('binary'),
    signed: v.optional(v.boolean(), false),
    littleEnd: v.optional(v.boolean(), false),
  }),
  /** One bit of a byte, 0 the lowest: yes where it is set. */
  v.object({
    ...readingBase,
    length: v.optional(wholeNumber(0, 1), 0),
    kind: v.literal('bit'),
    bit: wholeNumber(0, 7),
  }),
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
  /** How a frame is cut into fields, for readings that are one. `assign` stands between a field's name and its value. */
  fields: v.optional(
    v.object({
      separator: v.pipe(v.array(byte), v.minLength(1), v.maxLength(4)),
      assign: v.optional(v.pipe(v.array(byte), v.minLength(1), v.maxLength(4))),
    }),
  ),
  /** Where each message says what it speaks of: bytes, or the field at a place. */
  address: v.optional(
    v.union([
      v.strictObject({ offset: place, length: wholeNumber(1, 32) }),
      v.strictObject({ field: wholeNumber(1, 400) }),
    ]),
  ),
  /** None while only the cut is known. */
  readings: v.pipe(v.array(reading), v.maxLength(400)),
  /** A frame that was captured, as hexadecimal digits: what every reading is shown against when nothing is live. */
  sample: v.optional(
    v.pipe(v.string(), v.maxLength(8192), v.regex(/^([0-9a-f]{2})*$/, 'is not hexadecimal')),
  ),
});

/** The description of a controller's byte frames: how one starts and ends, its check, its readings. */
export type FrameMap = v.InferOutput<typeof frameMapSchema>;
export type ReadingDef = FrameMap['readings'][number];

/**
 * Reads a frame map; refuses one whose readings share a name, lie outside the frame, or are fields or have an address where
 * the map has none.
 */
export function parseFrameMap(input: unknown): Parsed<FrameMap> {
  return parseDocument(frameMapSchema, input, (map) => {
    if (map.address && 'field' in map.address && !map.fields)
      return ['address: it is a field, and the map says of none how they are separated'];
    const longest = map.framing.kind === 'fixed' ? map.framing.length : map.framing.maxLength;
    const seen = new Set<string>();
    return map.readings.flatMap((r) => {
      const problems: string[] = [];
      if (seen.has(r.name)) problems.push(`readings: "${r.name}" is there twice`);
      if (r.field === undefined && r.length === 0)
        problems.push(`readings: "${r.name}" has neither bytes nor a field`);
      if ([r, ...(r.more ?? [])].some((at) => at.offset + at.length > longest))
        problems.push(`readings: "${r.name}" lies outside a frame of ${longest} bytes`);
      if (r.field !== undefined && !map.fields)
        problems.push(`readings: "${r.name}" is a field, and the map says of none how they are separated`);
      if (typeof r.field === 'string' && !map.fields?.assign)
        problems.push(`readings: "${r.name}" is found by a name, and the map says of none where it ends`);
      if (r.address !== undefined && !map.address)
        problems.push(`readings: "${r.name}" has an address, and the map says of none where it stands`);
      seen.add(r.name);
      return problems;
    });
  });
}

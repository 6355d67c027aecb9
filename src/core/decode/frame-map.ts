import { byProperty, byWord, Each, One, Strict } from '../document/check.ts';
import { readDocument } from '../document/upgrade.ts';
import {
  Count,
  Form,
  Is,
  isText,
  isWhole,
  Key,
  ListOf,
  Maybe,
  Must,
  Name,
  OneOf,
  Text,
  Whole,
  YesNo,
} from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import { sharedIds } from './reading-id.ts';

const AreBytes = () => ListOf((v) => isWhole(v, 0, 255), 'must be bytes, 0 to 255');
const Place = () => Whole(0, 4095);
/** A place that counts from the frame's end where it is negative. */
const FromEnd = () => Whole(-4096, 4095);

class Delimited {
  @Is('delimited') kind!: 'delimited';
  /** None where lines only end. */
  @Count(0, 8) @AreBytes() start!: number[];
  @Count(1, 8) @AreBytes() end!: number[];
  /** The longest whole frame in bytes; a start without an end within it is garbage. */
  @Whole(2, 4096) maxLength!: number;
  /** The shortest: an end before it is a byte like any other. */
  @Maybe() @Whole(2, 4096) minLength?: number;
}
class Fixed {
  @Is('fixed') kind!: 'fixed';
  @Count(0, 8) @AreBytes() start: number[] = [];
  @Whole(1, 4096) length!: number;
}
type Framing = Delimited | Fixed;
const FRAMING = byWord<Framing>('kind', { delimited: Delimited, fixed: Fixed });

class Crc {
  @Whole(0, 65535) poly!: number;
  @Whole(0, 65535) init!: number;
  @YesNo() reflect!: boolean;
  @Whole(0, 65535) xorOut!: number;
}
class NoCheck {
  @Is('none') kind!: 'none';
}
/** Places are byte offsets from the frame's first byte; a negative one counts from its end. */
class Sum {
  @OneOf('xor', 'sum8', 'crc16') kind!: 'xor' | 'sum8' | 'crc16';
  /** The bytes covered: `from` included, `to` not. */
  @FromEnd() from!: number;
  @FromEnd() to!: number;
  /** Where the check stands. */
  @FromEnd() at!: number;
  /** As bytes (big end first), or as upper- or lower-case hexadecimal text. */
  @OneOf('bytes', 'hex') as!: 'bytes' | 'hex';
  @Maybe() @One(() => Crc) crc?: Crc;
}
type Check = NoCheck | Sum;
const CHECK = byWord<Check>('kind', { none: NoCheck, xor: Sum, sum8: Sum, crc16: Sum });

class Further {
  @Place() offset!: number;
  @Whole(1, 256) length!: number;
}

class ReadingBase {
  /** What links know it by, though it be renamed; its name where nothing is said. */
  @Maybe() @Name() id?: string;
  @Name() name!: string;
  /** Where its bytes stand; of a reading that is a field (`field`) both are left out. */
  @Place() offset = 0;
  @Whole(0, 256) length = 0;
  /** Further places, whose characters follow in this order. */
  @Maybe() @Count(0, 8) @Each(() => Further) more?: Further[];
  /** The field that it is, in frames that are cut into fields: its place, from 1, or its name. */
  @Maybe()
  @Must('field', (v) => isWhole(v, 1, 400) || isText(v, 80), 'is neither a place, from 1 to 400, nor a name')
  field?: number | string;
  /** The address of the messages that carry it; it is read out of no others. */
  @Maybe() @Text(1, 64) address?: string;
  /** Its characters stand last first. */
  @Maybe() @YesNo() reversed?: boolean;
  /** Of packed decimal (`bcd`): each byte holds one digit, in its lower half. */
  @Maybe() @YesNo() unpacked?: boolean;
  /** What spaces mean: `blank` is a blank value, `zero` the number 0, `keep` no word at all: the last value stands. */
  @OneOf('blank', 'zero', 'keep') blank: 'blank' | 'zero' | 'keep' = 'blank';
}

const PAGES = ['utf-8', 'windows-1252', 'iso-8859-2', 'windows-1251', 'ibm866'] as const;
/** `page` is the code page of its bytes; plain ASCII where none is said. */
class TextReading extends ReadingBase {
  @Is('text') kind!: 'text';
  @Maybe() @OneOf(...PAGES) page?: (typeof PAGES)[number];
}
class IntegerReading extends ReadingBase {
  @Is('integer') kind!: 'integer';
}
/**
 * `digits`: without a colon, the last two are seconds (1234 is 12:34); `bcd`: the same, two digits a byte; `bytes`: a byte
 * each for hours, minutes and seconds, as far as there are bytes.
 */
class ClockReading extends ReadingBase {
  @Is('clock') kind!: 'clock';
  @Maybe() @OneOf('digits', 'bcd', 'bytes') written?: 'digits' | 'bcd' | 'bytes';
  /** The last digit, or of `bytes` the last byte, is tenths. */
  @Maybe() @YesNo() tenths?: boolean;
}
/** Packed decimal: two digits a byte, a nibble above 9 is a blank. */
class BcdReading extends ReadingBase {
  @Is('bcd') kind!: 'bcd';
}
/** A whole number in 1 to 4 bytes, two's complement where it is signed. */
class BinaryReading extends ReadingBase {
  @Is('binary') kind!: 'binary';
  @Whole(0, 4) declare length: number;
  @YesNo() signed = false;
  @YesNo() littleEnd = false;
}
/** One bit of a byte, 0 the lowest: yes where it is set. */
class BitReading extends ReadingBase {
  @Is('bit') kind!: 'bit';
  @Whole(0, 1) declare length: number;
  @Whole(0, 7) bit!: number;
}
class FlagReading extends ReadingBase {
  @Is('flag') kind!: 'flag';
  @Text(1, 256) on!: string;
  @Maybe() @Text(0, 256) off?: string;
}
export type ReadingDef =
  | TextReading
  | IntegerReading
  | ClockReading
  | BcdReading
  | BinaryReading
  | BitReading
  | FlagReading;
const READING = byWord<ReadingDef>('kind', {
  text: TextReading,
  integer: IntegerReading,
  clock: ClockReading,
  bcd: BcdReading,
  binary: BinaryReading,
  bit: BitReading,
  flag: FlagReading,
});

/** How a frame is cut into fields, for readings that are one. `assign` stands between a field's name and its value. */
class Fields {
  @Count(1, 4) @AreBytes() separator!: number[];
  @Maybe() @Count(1, 4) @AreBytes() assign?: number[];
}

@Strict
class AddressBytes {
  @Place() offset!: number;
  @Whole(1, 32) length!: number;
}
@Strict
class AddressField {
  @Whole(1, 400) field!: number;
}
type Address = AddressBytes | AddressField;
const ADDRESS = byProperty<Address>(
  { field: AddressField, offset: AddressBytes },
  'says neither bytes nor a field',
);

/** The description of a controller's byte frames: how one starts and ends, its check, its readings. */
export class FrameMap {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @Name() name!: string;
  @One(() => FRAMING) framing!: Framing;
  @One(() => CHECK) check!: Check;
  @Maybe() @One(() => Fields) fields?: Fields;
  /** Where each message says what it speaks of: bytes, or the field at a place. */
  @Maybe() @One(() => ADDRESS) address?: Address;
  /** None while only the cut is known. */
  @Count(0, 400) @Each(() => READING) readings!: ReadingDef[];
  /** A frame that was captured, as hexadecimal digits: what every reading is shown against when nothing is live. */
  @Maybe() @Form(/^([0-9a-f]{2})*$/, 'is not hexadecimal', 8192) sample?: string;
}

/**
 * Reads a frame map; refuses one whose readings share a name, lie outside the frame, or are fields or have an address where
 * the map has none.
 */
export function parseFrameMap(input: unknown): Parsed<FrameMap> {
  return readDocument(FrameMap, [], input, (map) => {
    if (map.address && 'field' in map.address && !map.fields)
      return ['address: it is a field, and the map says of none how they are separated'];
    const longest = map.framing.kind === 'fixed' ? map.framing.length : map.framing.maxLength;
    const seen = new Set<string>();
    const wrong = map.readings.flatMap((r) => {
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
    return [...wrong, ...sharedIds(map.readings)];
  });
}

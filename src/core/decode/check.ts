/** A CRC-16 by its catalogue parameters (the model of R. N. Williams, "A Painless Guide to CRC", 1993). */
export interface Crc16 {
  poly: number;
  init: number;
  reflect: boolean;
  xorOut: number;
}

/** CRC-16/IBM-3740, widely called CCITT-FALSE; its check value over "123456789" is 0x29B1. */
export const CRC16_DEFAULT: Crc16 = { poly: 0x1021, init: 0xffff, reflect: false, xorOut: 0 };

/** Exclusive-or of bytes `from` (inclusive) to `to` (exclusive), 0 to 255. */
export function xor8(bytes: Uint8Array, from = 0, to = bytes.length): number {
  let x = 0;
  for (let i = from; i < to; i++) x ^= bytes[i]!;
  return x;
}

/** Sum modulo 256 of bytes `from` (inclusive) to `to` (exclusive), 0 to 255. */
export function sum8(bytes: Uint8Array, from = 0, to = bytes.length): number {
  let s = 0;
  for (let i = from; i < to; i++) s += bytes[i]!;
  return s & 0xff;
}

/** The lowest `bits` bits of a value in reverse order. */
export function reflected(value: number, bits: number): number {
  let out = 0;
  for (let i = 0; i < bits; i++) if (value & (1 << i)) out |= 1 << (bits - 1 - i);
  return out;
}

const tables = new Map<string, Uint16Array>();

/** What each byte does to a register of zeros, lowest bit first where the CRC is reflected. Made once for each kind. */
export function crcTable({ poly, reflect }: Crc16): Uint16Array {
  const key = `${poly} ${reflect}`;
  let table = tables.get(key);
  if (table) return table;
  table = new Uint16Array(256);
  const turned = reflected(poly, 16);
  for (let byte = 0; byte < 256; byte++) {
    let r = reflect ? byte : byte << 8;
    for (let b = 0; b < 8; b++)
      r = reflect
        ? r & 1
          ? (r >> 1) ^ turned
          : r >> 1
        : r & 0x8000
          ? ((r << 1) ^ poly) & 0xffff
          : (r << 1) & 0xffff;
    table[byte] = r;
  }
  tables.set(key, table);
  return table;
}

/** The register after one byte more. */
export function crcStep(register: number, byte: number, table: Uint16Array, reflect: boolean): number {
  return reflect
    ? (register >> 8) ^ table[(register ^ byte) & 0xff]!
    : ((register << 8) & 0xffff) ^ table[((register >> 8) ^ byte) & 0xff]!;
}

/** CRC-16 of bytes `from` (inclusive) to `to` (exclusive), 0 to 65535, by the parameters given. */
export function crc16(bytes: Uint8Array, from = 0, to = bytes.length, crc: Crc16 = CRC16_DEFAULT): number {
  const table = crcTable(crc);
  let r = crc.reflect ? reflected(crc.init, 16) : crc.init;
  for (let i = from; i < to; i++) r = crcStep(r, bytes[i]!, table, crc.reflect);
  return (r ^ crc.xorOut) & 0xffff;
}

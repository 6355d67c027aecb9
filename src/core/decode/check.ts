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

function reflected(value: number, bits: number): number {
  let out = 0;
  for (let i = 0; i < bits; i++) if (value & (1 << i)) out |= 1 << (bits - 1 - i);
  return out;
}

/** CRC-16 of bytes `from` (inclusive) to `to` (exclusive), 0 to 65535, by the parameters given. */
export function crc16(bytes: Uint8Array, from = 0, to = bytes.length, crc: Crc16 = CRC16_DEFAULT): number {
  let r = crc.init;
  for (let i = from; i < to; i++) {
    r ^= (crc.reflect ? reflected(bytes[i]!, 8) : bytes[i]!) << 8;
    for (let b = 0; b < 8; b++) r = r & 0x8000 ? ((r << 1) ^ crc.poly) & 0xffff : (r << 1) & 0xffff;
  }
  return ((crc.reflect ? reflected(r, 16) : r) ^ crc.xorOut) & 0xffff;
}

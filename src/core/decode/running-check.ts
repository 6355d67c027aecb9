import { CRC16_DEFAULT, crcStep, crcTable, reflected, type Crc16 } from './check.ts';
import type { FrameMap } from './frame-map.ts';

type Kind = Exclude<FrameMap['check']['kind'], 'none'>;

/**
 * The check over any stretch of a stream in constant time: what the bytes up to each place come to is kept, so that a
 * stream in which every byte might begin a frame costs no more than one in which few do. A CRC is linear (the residue of a
 * polynomial division), so that of a stretch is that of all up to its end, less what its beginning becomes on the way.
 */
export class RunningCheck {
  /** What bytes 0 to i (not included) come to. */
  private sums = new Uint16Array(1025);
  private readonly table: Uint16Array | null;
  private readonly crc: Crc16;
  /** By how many bytes a register is carried on: column n, bit b holds what bit b becomes after n bytes of zeros. */
  private carried: Uint16Array[] = [];

  constructor(
    private readonly kind: Kind,
    crc: Crc16 | undefined,
  ) {
    this.crc = crc ?? CRC16_DEFAULT;
    this.table = kind === 'crc16' ? crcTable(this.crc) : null;
  }

  /** Takes in the bytes `from` to `to` (not included) of the buffer, after those before. */
  take(buffer: Uint8Array, from: number, to: number): void {
    if (this.sums.length < buffer.length + 1) {
      const roomy = new Uint16Array(buffer.length + 1);
      roomy.set(this.sums);
      this.sums = roomy;
    }
    let sum = this.sums[from]!;
    for (let i = from; i < to; i++) {
      if (this.table) sum = this.step(sum, buffer[i]!);
      else if (this.kind === 'xor') sum ^= buffer[i]!;
      else sum = (sum + buffer[i]!) & 0xff;
      this.sums[i + 1] = sum;
    }
  }

  /** Starts anew with bytes that now stand at the beginning of the buffer. */
  restart(buffer: Uint8Array, length: number): void {
    this.sums[0] = 0;
    this.take(buffer, 0, length);
  }

  /** The check over bytes `from` to `to` (not included), which were taken in. */
  over(from: number, to: number): number {
    const [before, until] = [this.sums[from]!, this.sums[to]!];
    if (this.kind === 'xor') return before ^ until;
    if (this.kind === 'sum8') return (until - before) & 0xff;
    // The stretch began with `init` and not with what stood before it: their difference, carried on to the end.
    const { init, reflect, xorOut } = this.crc;
    const began = reflect ? reflected(init, 16) : init;
    const out = until ^ this.carry(before ^ began, to - from);
    return (out ^ xorOut) & 0xffff;
  }

  private step(register: number, byte: number): number {
    return crcStep(register, byte, this.table!, this.crc.reflect);
  }

  /** What a register becomes after so many bytes of zeros. */
  private carry(register: number, bytes: number): number {
    while (this.carried.length <= bytes) {
      const last = this.carried.at(-1);
      const next = new Uint16Array(16);
      for (let bit = 0; bit < 16; bit++) next[bit] = last ? this.step(last[bit]!, 0) : 1 << bit;
      this.carried.push(next);
    }
    const column = this.carried[bytes]!;
    let out = 0;
    for (let bit = 0; bit < 16; bit++) if (register & (1 << bit)) out ^= column[bit]!;
    return out;
  }
}

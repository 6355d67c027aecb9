import { statfs } from 'node:fs/promises';
import { DiskFull } from './trouble.ts';

/** How often is looked, in ms: so long at most after there is room again things are written again. */
const EVERY = 1000;
/** Less room than this counts as none, in bytes: the database takes it a few MB at a time, and one that finds none breaks down. */
export const LEAST = 16e6;
/** How much of the disk a byte that is kept takes in the database, at most. */
const GROWS = 2;

/** How much room the disk of the data folder has, in bytes; null where it cannot be told. */
const bytesFree = (folder: string): Promise<number | null> =>
  statfs(folder).then(
    ({ bavail, bsize }) => bavail * bsize,
    () => null,
  );

/** Whether there is room to write: nothing is given to the database for which there is none. */
export class DiskRoom {
  private timer: NodeJS.Timeout | null = null;
  private bytes: number | null = null;
  /** Told when there is no room any more, and when there is again. */
  onFull: (full: boolean) => void = () => {};

  /** `free` tells how much room there is, in bytes; null where that is not known, and then it is tried. */
  constructor(
    folder: string,
    private readonly free: () => Promise<number | null> = () => bytesFree(folder),
  ) {}

  async start(): Promise<void> {
    await this.look();
    this.timer = setInterval(() => void this.look(), EVERY);
    this.timer.unref();
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** How much room there was at the last look, in bytes; null where it is not known. */
  get left(): number | null {
    return this.bytes;
  }

  get full(): boolean {
    return !this.has(0);
  }

  async look(): Promise<void> {
    const { full } = this;
    this.bytes = await this.free();
    if (this.full !== full) this.onFull(this.full);
  }

  private has = (bytes: number) => this.bytes === null || this.bytes >= LEAST + bytes * GROWS;

  /** Throws DiskFull where there is no room for so many bytes more. */
  needs(bytes = 0): void {
    if (!this.has(bytes)) throw new DiskFull(`${this.bytes} bytes are free`);
  }
}

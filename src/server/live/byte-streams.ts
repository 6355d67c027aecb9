import type { Scheduler, Timer } from '../scheduler.ts';
import type { Hub } from './hub.ts';

/** Bytes go to whoever looks at them in batches, this often, in ms. */
const EVERY = 50;

/** As many pieces of a batch are sent at most. */
const MOST = 200;

/** The name of the stream that carries a source's bytes as they come. */
const nameOf = (key: string) => `bytes:${key}`;
const hexOf = (parts: readonly Uint8Array[]) => Buffer.concat(parts).toString('hex');

/** Sends what sources say, as bytes, to the pages that look at them. */
export class ByteStreams {
  private readonly unsent = new Map<string, Uint8Array[]>();
  private readonly timer: Timer;

  constructor(
    private readonly hub: Hub,
    private readonly scheduler: Scheduler,
  ) {
    this.timer = scheduler.setInterval(() => this.send(), EVERY);
  }

  /** Opens a source's stream; `tail` gives its newest bytes to whoever begins to look. */
  open(key: string, tail: () => Uint8Array): void {
    this.hub.open(nameOf(key), () => ({ hex: hexOf([tail()]) }));
  }

  shut(key: string): void {
    this.hub.shut(nameOf(key));
  }

  push(key: string, bytes: Uint8Array): void {
    const parts = this.unsent.get(key);
    if (parts) parts.push(bytes);
    else this.unsent.set(key, [bytes]);
  }

  close(): void {
    this.scheduler.clear(this.timer);
  }

  private send(): void {
    // A jump in a tape says more at once than anybody can look at: its newest is enough.
    for (const [key, parts] of this.unsent)
      this.hub.publish(nameOf(key), [{ hex: hexOf(parts.slice(-MOST)) }]);
    this.unsent.clear();
  }
}

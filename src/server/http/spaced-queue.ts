/** So long after one piece the next begins, in ms: what it leaves to other threads, such as packing, has its time too. */
const APART = 4;

/** Does work piece by piece with time between, in the order in which it came: hundreds that come at once hold nobody else up. */
export class SpacedQueue {
  private readonly waiting: (() => void)[] = [];

  /** How many pieces wait. */
  get length(): number {
    return this.waiting.length;
  }

  do(work: () => void): void {
    if (this.waiting.push(work) === 1) setTimeout(this.next, APART);
  }

  private readonly next = (): void => {
    const [work] = this.waiting;
    try {
      work?.();
    } finally {
      this.waiting.shift();
      if (this.waiting.length) setTimeout(this.next, APART);
    }
  };
}

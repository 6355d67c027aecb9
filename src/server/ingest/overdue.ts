import type { Scheduler, Timer } from '../scheduler.ts';

/**
 * What waits on the outside has an end in its own words: a fetch its time, a line its connection. Where one of those ends is
 * forgotten, by us or by a package, the source would be dead without a word: this gives it up, and it is begun again.
 */
export class Overdue {
  private timer: Timer | null = null;

  constructor(private readonly scheduler: Scheduler) {}

  /** From now on what is begun may take so many ms; then `giveUp` is done, unless it ended. */
  begin(ms: number, giveUp: () => void): void {
    this.end();
    this.timer = this.scheduler.setTimeout(() => {
      this.timer = null;
      giveUp();
    }, ms);
  }

  end(): void {
    this.scheduler.clear(this.timer);
    this.timer = null;
  }
}

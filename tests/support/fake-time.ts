import { createClock } from '@sinonjs/fake-timers';
import type { Scheduler, Timer } from '../../src/server/scheduler.ts';

/** A time that stands still until a test moves it; whatever is due meanwhile is done, in its order. */
export class FakeTime implements Scheduler {
  private readonly clock;

  /** Begins at server time `at`, ms. */
  constructor(at = 1_700_000_000_000) {
    this.clock = createClock(at, 10_000);
  }

  now = (): number => this.clock.now;
  setTimeout = (work: () => void, ms: number): Timer => this.clock.setTimeout(work, ms) as number;
  setInterval = (work: () => void, ms: number): Timer => this.clock.setInterval(work, ms) as number;
  clear = (timer: Timer | null | undefined): void => {
    if (timer !== null && timer !== undefined) this.clock.clearTimeout(timer as number);
  };

  /** Lets so many ms pass, and what waits for promises meanwhile go on. */
  pass = async (ms: number): Promise<void> => void (await this.clock.tickAsync(ms));

  /** Lets time pass, little by little, until an expectation holds; what it says is thrown once `most` ms have passed. */
  until = async (expectation: () => void, most = 60_000, step = 10): Promise<void> => {
    for (let passed = 0; ; passed += step) {
      try {
        return expectation();
      } catch (error) {
        if (passed >= most) throw error;
        await this.pass(step);
      }
    }
  };

  /** How many timers are set. */
  get waiting(): number {
    return this.clock.countTimers();
  }
}

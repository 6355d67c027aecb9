/** A timer that was set. Only what set it ends it. */
export type Timer = NodeJS.Timeout | number;

/**
 * Time as the engine has it: what it is, and waiting. It is handed to all that waits, so that a test holds it in its hand. What guards
 * the machine itself (an answer of the database, a thread that hangs, a line of the network) keeps to the machine's own timers.
 */
export interface Scheduler {
  /** Server time now, ms since the epoch, with parts of a millisecond and never stepping back. */
  now(): number;
  /** Does work once, after `ms`. */
  setTimeout(work: () => void, ms: number): Timer;
  /** Does work again and again, every `ms`, until it is ended. */
  setInterval(work: () => void, ms: number): Timer;
  /** Ends a timer of either kind; one that is over, or none, is ended already. */
  clear(timer: Timer | null | undefined): void;
}

/** The machine's own time. */
export const machineTime: Scheduler = {
  now: () => performance.timeOrigin + performance.now(),
  setTimeout: (work, ms) => setTimeout(work, ms),
  setInterval: (work, ms) => setInterval(work, ms),
  clear: (timer) => clearTimeout(timer ?? undefined),
};

/** Done after so many ms. */
export const waiting = (scheduler: Scheduler, ms: number): Promise<void> =>
  new Promise((done) => scheduler.setTimeout(done, ms));

/** Times of the show are whole eighths of a millisecond, so that they add up exactly in binary floating point. */
export const eighth = (ms: number) => Math.round(ms * 8) / 8;

/** How fast a tape may run. */
export const SPEEDS = [0.25, 0.5, 1, 2, 5, 10, 20] as const;

/** A stretch of time that runs at a speed of its own: at `from` (real ms) it was `at`; 0 stands still. */
export interface Stretch {
  from: number;
  at: number;
  speed: number;
}

/** The time of the show at the real moment `now`, ms: the real time itself where it is not stretched. */
export function showTime(stretch: Stretch | null, now: number): number {
  return stretch ? stretch.at + (now - stretch.from) * stretch.speed : now;
}

/**
 * The one time that Foothill runs on: the real one, and in a rehearsal one that runs at the tape's speed and stands
 * when it is paused. Clocks, silence and rotations follow it, so they all agree at any speed.
 */
export class ShowTime {
  stretch: Stretch | null = null;

  constructor(private readonly real: () => number) {}

  /** Now, in whole eighths of a millisecond. */
  readonly now = (): number => eighth(showTime(this.stretch, this.real()));

  /** From now on it runs at this speed; it goes on from where it is. */
  run(speed: number): void {
    this.stretch = { from: this.real(), at: this.now(), speed };
  }

  /** From now on it is the real time again. */
  end(): void {
    this.stretch = null;
  }
}

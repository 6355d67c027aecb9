import type { ClockState } from '../board/values.ts';

/** What a controller said of a clock: the time it showed, and the step of its last digit, both in ms. */
export interface ClockReading {
  ms: number;
  step: 1000 | 100;
}

/** How a clock's digits are written. */
export interface ClockForm {
  /** `m:ss` writes 0:34 below a minute, `s` writes 34. */
  form?: 'm:ss' | 's';
  /** Below this many ms the clock is written with tenths (34.5). 0, the default, never. */
  tenthsBelow?: number;
}

/** How far a reading may stray from a running clock within one second before the clock is set anew, in ms. */
const DRIFT = 120;

/**
 * The time a clock shows at `now` (server ms), in ms. It never passes zero, never passes the second that its
 * source last confirmed (`until`), and never runs ahead of its anchor when `now` lies before it.
 */
export function clockAt(clock: ClockState, now: number): number {
  if (!clock.running) return Math.max(0, clock.value);
  const elapsed = Math.max(0, now - clock.anchor);
  return clock.direction === 'down'
    ? Math.max(0, clock.until, clock.value - elapsed)
    : Math.max(0, Math.min(clock.until, clock.value + elapsed));
}

/**
 * For how long, in ms from `now`, a clock shows what it shows, whatever its form: until its next tenth. Infinity where it stands,
 * or has come to the second that its source confirmed.
 */
export function clockUnchangedFor(clock: ClockState, now: number): number {
  if (!clock.running) return Infinity;
  const ms = clockAt(clock, now);
  const down = clock.direction === 'down';
  if (down ? ms <= Math.max(0, clock.until) : ms >= clock.until) return Infinity;
  // Going down, the next tenth is seen when this one is gone through; a whole tenth is still itself. Going up, a part of a ms is
  // waited for whole: of what is as good as a tenth the sum may fall short.
  return Math.max(0, clock.anchor - now) + (down ? (ms % 100) + 1 : Math.ceil(100 - (ms % 100)));
}

/**
 * The digits of a clock at `ms`. Parts of a step are cut off, never rounded: 34.59 s reads 34.5, as on a
 * scoreboard. Below zero reads as zero.
 */
export function clockText(ms: number, { form = 'm:ss', tenthsBelow = 0 }: ClockForm = {}): string {
  const tenths = Math.floor(Math.max(0, ms) / 100);
  const seconds = Math.floor(tenths / 10);
  if (tenths * 100 < tenthsBelow && seconds < 60) return `${seconds}.${tenths % 10}`;
  if (form === 's') return String(seconds);
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
}

/** Reads `12:34`, `:34`, `34.5` or `34` (spaces around and within allowed); anything else gives null. */
export function parseClock(text: string): ClockReading | null {
  const t = text.replace(/\s+/g, '');
  const minutes = /^(\d{0,3}):([0-5]\d)(?:\.(\d))?$/.exec(t);
  const seconds = minutes ? null : /^(\d{1,3})(?:\.(\d))?$/.exec(t);
  if (!minutes && !seconds) return null;
  const [m, s, tenth] = minutes
    ? [minutes[1] || '0', minutes[2], minutes[3]]
    : ['0', seconds![1], seconds![2]];
  return {
    ms: Number(m) * 60_000 + Number(s) * 1000 + Number(tenth ?? 0) * 100,
    step: tenth === undefined ? 1000 : 100,
  };
}

/** A stopped clock that shows exactly `ms`. */
export function stoppedClock(ms: number, direction: ClockState['direction'], now: number): ClockState {
  return { value: ms, running: false, direction, anchor: now, until: ms };
}

/**
 * The clock after its source said `reading` at `now`.
 *
 * A running clock is let go only to the end of the second that the source confirmed, so a page never shows a
 * second that the source has not reached, never shows one twice, and a stop is exact. While readings agree
 * with the running clock, the very same object comes back: no change, nothing to send. So a clock costs one
 * change a second, whatever the rate of its frames.
 *
 * A reading stands for all times that show its digits; going down, 34.5 was 34.599 a moment ago, so the
 * upper end is taken, which keeps the page in step with the frames instead of ahead of them.
 */
export function followClock(
  previous: ClockState | null,
  reading: ClockReading,
  running: boolean,
  direction: ClockState['direction'],
  now: number,
): ClockState {
  const down = direction === 'down';
  if (!running || (down && reading.ms === 0)) {
    const still =
      previous && !previous.running && previous.value === reading.ms && previous.direction === direction;
    return still ? previous : stoppedClock(reading.ms, direction, now);
  }
  const second = Math.floor(reading.ms / 1000) * 1000;
  const until = down ? second : second + 999;
  const value = down ? reading.ms + reading.step - 1 : reading.ms;
  if (previous?.running && previous.direction === direction && previous.until === until) {
    const shown = clockAt(previous, now);
    const low = reading.ms - DRIFT;
    const high = reading.ms + reading.step - 1 + DRIFT;
    if (reading.step === 1000 || (shown >= low && shown <= high)) return previous;
  }
  return { value, running: true, direction, anchor: now, until };
}

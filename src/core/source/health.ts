/** What a source's lamp says. `off`: it is not to be listened to. */
export type Health = 'live' | 'late' | 'lost' | 'off';

/** After how long without a word a source is late, and lost, in ms. */
export interface Limits {
  late: number;
  lost: number;
}

/**
 * What silence is judged by: `time`, the limits as they stand; `beat`, what the device itself is used to, and never sooner
 * than the limits; `none`, not at all: it is live as long as its line stands.
 */
export type SilenceBy = 'time' | 'beat' | 'none';

/** A source's health at `now` from when it last spoke (null: never). Times are server ms. */
export function healthOf(lastWord: number | null, now: number, limits: Limits): Health {
  if (lastWord === null) return 'lost';
  const silence = now - lastWord;
  if (silence > limits.lost) return 'lost';
  return silence > limits.late ? 'late' : 'live';
}

/** How a source is, as far as it is said in a word. */
interface Reached {
  health: Health;
  connected: boolean;
  /** Of feeds and files: when their content last changed, server ms; null for never. */
  changedAt?: number | null | undefined;
}

/** What is said of a source in a word: its health, or that it cannot be reached though its last word still counts. */
export function healthWord(source: Reached): Health | 'no connection' | 'no answer' {
  if (source.health !== 'live' || source.connected) return source.health;
  return source.changedAt === undefined ? 'no connection' : 'no answer';
}

/** What its lamp shows: one that cannot be reached is no live one, though its last word still counts. */
export const lampOf = (source: Reached): Health =>
  healthWord(source) === source.health ? source.health : 'late';

/** How long to wait before the n-th try to connect again (n from 0), in ms: 250, doubling, at most 3 s. */
export function retryWait(n: number): number {
  return Math.min(3000, 250 * 2 ** Math.min(n, 10));
}

/** How many gaps between words make a beat, and how many of the newest count. */
const GAPS_NEEDED = 5;
const GAPS_KEPT = 60;

/** A device's own beat: how long it is used to be silent between two words. */
export class Heartbeat {
  private gaps: number[] = [];
  private last: number | null = null;

  /** It spoke at `at` (server ms). */
  note(at: number): void {
    if (this.last !== null && at > this.last) {
      this.gaps.push(at - this.last);
      if (this.gaps.length > GAPS_KEPT) this.gaps.shift();
    }
    this.last = at;
  }

  /**
   * When it is late and lost by its beat, in ms: after two and a half, and five, of its longest usual gap, and never before
   * `least`. The longest of all may have been an outage; the second longest is usual. Null while too little was heard to know.
   */
  limits(least: Limits): Limits | null {
    if (this.gaps.length < GAPS_NEEDED) return null;
    const usual = this.gaps.toSorted((a, b) => b - a)[1]!;
    return { late: Math.max(least.late, usual * 2.5), lost: Math.max(least.lost, usual * 5) };
  }
}

/**
 * A line's health where silence is judged by something else than its limits alone. While the line is down its limits count,
 * whatever silence is judged by.
 */
export function lineHealth(
  line: { lastWord: number | null; connected: boolean; beat: Heartbeat },
  now: number,
  limits: Limits & { by?: SilenceBy | undefined },
): Health {
  const { lastWord, connected, beat } = line;
  if (lastWord === null || !connected || !limits.by || limits.by === 'time')
    return healthOf(lastWord, now, limits);
  const own = limits.by === 'beat' ? beat.limits(limits) : null;
  return own ? healthOf(lastWord, now, own) : 'live';
}

/** What a source's lamp says. `off`: it is not to be listened to. */
export type Health = 'live' | 'late' | 'lost' | 'off';

/** After how long without a word a source is late, and lost, in ms. */
export interface Limits {
  late: number;
  lost: number;
}

/** A source's health at `now` from when it last spoke (null: never). Times are server ms. */
export function healthOf(lastWord: number | null, now: number, limits: Limits): Health {
  if (lastWord === null) return 'lost';
  const silence = now - lastWord;
  if (silence > limits.lost) return 'lost';
  return silence > limits.late ? 'late' : 'live';
}

/** How long to wait before the n-th try to connect again (n from 0), in ms: 250, doubling, at most 3 s. */
export function retryWait(n: number): number {
  return Math.min(3000, 250 * 2 ** Math.min(n, 10));
}

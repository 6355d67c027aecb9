import { useCallback, useEffect, useState, useSyncExternalStore } from 'react';

/** How long ago, in few letters: 3 s, 4 min, 2 h. */
export function ageText(ms: number): string {
  const s = Math.max(0, Math.floor(ms / 1000));
  if (s < 60) return `${s} s`;
  return s < 3600 ? `${Math.floor(s / 60)} min` : `${Math.floor(s / 3600)} h`;
}

/** A server time as the clock on the wall has it: 19:42. */
export const clockTime = (at: number): string =>
  new Date(at).toLocaleTimeString(undefined, { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });

/**
 * The time by `now`, for what is drawn again once a second. It is that of the drawing: what came in between is not from the
 * future, nor as old as at the second before.
 */
export function useSeconds(now: () => number): number {
  const [, tick] = useState(0);
  useEffect(() => eachSecond(() => tick((n) => n + 1)), []);
  return now();
}

const looks = new Set<() => void>();
let ticking: ReturnType<typeof setInterval> | undefined;

/** All look in the same moment, so that what they change is drawn at once: a view has a hundred of them. */
function eachSecond(look: () => void): () => void {
  looks.add(look);
  ticking ??= setInterval(() => looks.forEach((each) => each()), 1000);
  return () => {
    looks.delete(look);
    if (looks.size > 0) return;
    clearInterval(ticking);
    ticking = undefined;
  };
}

/** How long ago something was, in few letters; empty for never. Who shows it is drawn again when the letters are others. */
export function useAge(now: () => number, at: number | null): string {
  const text = useCallback(() => (at ? ageText(now() - at) : ''), [now, at]);
  return useSyncExternalStore(eachSecond, text);
}

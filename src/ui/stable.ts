import { useCallback, useLayoutEffect, useMemo, useRef } from 'react';

/**
 * The same function for as long as the component stands, which does what was given last: so that what is costly to draw is not
 * drawn again because the function that it was handed was made anew.
 */
export function useStable<A extends unknown[], R = void>(run: (...args: A) => R): (...args: A) => R {
  const latest = useRef(run);
  useLayoutEffect(() => {
    latest.current = run;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}

/** The value that was given before, for as long as the new one says the same. */
export function useSame<T>(value: T): T {
  // oxlint-disable-next-line react/exhaustive-deps -- what it says is all that counts
  return useMemo(() => value, [JSON.stringify(value)]);
}

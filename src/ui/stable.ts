import { useCallback, useLayoutEffect, useRef } from 'react';

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

import { useEffect, useState } from 'react';

/**
 * A module that the first view does without: null until it is here. `load` must be one function for good, such as
 * `() => import('…')` outside of components.
 */
export function useLoaded<M>(load: () => Promise<M>): M | null {
  const [loaded, setLoaded] = useState<M | null>(null);
  useEffect(() => {
    let gone = false;
    const tries = (left: number): Promise<void> =>
      load().then(
        (module) => void (gone || setLoaded(() => module)),
        // A line that breaks off is tried again; a module that failed once is asked for anew by the page.
        () =>
          new Promise((again) => setTimeout(again, 1000)).then(() => (left ? tries(left - 1) : undefined)),
      );
    void tries(5);
    return () => {
      gone = true;
    };
  }, [load]);
  return loaded;
}

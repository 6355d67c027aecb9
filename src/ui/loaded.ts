import { useEffect, useState } from 'react';

/** What is here already: whoever asks for it again has it at once. */
const here = new WeakMap<() => Promise<unknown>, unknown>();

/**
 * A module that the first view does without: null until it is here. `load` must be one function for good, such as
 * `() => import('…')` outside of components.
 */
export function useLoaded<M>(load: () => Promise<M>): M | null {
  const [loaded, setLoaded] = useState<M | null>(() => (here.get(load) as M | undefined) ?? null);
  useEffect(() => {
    let gone = false;
    const tries = (left: number): Promise<void> =>
      load().then(
        (module) => {
          here.set(load, module);
          if (!gone) setLoaded(() => module);
        },
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

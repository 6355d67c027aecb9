import { useEffect, useState } from 'react';

/** By then the first view stands, also on a slow line. */
export const firstView = new Promise<void>((done) => setTimeout(done, 2500));

/** What is here already: whoever asks for it again has it at once. */
const here = new WeakMap<() => Promise<unknown>, unknown>();

/** Fetches a module before it is asked for; should that fail, it is fetched when it is. */
export async function fetchAhead(load: () => Promise<unknown>): Promise<void> {
  await load().then(
    (module) => here.set(load, module),
    () => {},
  );
}

/**
 * A module that the first view does without, and what went wrong when it cannot be had. `load` must be one function for good,
 * such as `() => import('…')` outside of components.
 */
export function useLoading<M>(load: () => Promise<M>): { here: M | null; wrong: Error | null } {
  const [state, setState] = useState<{ here: M | null; wrong: Error | null }>(() => ({
    here: (here.get(load) as M | undefined) ?? null,
    wrong: null,
  }));
  const has = state.here !== null;
  useEffect(() => {
    if (has) return;
    let gone = false;
    const tries = (left: number): Promise<void> =>
      load().then(
        (module) => {
          here.set(load, module);
          if (!gone) setState({ here: module, wrong: null });
        },
        // A line that breaks off is tried again; a module that failed once is asked for anew by the page.
        async (error: Error) => {
          await new Promise((again) => setTimeout(again, 1000));
          if (gone) return;
          if (left) return tries(left - 1);
          setState({ here: null, wrong: error });
        },
      );
    void tries(5);
    return () => {
      gone = true;
    };
  }, [load, has]);
  return state;
}

/** A module that the first view does without: null until it is here. `load` as for `useLoading`. */
export const useLoaded = <M>(load: () => Promise<M>): M | null => useLoading(load).here;

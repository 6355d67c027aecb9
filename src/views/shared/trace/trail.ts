import { useState } from 'react';
import type { Traced } from '../../../core/trace/traced.ts';
import type { Desk } from '../desk.ts';

/** What is traced on a page, and the way that led there. */
export interface Trail {
  at: Traced | null;
  /** Starts anew from one thing. */
  start: (of: Traced) => void;
  /** Goes on to what it is made of. */
  go: (of: Traced) => void;
  /** The step before; null at the start. */
  back: (() => void) | null;
  close: () => void;
}

/** Follows traces on a page's desk, from one thing to what it is made of and back. */
export function useTrail(desk: Desk): Trail {
  const [way, setWay] = useState<Traced[]>([]);
  const to = (next: Traced[]) => {
    setWay(next);
    desk.watch(next.at(-1) ?? null);
  };
  return {
    at: way.at(-1) ?? null,
    start: (of) => to([of]),
    go: (of) => to([...way, of]),
    back: way.length > 1 ? () => to(way.slice(0, -1)) : null,
    close: () => to([]),
  };
}

import { useCallback, useRef, useState } from 'react';
import { placeKey, type Item, type Place } from '../../core/show/item.ts';
import { laneKey, type Lane } from '../../core/show/show.ts';
import type { Desk } from '../shared/desk.ts';

const PLACE = 'foothill.next';

/**
 * The item that is next in each lane at this desk. Each desk has a choice of its own, which nobody else moves; what was chosen last
 * anywhere is told to all.
 */
export function useChoices(desk: Desk) {
  const [mine, setMine] = useState<Readonly<Record<string, string>>>(() => {
    try {
      return JSON.parse(sessionStorage.getItem(PLACE) ?? '{}') as Record<string, string>;
    } catch {
      return {};
    }
  });
  const first = useRef(new Map<string, string>());
  const note = (places: readonly Place[], item: string) =>
    setMine((was) => {
      const next = { ...was, ...Object.fromEntries(places.map((p) => [placeKey(p), item])) };
      try {
        sessionStorage.setItem(PLACE, JSON.stringify(next));
      } catch {
        // Where nothing can be stored the choice lasts as long as the page.
      }
      return next;
    });
  const of = useCallback(
    (lane: Lane): string | null => {
      const key = laneKey(lane);
      // What stood there when this desk saw it first stays its choice, whatever others put next since.
      if (lane.next !== null && !first.current.has(key)) first.current.set(key, lane.next);
      return mine[key] ?? first.current.get(key) ?? null;
    },
    [mine],
  );
  return {
    of,
    /** It is about to be taken there, and is then what is next at this desk too. */
    note: ({ output, zone }: Lane, item: string) => note([{ output, zone }], item),
    choose: ({ output, zone }: Lane, item: string) => {
      note([{ output, zone }], item);
      void desk.act({ kind: 'next', output, zone, item });
    },
    /** It was put next in all of its lanes. */
    chosen: (item: Item) => note(item.zones, item.key),
  };
}

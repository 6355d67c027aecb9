import { useMemo } from 'react';
import { followingIn } from '../../core/show/rundown.ts';
import { placesIn, type Item } from '../../core/show/item.ts';
import { laneKey, type Lane, type Output, type Zone } from '../../core/show/show.ts';
import { coversAll } from '../../core/show/zones.ts';
import { useRemembered } from '../../ui/remembered.ts';
import type { Desk, Prepared } from '../shared/desk.ts';
import { useDesk } from '../shared/use-desk.ts';
import { orderOf } from '../shared/rundown.ts';
import { useChoices } from './choices.ts';
import { useDraft } from './drafts.ts';

/** A lane as it is shown: with its zone, what goes there, what is next at this desk and what follows by itself. */
export interface SeenLane {
  key: string;
  output: Output;
  zone: Zone;
  lane: Lane;
  items: Item[];
  next: Item | undefined;
  follows: Item | undefined;
  on: Item | undefined;
}

/** The lanes of all outputs in order, the one under the keys, and what is done with one. */
export function useLanes(desk: Desk, snapshot: Prepared | null) {
  const choices = useChoices(desk);
  const [remembered, remember] = useRemembered('lane', '');
  const lanes = useMemo(() => (snapshot ? seenLanes(snapshot, choices.of) : []), [snapshot, choices.of]);
  // Without a choice: the first one in which there is something to choose.
  const under = lanes.find((l) => l.key === remembered) ?? lanes.find((l) => l.items.length > 1) ?? lanes[0];
  const held = useDesk(desk, (s) => s.held !== null);
  const draft = useDraft(desk, under?.next, held);

  /** Changes a queue as it is once all that was asked here before is done: two presses in one moment are two changes. */
  const queue = ({ key, lane }: SeenLane, change: (queue: readonly string[]) => string[]) =>
    void desk.inTurn(async () => {
      const now = desk.store.getState().desk?.lanes.find((l) => laneKey(l) === key)?.queue ?? lane.queue;
      const items = change(now);
      if (items.join('\n') === now.join('\n')) return;
      await desk.act({ kind: 'queue', ...placeOf(lane), items, was: [...now] });
    });
  return {
    lanes,
    under,
    draft,
    select: remember,
    /** The lane so many places below the one under the keys. */
    step: (by: number) => {
      const at = lanes.findIndex((l) => l.key === under?.key);
      const to = lanes[Math.min(lanes.length - 1, Math.max(0, at + by))];
      if (to) remember(to.key);
    },
    /** The item so many places below the one that is next in the lane under the keys. */
    stepItem: (by: number) => {
      if (!under) return;
      const at = under.items.findIndex((i) => i.key === under.next?.key);
      const to = under.items[Math.min(under.items.length - 1, Math.max(0, at + by))];
      if (to && to.key !== under.next?.key) choices.choose(under.lane, to.key);
    },
    choose: ({ lane }: SeenLane, item: string) => choices.choose(lane, item),
    /** An item that is put next in all of its lanes: the first of them is under the keys. */
    chosen: (item: Item) => {
      choices.chosen(item);
      const there = lanes.find((l) => placesIn(item, l.lane));
      if (there && !(under && placesIn(item, under.lane))) remember(there.key);
    },
    take: ({ next }: SeenLane) => {
      if (next) void desk.takeItem(next);
    },
    /** The key of an item: it is taken; one that goes over a whole output is taken off by the same key. */
    hot: (item: Item) => {
      const over = lanes.some((l) => placesIn(item, l.lane) && coversAll(l.output, l.zone));
      const on = lanes.some((l) => l.lane.onAir?.item === item.key);
      if (over && on) void desk.act({ kind: 'clear', item: item.key });
      else void desk.takeItem(item);
    },
    clear: ({ lane }: SeenLane) => void desk.act({ kind: 'clear', ...placeOf(lane) }),
    follow: ({ lane, follows }: SeenLane) => {
      if (follows) {
        choices.note(lane, follows.key);
        void desk.withTyped(follows, { kind: 'take-next', ...placeOf(lane), item: follows.key });
      }
    },
    back: ({ lane }: SeenLane) => void desk.act({ kind: 'back', ...placeOf(lane) }),
    queue,
    /** Adds the item that is next to the end of the queue. */
    enqueue: (seen: SeenLane) => {
      const { next } = seen;
      if (next) queue(seen, (now) => (now.includes(next.key) ? [...now] : [...now, next.key]));
    },
  };
}
export type Lanes = ReturnType<typeof useLanes>;

const placeOf = ({ output, zone }: Lane) => ({ output, zone });

function seenLanes(snapshot: Prepared, nextOf: (lane: Lane) => string | null): SeenLane[] {
  const order = orderOf(snapshot);
  const known = new Map(order.map((i) => [i.key, i]));
  const laneAt = new Map(snapshot.lanes.map((l) => [laneKey(l), l]));
  return snapshot.documents.output.flatMap((output) =>
    output.zones.flatMap((zone): SeenLane[] => {
      const key = laneKey({ output: output.key, zone: zone.key });
      const lane = laneAt.get(key);
      if (!lane) return [];
      const items = order.filter((item) => placesIn(item, lane));
      const next = known.get(nextOf(lane) ?? '') ?? items[0];
      const follows = followingIn(lane, order);
      return [{ key, output, zone, lane, items, next, follows, on: known.get(lane.onAir?.item ?? '') }];
    }),
  );
}

import { Each, One } from '../document/check.ts';
import { Count, Maybe, Must, Num, OneOf, OrNull, Text } from '../document/rules.ts';
import type { Scalar } from '../board/values.ts';
import { isInputs } from '../show/item.ts';
import { isStill, laneKey, withOnAir, takenOf, type OnAir, type Taken } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { leadOf } from './air.ts';
import { edit, editsOf, type Change } from './change.ts';
import type { RestoredLane } from './past.ts';
import { ActionRequest } from './request.ts';

class Stands implements Taken {
  @Text(1, 80) item!: string;
  @Num() takenAt!: number;
}
class Stood extends Stands implements OnAir {
  @Text(1, 80) layout!: string;
  @Must('inputs', isInputs, 'must be an object of texts, numbers, true, false or null')
  inputs!: Record<string, Scalar>;
  @Maybe() @Text(1, 64) by?: string;
}
class Restored implements RestoredLane {
  @Text(1, 80) output!: string;
  @Text(1, 80) zone!: string;
  /** What must stand there now, by its take; null for nothing. */
  @OrNull() @One(() => Stands) now: Stands | null = null;
  /** What stands there again; null for nothing. */
  @OrNull() @One(() => Stood) again: Stood | null = null;
  /** What that take took off the queue. */
  @Maybe() @Text(1, 80) queued?: string;
}

class RestoreAirRequest extends ActionRequest {
  @OneOf('restore-air') kind!: 'restore-air';
  @Count(1, 1000) @Each(() => Restored) lanes!: Restored[];
}

/** The action that takes a change of what is on air back. */
export const backToAir = (change: Change): object => ({
  kind: 'restore-air',
  lanes: editsOf(change, 'lane').flatMap(({ was, is }): RestoredLane[] => {
    if (!was || !is) return [];
    const { output, zone } = was;
    const now = takenOf(is.onAir);
    const queued = was.queue.find((key) => !is.queue.includes(key));
    return [{ output, zone, now, again: was.onAir, ...(queued ? { queued } : {}) }];
  }),
});

/** Puts back what stood in lanes, with the inputs of then, all at one moment; a lane in which something was taken or cleared since stays. */
export const restoreAir = action({
  request: RestoreAirRequest,
  role: 'operate',
  decide: ({ show, world }, { lanes }, at) => {
    const lead = leadOf(world, lanes);
    const edits = lanes.flatMap((back) => {
      const lane = show.lanes.get(laneKey(back));
      const { now, again, queued } = back;
      if (!lane || !isStill(lane.onAir, now) || (again && !show.items.has(again.item))) return [];
      const onAir = again && { ...again, takenAt: at + lead };
      const is = withOnAir(lane, onAir);
      const first = queued !== undefined && show.items.has(queued) && !is.queue.includes(queued);
      const queue = first ? [queued, ...is.queue] : is.queue;
      return [edit('lane', laneKey(lane), lane, { ...is, queue })];
    });
    if (edits.length === 0) refuse('It cannot be taken back: what is on air was changed again since.');
    return { change: { edits, lead }, back: null };
  },
  sentence: () => 'Put back what was on air',
});

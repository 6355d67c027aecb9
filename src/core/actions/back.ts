import { OneOf } from '../document/rules.ts';
import { itemOf, laneKey, laneOf, withOnAir } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { leadOf } from './air.ts';
import { edit } from './change.ts';
import { LaneRequest } from './request.ts';
import { backToAir } from './restore-air.ts';

class BackRequest extends LaneRequest {
  @OneOf('back') kind!: 'back';
}

/** Puts back on air in a lane what stood there before, as it stood; asked for again, what it took the place of. */
export const back = action({
  request: BackRequest,
  role: 'operate',
  decide: ({ show, world }, request, at) => {
    const lane = laneOf(show, request);
    const { onAir, before } = lane;
    if (!onAir && !before) refuse('Nothing was on air there before.');
    if (before) itemOf(show, before.item);
    const lead = leadOf(world, [lane]);
    const is = { ...withOnAir(lane, before && { ...before, takenAt: at + lead }), before: onAir };
    const change = { edits: [edit('lane', laneKey(lane), lane, is)], lead };
    return { change, back: backToAir(change) };
  },
  sentence: ({ show }, request) => {
    const { onAir, before } = laneOf(show, request);
    const nameOf = (key: string | undefined) => show.items.get(key ?? '')?.name ?? key ?? '';
    return before ? `Back to ${nameOf(before.item)}` : `Cleared ${nameOf(onAir?.item)}`;
  },
});

import { OneOf, Text } from '../document/rules.ts';
import { itemOf, laneKey, laneOf, standingIn } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { leadOf } from './air.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';
import { backToAir } from './restore-air.ts';

class BackRequest extends ActionRequest {
  @OneOf('back') kind!: 'back';
  @Text(1, 80) output!: string;
  @Text(1, 80) zone!: string;
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
    const { by: _, ...again } = before ?? { by: '' };
    const stood = before && { ...before, ...again, takenAt: at + lead };
    const is = { ...standingIn(lane, stood), before: onAir };
    const change = { edits: [edit('lane', laneKey(lane), lane, is)], lead };
    return { change, back: backToAir(change) };
  },
  sentence: ({ show }, request) => {
    const { onAir, before } = laneOf(show, request);
    const nameOf = (key: string | undefined) => show.items.get(key ?? '')?.name ?? key ?? '';
    return before ? `Back to ${nameOf(before.item)}` : `Cleared ${nameOf(onAir?.item)}`;
  },
});

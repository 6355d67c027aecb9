import { OneOf, Text } from '../document/rules.ts';
import { laneKey, laneOf } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { begunAnew } from './anew.ts';
import { edit } from './change.ts';
import { leadOf } from './lead.ts';
import { ActionRequest } from './request.ts';

class ClearRequest extends ActionRequest {
  @OneOf('clear') kind!: 'clear';
  @Text(1, 80) output!: string;
  @Text(1, 80) zone!: string;
}

/** Takes what is on air in a zone off. No undo changes what is on air. */
export const clear = action({
  request: ClearRequest,
  role: 'operate',
  decide: (situation, request) => {
    const lane = laneOf(situation.show, request);
    if (!lane.onAir) refuse('Nothing is on air there, so there is nothing to clear.');
    const off = edit('lane', laneKey(lane), lane, { ...lane, onAir: null });
    const lead = leadOf(situation.world, [lane.output]);
    return { change: { edits: [off, ...begunAnew(situation, lane.onAir?.item)], lead }, back: null };
  },
  sentence: ({ show }, request) => {
    const item = show.lanes.get(laneKey(request))?.onAir?.item;
    return `Cleared ${show.items.get(item ?? '')?.name ?? item ?? request.zone}`;
  },
});

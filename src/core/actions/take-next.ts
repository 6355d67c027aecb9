import { OneOf, Text } from '../document/rules.ts';
import { followingIn, inOrder } from '../show/rundown.ts';
import { itemOf, laneOf } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { rundownOf } from './items.ts';
import { LaneRequest } from './request.ts';
import { take } from './take.ts';

class TakeNextRequest extends LaneRequest {
  @OneOf('take-next') kind!: 'take-next';
  /** The item that whoever asks sees as the one that follows. */
  @Text(1, 80) item!: string;
}

/** Takes what follows in a lane: the first of its queue, else what stands below in the rundown what is on air. */
export const takeNext = action({
  request: TakeNextRequest,
  role: 'operate',
  decide: (situation, { output, zone, item, ...who }, at) => {
    const { show, world } = situation;
    const lane = laneOf(show, { output, zone });
    const follows = followingIn(lane, inOrder(rundownOf(world).groups, [...show.items.values()]));
    if (follows?.key !== item) {
      const name = itemOf(show, item).name;
      refuse(
        follows
          ? `${follows.name} follows there now, not ${name}: it was changed at another desk a moment ago.`
          : `Nothing follows there any more: it was changed at another desk a moment ago.`,
      );
    }
    return take.decide(situation, { ...who, kind: 'take', item }, at);
  },
  sentence: (situation, { item, ...who }) => take.sentence(situation, { ...who, kind: 'take', item }),
});

import { OneOf, Text } from '../document/rules.ts';
import { goesTo } from '../show/item.ts';
import { itemOf, laneKey, laneOf } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';

class NextRequest extends ActionRequest {
  @OneOf('next') kind!: 'next';
  @Text(1, 80) output!: string;
  @Text(1, 80) zone!: string;
  @Text(1, 80) item!: string;
}

/** Says which item a lane takes next. Choosing again is quicker than an undo, so there is none. */
export const next = action({
  request: NextRequest,
  role: 'operate',
  decide: ({ show }, request) => {
    const item = itemOf(show, request.item);
    if (!goesTo(item, request)) refuse(`${item.name} does not go to that zone.`);
    const lane = laneOf(show, request);
    return {
      change: { edits: [edit('lane', laneKey(lane), lane, { ...lane, next: item.key })] },
      back: null,
    };
  },
  sentence: ({ show }, { item }) => `Next: ${show.items.get(item)?.name ?? item}`,
});

import { Maybe, OneOf, Text } from '../document/rules.ts';
import { itemOf, laneKey } from '../show/show.ts';
import { action } from './action.ts';
import { lanesFor } from './air.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';

class NextRequest extends ActionRequest {
  @OneOf('next') kind!: 'next';
  /** The lane; without them all lanes of the item. */
  @Maybe() @Text(1, 80) output?: string;
  @Maybe() @Text(1, 80) zone?: string;
  @Text(1, 80) item!: string;
}

/** Says which item a lane takes next. Choosing again is quicker than an undo, so there is none. */
export const next = action({
  request: NextRequest,
  role: 'operate',
  decide: ({ show }, request) => {
    const item = itemOf(show, request.item);
    const edits = lanesFor(show, item, request).map((lane) =>
      edit('lane', laneKey(lane), lane, { ...lane, next: item.key }),
    );
    return { change: { edits }, back: null };
  },
  sentence: ({ show }, { item }) => `Next: ${show.items.get(item)?.name ?? item}`,
});

import { OneOf, Text } from '../document/rules.ts';
import { isOnAir, itemOf, laneKey } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';

class RemoveItemRequest extends ActionRequest {
  @OneOf('remove-item') kind!: 'remove-item';
  @Text(1, 80) item!: string;
}

/** Deletes an item that is not on air; what was about to be taken next is not any more. */
export const removeItem = action({
  request: RemoveItemRequest,
  role: 'prepare',
  decide: ({ show }, request) => {
    const item = itemOf(show, request.item);
    if (isOnAir(show, item.id)) refuse(`${item.name} is on air: clear it first.`);
    const next = [...show.lanes.values()].filter((l) => l.next === item.id);
    return {
      change: {
        edits: [
          ...next.map((lane) => edit('lane', laneKey(lane), lane, { ...lane, next: null })),
          edit('item', item.id, item, null),
        ],
      },
    };
  },
  sentence: ({ show }, { item }) => `Deleted the item ${show.items.get(item)?.name ?? item}`,
});

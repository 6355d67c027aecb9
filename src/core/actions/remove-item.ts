import { Count, isText, ListOf, Maybe, OneOf, Text } from '../document/rules.ts';
import { MOST_ITEMS, without } from '../show/rundown.ts';
import { isOnAir, itemOf, laneKey } from '../show/show.ts';
import { counted } from '../text/words.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { rundownEdit, rundownOf } from './items.ts';
import { ActionRequest } from './request.ts';

class RemoveItemRequest extends ActionRequest {
  @OneOf('remove-item') kind!: 'remove-item';
  /** One item, or several. */
  @Maybe() @Text(1, 80) item?: string;
  @Maybe() @Count(1, MOST_ITEMS) @ListOf((v) => isText(v, 80), 'must be the keys of items') items?: string[];
}

const keysOf = ({ item, items }: RemoveItemRequest): string[] => [
  ...new Set([...(items ?? []), ...(item === undefined ? [] : [item])]),
];

/** Deletes items that are not on air; what was about to be taken next, or was to follow, is not any more. */
export const removeItem = action({
  request: RemoveItemRequest,
  role: 'prepare',
  decide: ({ show, world }, request) => {
    const keys = keysOf(request);
    if (keys.length === 0) refuse('Say which item to delete.');
    const items = keys.map((key) => itemOf(show, key));
    for (const item of items) if (isOnAir(show, item.key)) refuse(`${item.name} is on air: clear it first.`);
    const gone = new Set(keys);
    const next = [...show.lanes.values()].filter((l) => l.next !== null && gone.has(l.next));
    const before = [...show.items.values()].filter((i) => !gone.has(i.key) && gone.has(i.follows ?? ''));
    return {
      change: {
        edits: [
          ...next.map((lane) => edit('lane', laneKey(lane), lane, { ...lane, next: null })),
          ...before.map((item) => edit('item', item.key, item, { ...item, follows: null })),
          ...rundownEdit(world, without(rundownOf(world).groups, keys)),
          ...items.map((item) => edit('item', item.key, item, null)),
        ],
      },
    };
  },
  sentence: ({ show }, request) => {
    const [first = '', ...more] = keysOf(request);
    return more.length
      ? `Deleted ${counted(more.length + 1, 'item')}`
      : `Deleted the item ${show.items.get(first)?.name ?? first}`;
  },
});

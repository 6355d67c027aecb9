import { Count, isText, ListOf, Maybe, OneOf, Text } from '../document/rules.ts';
import { MOST_ITEMS, without } from '../show/rundown.ts';
import { counted } from '../text/words.ts';
import { action, refuse } from './action.ts';
import { removalOf, rundownEdit, rundownOf } from './items.ts';
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
  decide: (situation, request) => {
    const { world } = situation;
    const keys = keysOf(request);
    if (keys.length === 0) refuse('Say which item to delete.');
    const groups = without(rundownOf(world).groups, keys);
    return { change: { edits: [...rundownEdit(world, groups), ...removalOf(situation, keys)] } };
  },
  sentence: ({ show }, request) => {
    const [first = '', ...more] = keysOf(request);
    return more.length
      ? `Deleted ${counted(more.length + 1, 'item')}`
      : `Deleted the item ${show.items.get(first)?.name ?? first}`;
  },
});

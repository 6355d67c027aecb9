import { Each } from '../document/check.ts';
import { Count, isText, ListOf, Maybe, Name, OneOf, YesNo } from '../document/rules.ts';
import { Item } from '../show/item.ts';
import { Group, MOST_ITEMS, parseRundown, RUNDOWN, without } from '../show/rundown.ts';
import { counted } from '../text/words.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { refuseItems, removalOf, rundownEdit, rundownOf } from './items.ts';
import { ActionRequest } from './request.ts';
import type { Situation } from './situation.ts';

/** What of an item can be changed alone. */
const PARTS = ['name', 'number', 'zones', 'inputs', 'length', 'follows', 'hotkey', 'note'] as const;
type Part = (typeof PARTS)[number];

const pick = (item: Item, parts: readonly Part[]): Partial<Item> =>
  Object.fromEntries(parts.map((part) => [part, item[part]]));

class PutItemsRequest extends ActionRequest {
  @OneOf('put-items') kind!: 'put-items';
  /** Items as they are to be, each whole; those of keys that are not there yet are made. */
  @Count(0, MOST_ITEMS) @Each(() => Item) items!: Item[];
  /** The keys of items that are deleted with it. */
  @Maybe() @Count(0, MOST_ITEMS) @ListOf((v) => isText(v, 80), 'must be the keys of items') gone?: string[];
  /** The groups of the rundown as they are to be with them; without it they stay. */
  @Maybe() @Count(0, 100) @Each(() => Group) groups?: Group[];
  /** What of items that are there is changed; all the rest stays as it is now, whoever changed it. Without it they are as given. */
  @Maybe()
  @Count(1, 10)
  @ListOf((v) => PARTS.includes(v as Part), `must be among ${PARTS.join(', ')}`)
  only?: Part[];
  /** They are copies of others. */
  @Maybe() @YesNo() copies?: boolean;
  /** They come of a model, by its name, as on a night that has not begun. */
  @Maybe() @Name() model?: string;
}

/** Makes or changes several items at once, and where they stand in the rundown: all of it or nothing. */
export const putItems = action({
  request: PutItemsRequest,
  role: 'prepare',
  decide: (situation: Situation, request) => {
    const { show, world } = situation;
    const { groups, gone = [], only, model } = request;
    const items = request.items.map((asked): Item => {
      const was = show.items.get(asked.key);
      const is = was && only ? { ...was, ...pick(asked, only) } : asked;
      return { ...is, aired: (model === undefined ? was?.aired : null) ?? null };
    });
    if (new Set(items.map((i) => i.key)).size < items.length) refuse('Two of these items have the same key.');
    if (new Set([...show.items.keys(), ...items.map((i) => i.key)]).size > MOST_ITEMS)
      refuse(`There can be ${MOST_ITEMS} items at most.`);
    if (gone.some((key) => items.some((i) => i.key === key)))
      refuse('What is deleted cannot be kept as well.');
    refuseItems(situation, items, gone);
    const read = groups && parseRundown({ schema: 1, key: RUNDOWN, groups });
    if (read && !read.ok) refuse(`This cannot be kept: ${read.problems.join('; ')}.`);
    const edits = items.map((item) => edit('item', item.key, show.items.get(item.key) ?? null, item));
    const order = groups ?? (gone.length ? without(rundownOf(world).groups, gone) : null);
    return {
      change: {
        edits: [...removalOf(situation, gone, items), ...edits, ...(order ? rundownEdit(world, order) : [])],
      },
    };
  },
  sentence: ({ show }, { items, copies, model }) => {
    if (model !== undefined) return `Used the model ${model}`;
    const all = items.every((i) => show.items.has(i.key));
    const [only, ...more] = items;
    if (all && !copies && only && !more.length) return `Changed the item ${only.name}`;
    return `${copies ? 'Duplicated' : all ? 'Changed' : 'Added'} ${counted(items.length, 'item')}`;
  },
});

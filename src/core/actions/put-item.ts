import { Count, Maybe, Must, Name, Num, OneOf, OrNull, Text, Whole } from '../document/rules.ts';
import { Each } from '../document/check.ts';
import {
  freeNumber,
  HOT_KEYS,
  isInputs,
  LONGEST,
  MOST_NUMBER,
  MOST_ZONES,
  newItem,
  Place,
  type Item,
} from '../show/item.ts';
import { placed } from '../show/rundown.ts';
import { defaultInputs } from '../workshop/inputs.ts';
import type { Scalar } from '../board/values.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { rundownEdit, rundownOf, refuseItems } from './items.ts';
import { ActionRequest } from './request.ts';

class PutItemRequest extends ActionRequest {
  @OneOf('put-item') kind!: 'put-item';
  /** The key of the item; where there is none of it, a new one is made, which needs a name and a template. */
  @Text(1, 80) item!: string;
  // What is not said stays as it is.
  @Maybe() @Name() name?: string;
  @Maybe() @Text(1, 80) template?: string;
  @Maybe() @Whole(1, MOST_NUMBER) number?: number;
  /** Where it goes: all zones of it; or one, by its output and its key. */
  @Maybe() @Count(0, MOST_ZONES) @Each(() => Place) zones?: Place[];
  @Maybe() @Text(1, 80) output?: string;
  @Maybe() @Text(1, 80) zone?: string;
  @Maybe()
  @Must('inputs', isInputs, 'must be an object of texts, numbers, true, false or null')
  inputs?: Record<string, Scalar>;
  @Maybe() @OrNull() @Num(0.5, LONGEST) length?: number | null;
  @Maybe() @OrNull() @Text(1, 80) follows?: string | null;
  @Maybe() @OneOf('', ...HOT_KEYS) hotkey?: string;
  @Maybe() @Text(0, 2000) note?: string;
  /** The group of the rundown that a new one goes to the end of. */
  @Maybe() @Text(1, 80) group?: string;
}

/** What of a request is the item's own. */
const PARTS = ['name', 'template', 'number', 'inputs', 'length', 'follows', 'hotkey', 'note'] as const;

/** Makes an item of a template, or changes what is said of one. What is filled in stays where nothing else is said. */
export const putItem = action({
  request: PutItemRequest,
  role: 'prepare',
  // Who types a note or a name changes one thing, at each pause of it.
  entry: (request) => {
    const said = Object.keys(request).filter((k) => (PARTS as readonly string[]).includes(k));
    return said.length === 1 && ['name', 'note', 'number', 'length'].includes(said[0]!)
      ? `${request.item} ${said[0]}`
      : null;
  },
  decide: (situation, request) => {
    const { show, world } = situation;
    const { item: key, output, zone, group } = request;
    const was = show.items.get(key) ?? null;
    const zones = request.zones ?? (output !== undefined && zone !== undefined ? [{ output, zone }] : null);
    const said = Object.fromEntries(
      PARTS.flatMap((name) => (request[name] === undefined ? [] : [[name, request[name]]])),
    ) as Partial<Item>;
    const first = (): Item => {
      const { name = refuse('A new item needs a name.'), template = refuse('A new item needs a template.') } =
        request;
      const of = world.documents.template.get(template) ?? refuse(`There is no template "${template}".`);
      return newItem({
        key,
        name,
        template,
        number: freeNumber(show.items.values()),
        inputs: defaultInputs(of),
      });
    };
    const is: Item = { ...(was ?? first()), ...said, ...(zones ? { zones } : {}) };
    refuseItems(situation, [is]);
    const rundown = rundownOf(world);
    const goes = !was && group !== undefined && rundown.groups.some((g) => g.key === group);
    return {
      change: {
        edits: [
          edit('item', key, was, is),
          ...(goes ? rundownEdit(world, placed(rundown.groups, [key], group)) : []),
        ],
      },
    };
  },
  sentence: ({ show }, { item, name }) => {
    const was = show.items.get(item);
    return was ? `Changed the item ${name ?? was.name}` : `Made the item ${name ?? item}`;
  },
});

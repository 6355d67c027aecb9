import { Maybe, OneOf, Text } from '../document/rules.ts';
import { itemOf } from '../show/show.ts';
import { action } from './action.ts';
import { airChange, lanesFor } from './air.ts';
import { ActionRequest } from './request.ts';
import { backToAir } from './restore-air.ts';

class TakeRequest extends ActionRequest {
  @OneOf('take') kind!: 'take';
  @Text(1, 80) item!: string;
  /** One zone to take it to; without them it goes to all of its own. */
  @Maybe() @Text(1, 80) output?: string;
  @Maybe() @Text(1, 80) zone?: string;
}

/** Puts an item on air in its zones, all at one moment. */
export const take = action({
  request: TakeRequest,
  role: 'operate',
  decide: (situation, request, at) => {
    const item = itemOf(situation.show, request.item);
    const puts = lanesFor(situation.show, item, request).map((lane) => ({ lane, item }));
    const change = airChange(situation, puts, at);
    return { change, back: backToAir(change) };
  },
  sentence: ({ show }, { item }) => `Took ${show.items.get(item)?.name ?? item}`,
});

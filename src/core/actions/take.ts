import { Maybe, OneOf, Text } from '../document/rules.ts';
import type { Item } from '../show/item.ts';
import { itemOf, type Lane, type Show } from '../show/show.ts';
import { action, refuse } from './action.ts';
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

/** Two takes in one lane within this time, in ms, at two desks were pressed without knowing of each other. */
const MOMENT = 500;

/** Refuses a take over what another desk took there a moment ago: whoever presses has not seen that yet. */
function refuseOver(show: Show, { onAir }: Lane, item: Item, desk: string | undefined, at: number): void {
  if (!onAir?.by || !desk || onAir.by === desk || onAir.item === item.key || at - onAir.takenAt >= MOMENT)
    return;
  const name = show.items.get(onAir.item)?.name ?? onAir.item;
  refuse(`${name} was taken there a moment ago at another desk. Take again if ${item.name} is to be on.`);
}

/** Puts an item on air in its zones, all at one moment. */
export const take = action({
  request: TakeRequest,
  role: 'operate',
  decide: (situation, request, at) => {
    const item = itemOf(situation.show, request.item);
    const lanes = lanesFor(situation.show, item, request);
    for (const lane of lanes) refuseOver(situation.show, lane, item, request.desk, at);
    const puts = lanes.map((lane) => ({ lane, item }));
    const change = airChange(situation, puts, at, request.desk);
    return { change, back: backToAir(change) };
  },
  sentence: ({ show }, { item }) => `Took ${show.items.get(item)?.name ?? item}`,
});

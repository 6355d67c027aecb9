import { Maybe, OneOf, Text } from '../document/rules.ts';
import { itemOf, laneKey, laneOf } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { airChange } from './air.ts';
import { ActionRequest } from './request.ts';

class TakeRequest extends ActionRequest {
  @OneOf('take') kind!: 'take';
  @Text(1, 80) item!: string;
  /** One zone to take it to; without them it goes to all of its own. */
  @Maybe() @Text(1, 80) output?: string;
  @Maybe() @Text(1, 80) zone?: string;
}

/** Puts an item on air in its zones, all at one moment. No undo changes what is on air. */
export const take = action({
  request: TakeRequest,
  role: 'operate',
  decide: (situation, { item: key, output, zone }, at) => {
    const { show } = situation;
    const item = itemOf(show, key);
    if (item.zones.length === 0) refuse(`${item.name} goes to no zone yet: choose one in the rundown.`);
    const only = output !== undefined && zone !== undefined ? laneKey({ output, zone }) : null;
    const places = item.zones.filter((place) => only === null || laneKey(place) === only);
    if (places.length === 0) refuse(`${item.name} does not go to that zone.`);
    // A zone that somebody took out of a file of outputs is no reason to keep it off the others.
    const lanes = places.flatMap((place) => show.lanes.get(laneKey(place)) ?? []);
    if (lanes.length === 0) laneOf(show, places[0]!);
    const puts = lanes.map((lane) => ({ lane, item }));
    return { change: airChange(situation, puts, at), back: null };
  },
  sentence: ({ show }, { item }) => `Took ${show.items.get(item)?.name ?? item}`,
});

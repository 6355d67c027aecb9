import { Maybe, OneOf, Text } from '../document/rules.ts';
import { airing, itemOf, laneKey, laneOf, type Lane, type Show } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { airChange } from './air.ts';
import type { Decision } from './change.ts';
import { ActionRequest } from './request.ts';
import { backToAir } from './restore-air.ts';
import type { Situation } from './situation.ts';

class ClearRequest extends ActionRequest {
  @OneOf('clear') kind!: 'clear';
  /** What is cleared: one zone; or an item, in all zones in which it stands. */
  @Maybe() @Text(1, 80) output?: string;
  @Maybe() @Text(1, 80) zone?: string;
  @Maybe() @Text(1, 80) item?: string;
}

function lanesOf(show: Show, { output, zone, item }: ClearRequest): Lane[] {
  if (item !== undefined) {
    const lanes = airing(show.lanes.values(), item);
    if (lanes.length === 0) refuse(`${itemOf(show, item).name} is not on air, so there is nothing to clear.`);
    return lanes;
  }
  if (output === undefined || zone === undefined) return refuse('Say which zone or which item to clear.');
  const lane = laneOf(show, { output, zone });
  if (!lane.onAir) refuse('Nothing is on air there, so there is nothing to clear.');
  return [lane];
}

/** What takes all off that is on air in some lanes, at one moment, and what brings it back. */
export function cleared(situation: Situation, lanes: readonly Lane[], at: number): Decision {
  const change = airChange(
    situation,
    lanes.map((lane) => ({ lane, item: null })),
    at,
  );
  return { change, back: backToAir(change) };
}

/** Takes what is on air in a zone off, or an item in all of them. */
export const clear = action({
  request: ClearRequest,
  role: 'operate',
  decide: (situation, request, at) => cleared(situation, lanesOf(situation.show, request), at),
  sentence: ({ show }, { output = '', zone = '', item }) => {
    const key = item ?? show.lanes.get(laneKey({ output, zone }))?.onAir?.item;
    return `Cleared ${show.items.get(key ?? '')?.name ?? key ?? zone}`;
  },
});

import { OneOf, Text } from '../document/rules.ts';
import { layoutFor } from '../show/layout.ts';
import { itemOf, laneKey, laneOf, missingInputs } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { begunAnew } from './anew.ts';
import { edit } from './change.ts';
import { leadOf } from './lead.ts';
import { ActionRequest } from './request.ts';

class TakeRequest extends ActionRequest {
  @OneOf('take') kind!: 'take';
  @Text(1, 80) item!: string;
}

/** Puts an item on air in its zone. No undo changes what is on air. */
export const take = action({
  request: TakeRequest,
  role: 'operate',
  decide: (situation, request, at) => {
    const { show, world } = situation;
    const item = itemOf(show, request.item);
    const template = world.documents.template.get(item.template);
    if (!template) refuse('Its template is missing, so it cannot go on air.');
    const missing = missingInputs(template.inputs, item.inputs);
    if (missing.length) refuse(`${item.name} needs ${missing.join(' and ')} before it can go on air.`);
    const lane = laneOf(show, item);
    const zone = world.documents.output.get(item.output)?.zones.find((z) => z.key === item.zone);
    const layout = layoutFor(template, zone ?? template.layouts[0]!).key;
    const lead = leadOf(world, [item.output]);
    const onAir = { item: item.id, layout, inputs: { ...item.inputs }, takenAt: at + lead };
    const taken = edit('lane', laneKey(lane), lane, { ...lane, next: item.id, onAir });
    const left = lane.onAir?.item === item.id ? undefined : lane.onAir?.item;
    return { change: { edits: [taken, ...begunAnew(situation, left)], lead }, back: null };
  },
  sentence: ({ show }, { item }) => `Took ${show.items.get(item)?.name ?? item}`,
});

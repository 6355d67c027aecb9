import { OneOf, Text } from '../document/rules.ts';
import { itemOf, laneOf, missingInputs } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';

class TakeRequest extends ActionRequest {
  @OneOf('take') kind!: 'take';
  @Text(1, 80) item!: string;
}

/** Puts an item on air in its zone. No undo changes what is on air. */
export const take = action({
  request: TakeRequest,
  role: 'operate',
  decide: ({ show, world }, request, at) => {
    const item = itemOf(show, request.item);
    const template = world.documents.template.get(item.template);
    if (!template) refuse('Its template is missing, so it cannot go on air.');
    const missing = missingInputs(template.inputs, item.inputs);
    if (missing.length) refuse(`${item.name} needs ${missing.join(' and ')} before it can go on air.`);
    const lane = laneOf(show, item.zone);
    const onAir = { item: item.id, inputs: { ...item.inputs }, takenAt: at };
    return {
      change: { edits: [edit('lane', lane.zone, lane, { ...lane, next: item.id, onAir })] },
      back: null,
    };
  },
  sentence: ({ show }, { item }) => `Took ${show.items.get(item)?.name ?? item}`,
});

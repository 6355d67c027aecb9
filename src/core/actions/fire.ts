import { OneOf, Text } from '../document/rules.ts';
import { itemOf } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { airChange, lanesFor } from './air.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';
import type { Situation } from './situation.ts';

class FireRequest extends ActionRequest {
  @OneOf('fire') kind!: 'fire';
  @Text(1, 80) trigger!: string;
}

const triggerOf = ({ world }: Pick<Situation, 'world'>, key: string) =>
  world.documents.trigger.get(key) ?? refuse(`There is no trigger "${key}"; it may have been deleted.`);

/** Takes the item of a trigger, and switches one that is meant for once off. Foothill does this by itself. */
export const fire = action({
  request: FireRequest,
  role: 'operate',
  decide: (situation, request, at) => {
    const trigger = triggerOf(situation, request.trigger);
    if (!trigger.on) refuse(`${trigger.name} is switched off.`);
    const item = itemOf(situation.show, trigger.item);
    const puts = lanesFor(situation.show, item, {}).map((lane) => ({ lane, item }));
    const change = airChange(situation, puts, at);
    const off = trigger.once ? [edit('trigger', trigger.key, trigger, { ...trigger, on: false })] : [];
    return { change: { ...change, edits: [...change.edits, ...off] }, back: null };
  },
  sentence: (situation, request) => {
    const { name, item } = triggerOf(situation, request.trigger);
    return `${name}: took ${situation.show.items.get(item)?.name ?? item}`;
  },
});

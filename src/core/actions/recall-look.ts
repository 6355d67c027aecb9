import { OneOf, Text } from '../document/rules.ts';
import { lookChanges } from '../show/look.ts';
import { action, refuse } from './action.ts';
import { airChange } from './air.ts';
import { ActionRequest } from './request.ts';
import { backToAir } from './restore-air.ts';

class RecallLookRequest extends ActionRequest {
  @OneOf('recall-look') kind!: 'recall-look';
  @Text(1, 80) look!: string;
}

/** Puts on air what a look says, in all outputs at one moment; what stands as it says already is left alone. */
export const recallLook = action({
  request: RecallLookRequest,
  role: 'operate',
  decide: (situation, { look: key }, at) => {
    const { show, world } = situation;
    const look =
      world.documents.look.get(key) ?? refuse(`There is no look "${key}"; it may have been deleted.`);
    const { changes, missing } = lookChanges(look, show.lanes.values(), show.items.values());
    if (missing === look.places.length) refuse(`Nothing of ${look.name} is there any more.`);
    if (changes.length === 0) refuse(`Everything stands as ${look.name} has it already.`);
    const change = airChange(situation, changes, at);
    return { change, back: backToAir(change) };
  },
  sentence: ({ world }, { look }) => `Recalled ${world.documents.look.get(look)?.name ?? look}`,
});

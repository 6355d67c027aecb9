import { OneOf, Text } from '../document/rules.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';
import { knownField } from './situation.ts';

class ReleaseRequest extends ActionRequest {
  @OneOf('release') kind!: 'release';
  @Text(1, 80) field!: string;
}

/** Lets a field go that is held by hand. */
export const release = action({
  request: ReleaseRequest,
  role: 'operate',
  decide: (now, { field }) => {
    const { label } = knownField(now, field);
    const held = now.board.state(field)!.pin ?? refuse(`${label} is not pinned.`);
    return { change: { edits: [edit('pin', field, held, null)] } };
  },
  sentence: ({ board }, { field }) => `Released ${board.def(field)?.label}`,
});

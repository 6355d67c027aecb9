import { OneOf, Text } from '../document/rules.ts';
import { action } from './action.ts';
import { ActionRequest } from './request.ts';
import { knownSource } from './situation.ts';

class GiveBackRequest extends ActionRequest {
  @OneOf('give-back') kind!: 'give-back';
  @Text(1, 80) source!: string;
}

/** Returns its fields to a source that was silent and is back. */
export const giveBack = action({
  request: GiveBackRequest,
  role: 'operate',
  decide: (now, { source }) => {
    knownSource(now, source);
    return { change: { edits: [], giveBack: source }, back: null };
  },
  sentence: ({ sources }, { source }) =>
    `Returned control to ${sources.bundle(source)?.source.name ?? source}`,
});

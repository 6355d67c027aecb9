import { Maybe, OneOf, Text } from '../document/rules.ts';
import { action, refuse } from './action.ts';
import { cleared } from './clear.ts';
import { ActionRequest } from './request.ts';

class ClearAllRequest extends ActionRequest {
  @OneOf('clear-all') kind!: 'clear-all';
  /** One output; without it all of them. */
  @Maybe() @Text(1, 80) output?: string;
}

/** Takes off all that is on air, in all outputs at one moment. */
export const clearAll = action({
  request: ClearAllRequest,
  role: 'operate',
  decide: (situation, { output }, at) => {
    const lanes = [...situation.show.lanes.values()].filter(
      (l) => l.onAir && (output === undefined || l.output === output),
    );
    if (lanes.length === 0) refuse('Nothing is on air, so there is nothing to clear.');
    return cleared(situation, lanes, at);
  },
  sentence: ({ world }, { output }) =>
    output === undefined
      ? 'Cleared all'
      : `Cleared all of ${world.documents.output.get(output)?.name ?? output}`,
});

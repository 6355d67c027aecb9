import { OneOf, Text, YesNo } from '../document/rules.ts';
import { action, refuse } from './action.ts';
import { ActionRequest } from './request.ts';

class TestCardRequest extends ActionRequest {
  @OneOf('test-card') kind!: 'test-card';
  @Text(1, 80) output!: string;
  @YesNo() on!: boolean;
}

/** Shows the test card of an output over all that is on it, or takes it away. It is kept nowhere: a server that starts shows none. */
export const testCard = action({
  request: TestCardRequest,
  role: 'operate',
  decide: ({ show, world }, { output, on }) => {
    const { name } = world.documents.output.get(output) ?? refuse(`There is no output "${output}".`);
    if (show.cards.has(output) === on)
      refuse(on ? `The test card is on ${name} already.` : `There is no test card on ${name}.`);
    return {
      change: { edits: [], card: { output, on } },
      undo: { edits: [] },
      back: { kind: 'test-card', output, on: !on },
    };
  },
  sentence: ({ world }, { output, on }) =>
    `${on ? 'Put the test card on' : 'Took the test card off'} ${world.documents.output.get(output)?.name ?? output}`,
});

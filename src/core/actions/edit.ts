import type { Scalar } from '../board/values.ts';
import { Must, OneOf, Text } from '../document/rules.ts';
import { isInputs, type Item } from '../show/item.ts';
import { itemOf, refuseInput } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { edit as editOf } from './change.ts';
import { ActionRequest } from './request.ts';
import type { Situation } from './situation.ts';

class EditRequest extends ActionRequest {
  @OneOf('edit') kind!: 'edit';
  @Text(1, 80) item!: string;
  /** The inputs that are filled in anew; all others stay. */
  @Must('inputs', isInputs, 'must be an object of texts, numbers, true, false or null')
  inputs!: Record<string, Scalar>;
}

/** An item with some of its inputs filled in anew. Throws a Refusal where one cannot be filled in so. */
export function filledIn(
  { show, world }: Pick<Situation, 'show' | 'world'>,
  key: string,
  inputs: Record<string, Scalar>,
): Item {
  const item = itemOf(show, key);
  const defs = world.documents.template.get(item.template)?.inputs ?? [];
  for (const [name, value] of Object.entries(inputs)) {
    const problem = refuseInput(
      defs.find((d) => d.key === name),
      name,
      value,
    );
    if (problem) refuse(problem);
  }
  return { ...item, inputs: { ...item.inputs, ...inputs } };
}

/** Fills inputs of an item in. What is on air keeps what it was taken with. */
export const edit = action({
  request: EditRequest,
  role: 'operate',
  entry: ({ item, inputs }) => `${item} ${Object.keys(inputs).sort().join(' ')}`,
  decide: (situation, request) => {
    const item = itemOf(situation.show, request.item);
    const filled = filledIn(situation, request.item, request.inputs);
    return { change: { edits: [editOf('item', item.key, item, filled)] } };
  },
  sentence: ({ show }, { item }) => `Edited ${show.items.get(item)?.name ?? item}`,
});

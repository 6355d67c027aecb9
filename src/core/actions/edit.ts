import type { Scalar } from '../board/values.ts';
import { Must, OneOf, Text } from '../document/rules.ts';
import { isInputs } from '../show/item.ts';
import { itemOf, refuseInput } from '../show/show.ts';
import { action, refuse } from './action.ts';
import { edit as editOf } from './change.ts';
import { ActionRequest } from './request.ts';

class EditRequest extends ActionRequest {
  @OneOf('edit') kind!: 'edit';
  @Text(1, 80) item!: string;
  /** The inputs that are filled in anew; all others stay. */
  @Must('inputs', isInputs, 'must be an object of texts, numbers, true, false or null')
  inputs!: Record<string, Scalar>;
}

/** Fills inputs of an item in. What is on air keeps what it was taken with. */
export const edit = action({
  request: EditRequest,
  role: 'operate',
  entry: ({ item, inputs }) => `${item} ${Object.keys(inputs).sort().join(' ')}`,
  decide: ({ show, world }, request) => {
    const item = itemOf(show, request.item);
    const defs = world.documents.template.get(item.template)?.inputs ?? [];
    for (const [key, value] of Object.entries(request.inputs)) {
      const def = defs.find((d) => d.key === key);
      const problem = refuseInput(def, key, value);
      if (problem) refuse(problem);
    }
    const filled = { ...item, inputs: { ...item.inputs, ...request.inputs } };
    return { change: { edits: [editOf('item', item.key, item, filled)] } };
  },
  sentence: ({ show }, { item }) => `Edited ${show.items.get(item)?.name ?? item}`,
});

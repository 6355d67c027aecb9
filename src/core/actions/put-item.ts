import { Name, OneOf, Text } from '../document/rules.ts';
import { isOnAir, laneOf } from '../show/show.ts';
import { firstInputs } from '../workshop/inputs.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';

class PutItemRequest extends ActionRequest {
  @OneOf('put-item') kind!: 'put-item';
  /** The id of the item; where there is none of it, a new one is made. */
  @Text(1, 80) item!: string;
  @Name() name!: string;
  @Text(1, 80) template!: string;
  @Text(1, 80) output!: string;
  @Text(1, 80) zone!: string;
}

/** Makes an item of a template, or changes what one is called and where it goes. What is filled in stays. */
export const putItem = action({
  request: PutItemRequest,
  role: 'prepare',
  decide: ({ show, world }, { item: id, name, template: of, output, zone }) => {
    const template = world.documents.template.get(of) ?? refuse(`There is no template "${of}".`);
    laneOf(show, { output, zone });
    const was = show.items.get(id) ?? null;
    if (was && isOnAir(show, id) && (was.output !== output || was.zone !== zone || was.template !== of))
      refuse(`${was.name} is on air: clear it before it goes elsewhere.`);
    const number = was?.number ?? Math.max(0, ...[...show.items.values()].map((i) => i.number)) + 1;
    const inputs = was?.inputs ?? firstInputs(template);
    return {
      change: { edits: [edit('item', id, was, { id, number, name, template: of, output, zone, inputs })] },
    };
  },
  sentence: ({ show }, { item, name }) =>
    show.items.has(item) ? `Changed the item ${name}` : `Made the item ${name}`,
});

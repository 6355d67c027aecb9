import { Each } from '../document/check.ts';
import type { Scalar } from '../board/values.ts';
import { Count, Must, OneOf, Text } from '../document/rules.ts';
import { isInputs } from '../show/item.ts';
import { airing } from '../show/show.ts';
import { counted } from '../text/words.ts';
import { action, refuse } from './action.ts';
import { airChange } from './air.ts';
import { edit } from './change.ts';
import { filledIn } from './edit.ts';
import { pinned } from './pin.ts';
import { ActionRequest } from './request.ts';

class HeldField {
  @Text(1, 80) field!: string;
  /** As typed; the field decides how it is read. */
  @Text(0, 500) text!: string;
}
class HeldItem {
  @Text(1, 80) item!: string;
  @Must('inputs', isInputs, 'must be an object of texts, numbers, true, false or null')
  inputs!: Record<string, Scalar>;
}

class SendEditsRequest extends ActionRequest {
  @OneOf('send-edits') kind!: 'send-edits';
  @Count(0, 100) @Each(() => HeldField) fields!: HeldField[];
  @Count(0, 100) @Each(() => HeldItem) items!: HeldItem[];
}

/** Sends edits that were held back: fields are pinned and items filled in, and those on air are taken with it, all in one picture. */
export const sendEdits = action({
  request: SendEditsRequest,
  role: 'operate',
  decide: (situation, { fields, items }, at) => {
    const { show } = situation;
    if (fields.length + items.length === 0) refuse('No edits are held.');
    const pins = fields.map(({ field, text }) => pinned(situation, field, text, at));
    const filled = items.map(({ item, inputs }) => filledIn(situation, item, inputs));
    const puts = filled.flatMap((item) =>
      airing(show.lanes.values(), item.key).map((lane) => ({ lane, item })),
    );
    const air = airChange(situation, puts, at);
    const taken = new Set(puts.map((p) => p.item.key));
    const rest = filled.filter((item) => !taken.has(item.key));
    const edits = [
      ...pins,
      ...air.edits,
      ...rest.map((item) => edit('item', item.key, show.items.get(item.key) ?? null, item)),
    ];
    return { change: { ...air, edits } };
  },
  sentence: (_, { fields, items }) => `Sent ${counted(fields.length + items.length, 'edit')} together`,
});

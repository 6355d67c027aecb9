import { OneOf, Text } from '../document/rules.ts';
import { parseTyped } from '../sport/typed.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';
import { knownField } from './situation.ts';

class PinRequest extends ActionRequest {
  @OneOf('pin') kind!: 'pin';
  @Text(1, 80) field!: string;
  /** As typed; the field decides how it is read. */
  @Text(0, 500) text!: string;
}

/** Holds a value by hand over a field until it is released. */
export const pin = action({
  request: PinRequest,
  role: 'operate',
  decide: (now, { field, text }, at) => {
    const typed = parseTyped(knownField(now, field), text, at);
    if ('problem' in typed) refuse(`${typed.problem}.`);
    const held = now.board.state(field)!.pin ?? null;
    return { change: { edits: [edit('pin', field, held, { value: typed.value, at })] } };
  },
  sentence: ({ board }, { field, text }) => `Pinned ${board.def(field)?.label} at ${text.trim() || 'blank'}`,
});

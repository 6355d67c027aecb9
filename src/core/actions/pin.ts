import { OneOf, Text } from '../document/rules.ts';
import { parseTyped } from '../sport/typed.ts';
import { action, refuse } from './action.ts';
import { edit, type Edit } from './change.ts';
import { ActionRequest } from './request.ts';
import { knownField, type Situation } from './situation.ts';

class PinRequest extends ActionRequest {
  @OneOf('pin') kind!: 'pin';
  @Text(1, 80) field!: string;
  /** As typed; the field decides how it is read. */
  @Text(0, 500) text!: string;
}

/** What pins a field at what was typed. Throws a Refusal where the field cannot hold that. */
export function pinned(now: Pick<Situation, 'board'>, field: string, text: string, at: number): Edit {
  const typed = parseTyped(knownField(now, field), text, at);
  if ('problem' in typed) refuse(`${typed.problem}.`);
  return edit('pin', field, now.board.state(field)!.pin ?? null, { value: typed.value, at });
}

/** Holds a value by hand over a field until it is released. */
export const pin = action({
  request: PinRequest,
  role: 'operate',
  decide: (now, { field, text }, at) => ({ change: { edits: [pinned(now, field, text, at)] } }),
  sentence: ({ board }, { field, text }) => `Pinned ${board.def(field)?.label} at ${text.trim() || 'blank'}`,
});

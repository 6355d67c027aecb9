import { Key, OneOf, OrNull } from '../document/rules.ts';
import { moved } from '../show/order.ts';
import { action, refuse } from './action.ts';
import { edit } from './change.ts';
import { ActionRequest } from './request.ts';
import type { Situation } from './situation.ts';

class MoveOutputRequest extends ActionRequest {
  @OneOf('move-output') kind!: 'move-output';
  @Key() key!: string;
  /** The output before which it stands then; null: behind all. */
  @OrNull() @Key() before!: string | null;
}

const nameOf = ({ world }: Situation, key: string): string =>
  (world.documents.output.get(key) ?? refuse(`There is no output "${key}"; it may have been deleted.`)).name;

/** Puts an output elsewhere in the order in which every view lists them. */
export const moveOutput = action({
  request: MoveOutputRequest,
  role: 'prepare',
  decide: (now, { key, before }) => {
    nameOf(now, key);
    if (before !== null) nameOf(now, before);
    const outputs = now.world.documents.output;
    const elsewhere = moved([...outputs.values()], key, before);
    return { change: { edits: elsewhere.map((o) => edit('output', o.key, outputs.get(o.key)!, o)) } };
  },
  sentence: (now, { key, before }) =>
    `Moved the output ${nameOf(now, key)} ${before === null ? 'behind all others' : `before ${nameOf(now, before)}`}`,
});

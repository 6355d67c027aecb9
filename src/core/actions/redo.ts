import { OneOf } from '../document/rules.ts';
import { action, refuse } from './action.ts';
import { ActionRequest, byOf } from './request.ts';

class RedoRequest extends ActionRequest {
  @OneOf('redo') kind!: 'redo';
}

/** Does again what the same person took back last at the same view. */
export const redo = action({
  request: RedoRequest,
  role: 'operate',
  prepare: async ({ past, prepare }, request) => {
    const asked = past.redoable(byOf(request))?.asked;
    if (asked) await prepare(asked);
  },
  decide: (now, request, at) => {
    const past = now.past.redoable(byOf(request)) ?? refuse('There is nothing to redo.');
    return now.decide(past.asked, at);
  },
  sentence: ({ past }, request) => `Redid: ${past.redoable(byOf(request))?.text ?? ''}`,
});

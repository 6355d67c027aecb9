import { action } from './action.ts';
import { TapeRequest } from './deck-requests.ts';
import { tapeName } from './situation.ts';

/** Records, names, cuts and deletes tapes. Only a name is taken back. */
export const tape = action({
  request: TapeRequest,
  role: 'record',
  prepare: ({ deck }, request) => deck.prepare(request),
  decide: ({ deck }, request, at) => ({
    ...deck.decide(request, at),
    ...(request.do === 'rename' ? {} : { back: null }),
  }),
  sentence: (now, { do: what, name, tape: key }) => {
    switch (what) {
      case 'record':
        return 'Records what all sources say';
      case 'stop':
        return 'Stopped the recording';
      case 'rename':
        return `Named the tape ${tapeName(now, key)} anew: ${name}`;
      case 'delete':
        return `Deleted the tape ${tapeName(now, key)}`;
      case 'cut':
        return `Cut the tape ${tapeName(now, key)}`;
    }
  },
});

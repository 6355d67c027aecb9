import { clockText } from '../clock/clock.ts';
import { action } from './action.ts';
import { RehearseRequest } from './deck-requests.ts';
import { tapeName } from './situation.ts';

/** Lets a tape speak in place of the sources, and steers it. */
export const rehearse = action({
  request: RehearseRequest,
  role: 'record',
  prepare: ({ deck }, request) => deck.prepare(request),
  decide: ({ deck }, request, at) => ({ ...deck.decide(request, at), back: null }),
  sentence: (now, { do: what, to, part, tape: key }) => {
    switch (what) {
      case 'start':
        return `Rehearsal: ${tapeName(now, key)} speaks in place of the sources`;
      case 'end':
        return 'Ended the rehearsal; the real sources are back';
      case 'play':
        return 'Rehearsal: plays';
      case 'pause':
        return 'Rehearsal: paused';
      case 'jump':
        return `Rehearsal: went to ${clockText(to ?? 0)}`;
      case 'speed':
        return `Rehearsal: runs at ${to} times its speed`;
      case 'loop':
        return part
          ? `Rehearsal: plays ${clockText(part.from)} to ${clockText(part.to)} again and again`
          : 'Rehearsal: plays on to the end';
    }
  },
});

import { isRecord } from '../board/own.ts';
import { clockText } from '../clock/clock.ts';
import { Maybe, Must, Num, OneOf, OrNull, Text } from '../document/rules.ts';
import type { Part } from '../tape/tape.ts';
import { action } from './action.ts';
import { ActionRequest } from './request.ts';
import { tapeName } from './situation.ts';

const REHEARSE = ['start', 'end', 'play', 'pause', 'jump', 'speed', 'loop'] as const;

/** What is done with the tape that is played. */
export class RehearseRequest extends ActionRequest {
  @OneOf('rehearse') kind!: 'rehearse';
  @OneOf(...REHEARSE) do!: (typeof REHEARSE)[number];
  @Maybe() @Text(1, 80) tape?: string;
  /** By which maps and patches the tape is read. */
  @Maybe() @OneOf('tape', 'today') maps?: 'tape' | 'today';
  /** Where to jump to, ms; or how fast it is to run. */
  @Maybe() @Num(0, 1e9) to?: number;
  /** The part to play again and again, ms; none ends that. */
  @Maybe() @OrNull() @Must('object', isRecord, 'must be a part of the tape') part?: Part | null;
}

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

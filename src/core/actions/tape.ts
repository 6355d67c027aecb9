import { Count, Maybe, Name, OneOf, Text } from '../document/rules.ts';
import type { Part } from '../tape/tape.ts';
import { action } from './action.ts';
import { ActionRequest } from './request.ts';
import { tapeName } from './situation.ts';

const TAPE = ['record', 'stop', 'rename', 'delete', 'cut'] as const;

/** What is done to tapes. */
export class TapeRequest extends ActionRequest {
  @OneOf('tape') kind!: 'tape';
  @OneOf(...TAPE) do!: (typeof TAPE)[number];
  /** The tape's key; a recording is the one that is being made. */
  @Maybe() @Text(1, 80) tape?: string;
  @Maybe() @Name() name?: string;
  /** For a cut: the parts that are kept, in ms. The deck reads them. */
  @Maybe() @Count(0, 100) parts?: Part[];
}

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

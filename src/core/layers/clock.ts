import { TYPE } from './common.ts';
import { choice, clock, number } from './property.ts';

/** A clock's digits, worked out in the page for each frame. */
export const CLOCK = {
  word: 'Clock',
  properties: {
    clock: clock({ label: 'Clock', section: 'content', needed: true, main: true }),
    ...TYPE,
    form: choice({ label: 'Written', section: 'content', choices: ['m:ss', 's'] }),
    tenthsBelow: number({
      label: 'Tenths below',
      section: 'content',
      unit: 'ms',
      min: 0,
      max: 60_000,
      whole: true,
    }),
  },
};

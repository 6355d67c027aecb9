import { text } from './property.ts';

/** A group of layers of which exactly one shows: the one whose `member` is what `which` says. */
export const ONE_OF = {
  word: 'One-of group',
  holds: true,
  properties: {
    /** What the operator reads for showing none of them; blank: one always shows. */
    empty: text({ label: 'May show nothing, called', section: 'order' }),
    which: text({ label: 'Which shows', section: 'order', bound: true }),
  },
} as const;

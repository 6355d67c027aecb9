import { LENGTH } from './common.ts';
import { choice, colour, flag, number, text, type Property } from './property.ts';

const LAMPS = { section: 'content', bound: true, min: 0, max: 50 } as const;

/** How many lamps can each have a Value of their own. */
const LAMPS_EACH = 12;
type LampName = `lamp${1 | 2 | 3 | 4 | 5 | 6 | 7 | 8 | 9 | 10 | 11 | 12}`;

/** Lamps in a row, a column or placed freely, so many of them on, or each by its own Value. */
export const PIPS = {
  word: 'Pips',
  properties: {
    by: choice({
      label: 'Lamps are on',
      section: 'content',
      choices: ['count', 'each'],
      words: { count: 'so many, from the first', each: 'each by itself' },
    }),
    count: number({
      label: 'How many are on',
      ...LAMPS,
      needs: { prop: 'by', is: ['count'] },
    }),
    of: number({ label: 'How many there are', ...LAMPS }),
    ...(Object.fromEntries(
      Array.from({ length: LAMPS_EACH }, (_, i) => [
        `lamp${i + 1}`,
        flag({
          label: `Lamp ${i + 1}`,
          section: 'content',
          bound: true,
          default: false,
          needs: { prop: 'by', is: ['each'] },
        }),
      ]),
    ) as Record<LampName, Property<boolean, true, false>>),
    on: colour({ label: 'Colour of those on', section: 'look', bound: true, default: '#ffffff' }),
    off: colour({ label: 'Colour of those off', section: 'look', bound: true, default: '#444444' }),
    shape: choice({
      label: 'Form of a lamp',
      section: 'look',
      choices: ['bar', 'dot', 'diamond'],
    }),
    gap: number({ label: 'Gap', section: 'look', bound: true, animated: true, ...LENGTH }),
    direction: choice({
      label: 'Direction',
      section: 'order',
      choices: ['row', 'column', 'placed'],
      words: { row: 'row', column: 'column', placed: 'placed freely' },
    }),
    /** The middle of each lamp, by its share of the width and of the height in percent: `50,10 90,50 10,50`. */
    spots: text({ label: 'Places', section: 'order', needs: { prop: 'direction', is: ['placed'] } }),
    lampSize: number({
      label: 'Size of a lamp',
      section: 'order',
      default: 16,
      ...LENGTH,
      needs: { prop: 'direction', is: ['placed'] },
    }),
  },
};

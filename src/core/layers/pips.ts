import { LENGTH } from './common.ts';
import { choice, colour, number } from './property.ts';

const LAMPS = { section: 'content', bound: true, min: 0, max: 50 } as const;

/** Lamps in a row or a column, so many of them on. */
export const PIPS = {
  word: 'Pips',
  properties: {
    count: number({ label: 'How many are on', ...LAMPS }),
    of: number({ label: 'How many there are', ...LAMPS }),
    on: colour({ label: 'Colour of those on', section: 'look', bound: true, first: '#ffffff' }),
    off: colour({ label: 'Colour of those off', section: 'look', bound: true, first: '#444444' }),
    gap: number({ label: 'Gap', section: 'look', bound: true, animated: true, ...LENGTH }),
    direction: choice({ label: 'Direction', section: 'order', choices: ['row', 'column'] }),
  },
};

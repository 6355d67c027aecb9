import { colour, number, text } from './property.ts';

const POINT = {
  section: 'place',
  bound: true,
  animated: true,
  unit: 'px',
  min: -20_000,
  max: 20_000,
} as const;

/** A straight line from point to point; points count from the layer's own left and top. */
export const LINE = {
  word: 'Line',
  properties: {
    fromX: number({ label: 'Begins, across', ...POINT }),
    fromY: number({ label: 'Begins, down', ...POINT }),
    toX: number({ label: 'Ends, across', ...POINT, default: 100 }),
    toY: number({ label: 'Ends, down', ...POINT }),
    colour: colour({ label: 'Colour', section: 'look', bound: true, default: '#ffffff' }),
    thickness: number({
      label: 'Thickness',
      section: 'look',
      bound: true,
      animated: true,
      unit: 'px',
      default: 4,
      min: 0,
      max: 1000,
    }),
    /** Lengths in px of what is drawn and what is left out, in turns, as SVG writes them: `12 6`; blank for none. */
    dash: text({ label: 'Dashes', section: 'look' }),
  },
};

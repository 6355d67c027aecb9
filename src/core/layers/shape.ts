import { LENGTH } from './common.ts';
import { choice, colour, number } from './property.ts';

/** A filled box or ellipse. */
export const SHAPE = {
  word: 'Shape',
  properties: {
    shape: choice({ label: 'Shape', section: 'look', choices: ['box', 'ellipse'] }),
    fill: colour({ label: 'Fill', section: 'look', bound: true, first: '#808080' }),
    radius: number({ label: 'Corner radius', section: 'look', bound: true, animated: true, ...LENGTH }),
    /** How far the upright sides lean. */
    slant: number({
      label: 'Lean',
      section: 'look',
      bound: true,
      animated: true,
      unit: '°',
      min: -60,
      max: 60,
    }),
  },
};

import { LENGTH } from './common.ts';
import { choice, colour, number, text } from './property.ts';

const CORNER = {
  section: 'corners',
  bound: true,
  animated: true,
  ...LENGTH,
  needs: { prop: 'corners', is: ['each'] },
} as const;

/** A filled box, ellipse or any other outline. */
export const SHAPE = {
  word: 'Shape',
  properties: {
    shape: choice({
      label: 'Shape',
      section: 'look',
      choices: ['box', 'ellipse', 'diamond', 'polygon', 'path'],
      words: { box: 'box', ellipse: 'ellipse', diamond: 'diamond', polygon: 'polygon', path: 'free path' },
    }),
    /** Corners, each by its share of the width and of the height in percent: `50,0 100,100 0,100`. */
    points: text({ label: 'Corners', section: 'look', needs: { prop: 'shape', is: ['polygon'] } }),
    /** SVG path data in a box of 100 by 100, which is stretched to the layer's. */
    path: text({ label: 'Path', section: 'look', most: 20_000, needs: { prop: 'shape', is: ['path'] } }),
    fill: colour({ label: 'Fill', section: 'look', bound: true, default: '#808080' }),
    /** With it the fill runs from one colour to the other. */
    fillTo: colour({ label: 'Fades to', section: 'look', bound: true }),
    fillAngle: number({
      label: 'Direction of the fade',
      section: 'look',
      bound: true,
      animated: true,
      unit: '°',
      default: 180,
      min: -360,
      max: 360,
      needs: { prop: 'fillTo' },
    }),
    border: number({ label: 'Border', section: 'look', bound: true, animated: true, ...LENGTH }),
    borderColour: colour({
      label: 'Colour of the border',
      section: 'look',
      bound: true,
      default: '#ffffff',
      needs: { prop: 'border' },
    }),
    corners: choice({
      label: 'Corners',
      section: 'corners',
      choices: ['alike', 'each'],
      words: { alike: 'all alike', each: 'each its own' },
      needs: { prop: 'shape', is: ['box'] },
    }),
    radius: number({ label: 'Corner radius', section: 'corners', bound: true, animated: true, ...LENGTH }),
    radiusTopRight: number({ label: 'Top right', ...CORNER }),
    radiusBottomRight: number({ label: 'Bottom right', ...CORNER }),
    radiusBottomLeft: number({ label: 'Bottom left', ...CORNER }),
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

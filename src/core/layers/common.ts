import { choice, clock, colour, flag, number, text } from './property.ts';

const AWAY = { unit: 'px', min: -20_000, max: 20_000 } as const;
export const LENGTH = { unit: 'px', min: 0, max: 20_000 } as const;
const SOFT = { section: 'mask', bound: true, animated: true, ...LENGTH } as const;
const SHADOW = { section: 'shadow', bound: true, animated: true, needs: { prop: 'shadow' } } as const;
const MASKED = { section: 'mask', needs: { prop: 'mask' } } as const;

const PLACED = { section: 'place', bound: true, animated: true } as const;

/** What every layer has: where it stands, and whether it shows. */
export const COMMON = {
  x: number({ label: 'From the left', ...PLACED, ...AWAY }),
  y: number({ label: 'From the top', ...PLACED, ...AWAY }),
  width: number({ label: 'Width', ...PLACED, ...LENGTH }),
  height: number({ label: 'Height', ...PLACED, ...LENGTH }),
  rotation: number({ label: 'Rotation', ...PLACED, unit: '°', min: -3600, max: 3600 }),
  opacity: number({
    label: 'Opacity',
    section: 'look',
    bound: true,
    animated: true,
    default: 1,
    min: 0,
    max: 1,
    share: true,
  }),
  shadow: colour({ label: 'Shadow', section: 'shadow', bound: true }),
  shadowX: number({ label: 'To the right', ...SHADOW, ...AWAY }),
  shadowY: number({ label: 'Downwards', ...SHADOW, ...AWAY, default: 4 }),
  shadowBlur: number({ label: 'Blur', ...SHADOW, unit: 'px', default: 8, min: 0, max: 500 }),
  /** The id of a layer of the same layout: this one shows only where that one is. */
  mask: text({ label: 'Shows only where', section: 'mask' }),
  maskBy: choice({
    label: 'By its',
    ...MASKED,
    choices: ['alpha', 'brightness'],
    words: { alpha: 'shape', brightness: 'brightness' },
  }),
  maskInvert: flag({ label: 'Only where it is not', ...MASKED, default: false }),
  softLeft: number({ label: 'Soft edge, left', ...SOFT }),
  softRight: number({ label: 'Soft edge, right', ...SOFT }),
  softTop: number({ label: 'Soft edge, top', ...SOFT }),
  softBottom: number({ label: 'Soft edge, bottom', ...SOFT }),
  shows: flag({ label: 'Shows', section: 'showing', bound: true, default: true }),
  /** The layer shows only while this clock stands between two times; decided in the page, frame by frame. */
  windowClock: clock({ label: 'Shows by the clock', section: 'showing' }),
  windowAbove: number({
    label: 'While above',
    section: 'showing',
    unit: 'ms',
    default: -1,
    min: -1,
    max: 86_400_000,
  }),
  windowBelow: number({
    label: 'While below',
    section: 'showing',
    unit: 'ms',
    default: 86_400_000,
    min: 0,
    max: 86_400_000,
  }),
};

/** What is written in: of texts and clocks. */
export const TYPE = {
  font: text({ label: 'Font', section: 'type', needed: true }),
  weight: number({ label: 'Weight', section: 'type', default: 400, min: 100, max: 900, whole: true }),
  /** It is drawn at this size, or smaller where it does not fit. */
  size: number({
    label: 'Size',
    section: 'type',
    needed: true,
    bound: true,
    animated: true,
    unit: 'px',
    min: 1,
    max: 4000,
  }),
  colour: colour({ label: 'Colour', section: 'type', bound: true, default: '#ffffff' }),
  anchorX: choice({ label: 'Across', section: 'type', choices: ['left', 'centre', 'right'] }),
  anchorY: choice({
    label: 'Up and down',
    section: 'type',
    choices: ['top', 'middle', 'bottom', 'base'],
    words: { top: 'top', middle: 'middle', bottom: 'bottom', base: 'on its base line' },
  }),
  tracking: number({ label: 'Space between letters', section: 'type', unit: 'em', min: -1, max: 10 }),
  marginX: number({ label: 'Margin at the sides', section: 'fit', ...LENGTH }),
  marginY: number({ label: 'Margin above and below', section: 'fit', ...LENGTH }),
  outline: number({
    label: 'Outline',
    section: 'look',
    bound: true,
    animated: true,
    unit: 'px',
    min: 0,
    max: 200,
  }),
  outlineColour: colour({
    label: 'Colour of the outline',
    section: 'look',
    bound: true,
    default: '#000000',
    needs: { prop: 'outline' },
  }),
};

import { TYPE } from './common.ts';
import { choice, colour, flag, number, text, type Property } from './property.ts';

/** A further part of a text, in a style of its own. */
const part = (n: number) => {
  const needs = { prop: `text${n}` };
  return {
    [`text${n}`]: text({
      label: `Part ${n}`,
      section: 'parts',
      bound: true,
      ...(n > 2 && { needs: { prop: `text${n - 1}` } }),
    }),
    [`weight${n}`]: number({
      label: `Weight of part ${n}`,
      section: 'parts',
      default: 400,
      min: 100,
      max: 900,
      whole: true,
      needs,
    }),
    [`size${n}`]: number({
      label: `Size of part ${n}`,
      section: 'parts',
      default: 1,
      min: 0.1,
      max: 4,
      share: true,
      needs,
    }),
    [`colour${n}`]: colour({
      label: `Colour of part ${n}`,
      section: 'parts',
      bound: true,
      default: '#ffffff',
      needs,
    }),
    [`font${n}`]: text({ label: `Font of part ${n}`, section: 'parts', needs }),
  };
};

/** What the further parts declare, by the names under which a layer holds it. */
type Parts = Record<`text${2 | 3 | 4}` | `colour${2 | 3 | 4}`, Property<string, true, false>> &
  Record<`weight${2 | 3 | 4}` | `size${2 | 3 | 4}`, Property<number, false, false>> &
  Record<`font${2 | 3 | 4}`, Property<string, false, false>>;

/** A text in one line or several, in one style or several one after another. */
export const TEXT = {
  word: 'Text',
  properties: {
    text: text({ label: 'Text', section: 'content', bound: true, main: true }),
    /** What it says while it is designed, where what it says on air comes from elsewhere. */
    sample: text({ label: 'As designed', section: 'content' }),
    ...TYPE,
    upper: flag({ label: 'All capitals', section: 'type', default: false }),
    fit: choice({
      label: 'When it is too long',
      section: 'fit',
      choices: ['shrink', 'condense', 'wrap', 'cut'],
      words: {
        shrink: 'Make it smaller',
        condense: 'Narrow it, then smaller',
        wrap: 'More lines, then smaller',
        cut: 'Cut off its end',
      },
    }),
    narrowest: number({
      label: 'At the narrowest',
      section: 'fit',
      default: 0.7,
      min: 0.3,
      max: 1,
      share: true,
      needs: { prop: 'fit', is: ['condense'] },
    }),
    lineHeight: number({
      label: 'From line to line',
      section: 'fit',
      default: 1,
      min: 0.5,
      max: 3,
      share: true,
      needs: { prop: 'fit', is: ['wrap'] },
    }),
    least: number({ label: 'Never smaller than', section: 'fit', unit: 'px', min: 0, max: 4000 }),
    /** Texts of one layout with the same name here never differ in scale. */
    fitWith: text({ label: 'Same scale as', section: 'fit' }),
    ...(Object.assign({}, ...[2, 3, 4].map(part)) as Parts),
  },
};

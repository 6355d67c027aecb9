import { TYPE } from './common.ts';
import { text } from './property.ts';

/** One line of text. */
export const TEXT = {
  word: 'Text',
  properties: {
    text: text({ label: 'Text', section: 'content', bound: true, main: true }),
    ...TYPE,
    /** Texts of one layout with the same name here never differ in scale. */
    fitWith: text({ label: 'Same scale as', section: 'type' }),
  },
};

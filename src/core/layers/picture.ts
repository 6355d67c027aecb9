import { choice, flag, number, picture } from './property.ts';

/** A picture or a loop of the media library. */
export const PICTURE = {
  word: 'Picture',
  properties: {
    picture: picture({ label: 'Picture', section: 'content', main: true }),
    fit: choice({
      label: 'In its box',
      section: 'look',
      choices: ['contain', 'cover', 'stretch'],
      words: { contain: 'all of it', cover: 'fill the box', stretch: 'stretched' },
    }),
    anchorX: choice({ label: 'Across', section: 'look', choices: ['centre', 'left', 'right'] }),
    anchorY: choice({ label: 'Up and down', section: 'look', choices: ['middle', 'top', 'bottom'] }),
    /** Of a loop: it begins anew when it ends. */
    again: flag({ label: 'A loop begins again', section: 'look', default: true }),
    start: number({
      label: 'A loop begins at',
      section: 'look',
      unit: 'ms',
      min: 0,
      max: 3_600_000,
      whole: true,
    }),
  },
};

import { choice, picture } from './property.ts';

/** A picture or a loop of the media library. */
export const PICTURE = {
  word: 'Picture',
  properties: {
    picture: picture({ label: 'Picture', section: 'content', main: true }),
    fit: choice({ label: 'Fit', section: 'look', choices: ['contain', 'cover'] }),
  },
};

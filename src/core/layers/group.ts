import { flag } from './property.ts';

/** Layers that stand together. */
export const GROUP = {
  word: 'Group',
  holds: true,
  properties: {
    clip: flag({ label: 'Cut off at its edges', section: 'order', default: false }),
  },
} as const;

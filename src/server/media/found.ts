import type { MediaEntry } from '../../core/media/media.ts';

/** What a content was found to be, by its own bytes. */
export type Found = Omit<MediaEntry, 'path' | 'hash' | 'size'> & { bytes: Uint8Array };

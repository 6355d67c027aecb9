import type { OpenPage } from '../wire/wire.ts';

/** A page is late where what is sent takes longer than this to get there, in ms. */
const LATE_PAGE = 250;

/** What is wrong with a page, in words; null where nothing is. */
export function wrongWithPage({ state, late }: Pick<OpenPage, 'state' | 'late'>): string | null {
  if (state === 'gone') return 'was open and is gone';
  if (state === 'silent') return 'does not answer';
  if (state === 'behind') return 'does not take what is sent';
  return late !== null && late > LATE_PAGE ? `is ${late} ms late` : null;
}

import type { OpenPage } from '../wire/wire.ts';

/** A page is late where what is sent takes longer than this to get there, in ms. */
const LATE_PAGE = 250;

/** What is wrong with a page, in words; null where nothing is. `nameOf` gives the name of an item by its key. */
export function wrongWithPage(
  { state, late, fault }: Pick<OpenPage, 'state' | 'late' | 'fault'>,
  nameOf: (item: string) => string = (item) => item,
): string | null {
  if (state === 'gone') return 'was open and is gone';
  if (state === 'silent') return 'does not answer';
  if (state === 'behind') return 'does not take what is sent';
  if (fault)
    return `cannot draw the layer “${fault.layer}” of ${nameOf(fault.item)}: it stays as it was (${fault.text})`;
  return late !== null && late > LATE_PAGE ? `is ${late} ms late` : null;
}

import { lookChanges, type Look } from '../../core/show/look.ts';
import { counted } from '../../core/text/words.ts';
import type { Prepared } from '../shared/desk.ts';
import { itemName } from '../shared/rundown.ts';
import { placeName } from '../shared/zones.ts';

/** What a look would change now: in how many zones, and a line for each of them. */
export function changesOf(look: Look, { lanes, documents }: Prepared): { count: number; lines: string[] } {
  const { changes, missing } = lookChanges(look, lanes, documents.item);
  const nameOf = (key: string | undefined) => (key === undefined ? 'nothing' : itemName(documents.item, key));
  return {
    count: changes.length,
    lines: [
      ...changes.map(
        ({ lane, item }) =>
          `${placeName(documents.output, lane)}: ${nameOf(lane.onAir?.item)} → ${nameOf(item?.key)}`,
      ),
      ...(missing ? [`${counted(missing, 'zone or item')} of it not there any more`] : []),
    ],
  };
}

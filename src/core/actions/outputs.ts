import { placesIn, type Item } from '../show/item.ts';
import { laneKey, type Output, type Show } from '../show/show.ts';
import { editsOf, type Change } from './change.ts';
import { refuse } from './refuse.ts';

/** Refuses a change, whatever action makes it, that takes zones away in which something stands or to which items go. */
export function refuseZonesInUse(show: Show, change: Change): void {
  for (const { was, is } of editsOf(change, 'output')) if (was) refuseGone(show, was, is);
}

function refuseGone({ items, lanes }: Show, was: Output, is: Output | null): void {
  for (const zone of was.zones) {
    if (is?.zones.some((z) => z.key === zone.key)) continue;
    const place = { output: was.key, zone: zone.key };
    const what = `The zone ${zone.name} of ${was.name} cannot be deleted`;
    const lane = lanes.get(laneKey(place));
    if (lane?.onAir)
      refuse(`${what}: ${items.get(lane.onAir.item)?.name ?? 'an item'} is on air in it. Clear it first.`);
    const going = [...items.values()].filter((i) => placesIn(i, place));
    const [first] = going;
    if (first)
      refuse(
        `${what}: ${first.name}${going.length > 1 ? ` and ${going.length - 1} more` : ''} would ${nowhere(going) ? 'go nowhere' : 'not go there any more'}.`,
      );
  }
}

/** Whether some of these items go to one zone alone. */
const nowhere = (items: readonly Item[]): boolean => items.some((i) => i.zones.length === 1);

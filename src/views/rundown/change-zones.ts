import { placesIn, placeKey, type Place } from '../../core/show/item.ts';
import type { Desk } from '../shared/desk.ts';

/** How the zones change that an item goes to, whatever they are by then. */
export type ChangeZones = (zones: readonly Place[]) => Place[];

export const withZone =
  (place: Place): ChangeZones =>
  (zones) =>
    placesIn({ zones }, place) ? [...zones] : [...zones, place];
export const withoutZone =
  (place: Place): ChangeZones =>
  (zones) =>
    zones.filter((z) => placeKey(z) !== placeKey(place));

/**
 * Changes where items go, from how they stand once all that was asked here before is done: two presses in one moment are two
 * changes. An item that goes there already is not touched.
 */
export const changeZones = (desk: Desk, keys: readonly string[], change: ChangeZones): Promise<void> =>
  desk.inTurn(async () => {
    const items = (desk.store.getState().desk?.documents.item ?? []).flatMap((was) => {
      const zones = keys.includes(was.key) ? change(was.zones) : was.zones;
      return zones.length === was.zones.length ? [] : [{ ...was, zones }];
    });
    if (items.length) await desk.act({ kind: 'put-items', only: ['zones'], items });
  });

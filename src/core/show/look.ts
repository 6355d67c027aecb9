import { Each, Strict } from '../document/check.ts';
import type { Parsed } from '../document/problems.ts';
import { Count, Is, Key, Name, OneOf, OrNull, Text } from '../document/rules.ts';
import { readDocument } from '../document/upgrade.ts';
import { HOT_KEYS, Place, placeKey, type Item } from './item.ts';
import { laneKey, type Lane } from './show.ts';

/** What stands in one zone of a look. */
@Strict
export class LookPlace extends Place {
  /** The item that stands there; null: nothing. */
  @OrNull() @Text(1, 80) item: string | null = null;
}

/** A saved set of which item stands in which zone, recalled at one stroke. A zone that it does not name is left as it is. */
@Strict
export class Look {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @Name() name!: string;
  /** The key that recalls it on the live view; blank for none. */
  @OneOf('', ...HOT_KEYS) hotkey = '';
  @Count(1, 1000, 'a look needs at least one zone') @Each(() => LookPlace) places!: LookPlace[];
}

/** Reads a look; refuses one that names a zone twice. */
export function parseLook(input: unknown): Parsed<Look> {
  return readDocument(Look, [], input, ({ places }) =>
    new Set(places.map(placeKey)).size === places.length ? [] : ['places: a zone stands there twice'],
  );
}

/** What stands on air as a look, nothing where nothing stands. */
export const lookOf = (known: Pick<Look, 'key' | 'name' | 'hotkey'>, lanes: Iterable<Lane>): Look => ({
  schema: 1,
  ...known,
  places: [...lanes].map(({ output, zone, onAir }) => ({ output, zone, item: onAir?.item ?? null })),
});

/** What a look changes in one lane. */
export interface LookChange {
  lane: Lane;
  /** What it puts there; null: it clears the lane. */
  item: Item | null;
}

/**
 * What a look changes as all stands now: the lanes in which something else stands. Zones and items that are not there any more
 * change nothing, and are counted.
 */
export function lookChanges(
  { places }: Pick<Look, 'places'>,
  lanes: Iterable<Lane>,
  items: Iterable<Item>,
): { changes: LookChange[]; missing: number } {
  const laneAt = new Map([...lanes].map((l) => [laneKey(l), l]));
  const itemAt = new Map([...items].map((i) => [i.key, i]));
  let missing = 0;
  const changes = places.flatMap((place): LookChange[] => {
    const lane = laneAt.get(placeKey(place));
    const item = place.item === null ? null : itemAt.get(place.item);
    if (!lane || item === undefined) {
      missing++;
      return [];
    }
    return (lane.onAir?.item ?? null) === place.item ? [] : [{ lane, item }];
  });
  return { changes, missing };
}

import { layoutFor } from '../show/layout.ts';
import type { Item, Place } from '../show/item.ts';
import { laneKey, laneOf, missingInputs, withOnAir, type Lane, type OnAir, type Show } from '../show/show.ts';
import { resetInputs } from '../workshop/inputs.ts';
import { edit, type Change, type Edit } from './change.ts';
import { refuse } from './refuse.ts';
import type { Situation } from './situation.ts';
import type { World } from './world.ts';

/** What a lane is to have on air: an item, or nothing. */
export interface Put {
  lane: Lane;
  item: Item | null;
}

/**
 * How long after it is told a take or a clear on these outputs happens, in ms: the longest of their leads, so that it is one moment
 * on all of them.
 */
export const leadOf = (
  { documents }: Pick<World, 'documents'>,
  places: readonly Pick<Place, 'output'>[],
): number => Math.max(0, ...places.map(({ output }) => documents.output.get(output)?.lead ?? 0));

/** The lanes that an item goes to: all of its zones, or the one that is asked for. Throws a Refusal where there is none. */
export function lanesFor(
  show: Show,
  { name, zones }: Item,
  { output, zone }: { output?: string; zone?: string },
): Lane[] {
  if (zones.length === 0) refuse(`${name} goes to no zone yet: choose one in the rundown.`);
  const only = output !== undefined && zone !== undefined ? laneKey({ output, zone }) : null;
  const places = zones.filter((place) => only === null || laneKey(place) === only);
  if (places.length === 0) refuse(`${name} does not go to that zone.`);
  // A zone that somebody took out of the file of an output is no reason to keep it off the others.
  const lanes = places.flatMap((place) => show.lanes.get(laneKey(place)) ?? []);
  return lanes.length ? lanes : [laneOf(show, places[0]!)];
}

/** Refuses an item that cannot go on air as it is: without its template, or with a required input that is empty. */
export function refuseUnready({ world }: Pick<Situation, 'world'>, item: Item): void {
  const template = world.documents.template.get(item.template);
  if (!template) refuse(`${item.name} cannot go on air: its template is missing.`);
  const missing = missingInputs(template.inputs, item.inputs);
  if (missing.length) refuse(`${item.name} needs ${missing.join(' and ')} before it can go on air.`);
}

/** How an item stands in the zone of a lane from a moment on (server ms): in the layout that fits the zone best. */
function newOnAir({ documents }: World, { lane, item }: { lane: Lane; item: Item }, takenAt: number): OnAir {
  const template = documents.template.get(item.template)!;
  const zone = documents.output.get(lane.output)?.zones.find((z) => z.key === lane.zone);
  const layout = layoutFor(template, zone ?? template.layouts[0]!).key;
  return { item: item.key, layout, inputs: { ...item.inputs }, takenAt };
}

/**
 * Puts items on air in lanes and clears others, all at one moment: whatever is taken says when it was, and what leaves the air
 * everywhere has those of its inputs anew that begin anew. `desk`: where it was asked for. Throws a Refusal where an item cannot go on air.
 */
export function airChange(situation: Situation, puts: readonly Put[], at: number, desk?: string): Change {
  const { show, world } = situation;
  const lead = leadOf(
    world,
    puts.map((p) => p.lane),
  );
  const taken = new Set(puts.flatMap((p) => p.item ?? []));
  for (const item of taken) refuseUnready(situation, item);
  const lanes = puts.map(({ lane, item }): Edit => {
    const onAir = item && {
      ...newOnAir(world, { lane, item }, at + lead),
      ...(desk ? { by: desk } : {}),
    };
    const is = { ...withOnAir(lane, onAir), ...(item ? { next: item.key } : {}) };
    return edit('lane', laneKey(lane), lane, is);
  });
  const items = new Map([...show.lanes].map(([key, lane]) => [key, lane.onAir?.item]));
  const before = new Set(puts.flatMap(({ lane }) => lane.onAir?.item ?? []));
  for (const { lane, item } of puts) items.set(laneKey(lane), item?.key);
  const after = new Set(items.values());
  const left = [...before].flatMap((key) => (after.has(key) ? [] : (show.items.get(key) ?? [])));
  return {
    edits: [
      ...lanes,
      // What is put on air may be filled in anew with it: what stood before is what is kept.
      ...[...taken].map((item) =>
        edit('item', item.key, show.items.get(item.key) ?? item, { ...item, aired: at }),
      ),
      ...left.flatMap((item) => begunAnew(world, item)),
    ],
    lead,
  };
}

/** What is changed in an item that leaves the air: its inputs that begin anew do. */
function begunAnew({ documents }: World, item: Item): Edit[] {
  const template = documents.template.get(item.template);
  if (!template?.inputs.some((i) => i.resets)) return [];
  return [edit('item', item.key, item, { ...item, inputs: resetInputs(template, item.inputs) })];
}

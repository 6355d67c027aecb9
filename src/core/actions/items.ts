import { defaultRundown, RUNDOWN, type Group, type Rundown } from '../show/rundown.ts';
import { placesIn, itemProblems, placeKey, type Item } from '../show/item.ts';
import { airing, isOnAir, itemOf, laneKey, laneOf, refuseInput, type Lane } from '../show/show.ts';
import { edit, type Edit } from './change.ts';
import { refuse } from './refuse.ts';
import type { Situation } from './situation.ts';
import type { World } from './world.ts';

/** What a new item is known by; older ones may have any text. */
const KEY = /^[A-Za-z0-9][A-Za-z0-9.-]*$/;

/** The rundown as it is; with the first groups where there is none yet. */
export const rundownOf = ({ documents }: Pick<World, 'documents'>): Rundown =>
  documents.rundown.get(RUNDOWN) ?? defaultRundown();

/** What makes the groups of the rundown these; nothing where they are. */
export function rundownEdit(world: World, groups: readonly Group[]): Edit[] {
  const was = world.documents.rundown.get(RUNDOWN) ?? null;
  if (JSON.stringify(was?.groups) === JSON.stringify(groups)) return [];
  return [edit('rundown', RUNDOWN, was, { schema: 1, key: RUNDOWN, groups: [...groups] })];
}

/**
 * Refuses items, each part of which is well formed, that cannot be kept beside all others: of a template, of zones or with something to follow that is not there, with
 * an input that the template has not, with the number or the hot key of another; or of which a part is on air that would not be.
 */
export function refuseItems(
  { show, world }: Situation,
  items: readonly Item[],
  gone: readonly string[] = [],
): void {
  const after = new Map([...show.items, ...items.map((i) => [i.key, i] as const)]);
  for (const key of gone) after.delete(key);
  const numbers = new Map<number, Item>();
  const hotkeys = new Map<string, Item>();
  const own = new Set(items.map((i) => i.key));
  for (const item of items) {
    const look = [...world.documents.look.values()].find((l) => l.hotkey !== '' && l.hotkey === item.hotkey);
    if (look) refuse(`The look ${look.name} has the key ${item.hotkey} already.`);
  }
  // Those that stay first: it is the new ones that must give way.
  for (const item of [...after.values()].sort((a, b) => Number(own.has(a.key)) - Number(own.has(b.key)))) {
    const other = numbers.get(item.number);
    if (other && own.has(item.key)) refuse(`${other.name} has the number ${item.number} already.`);
    numbers.set(item.number, item);
    if (!item.hotkey) continue;
    const same = hotkeys.get(item.hotkey);
    if (same && own.has(item.key)) refuse(`${same.name} has the key ${item.hotkey} already.`);
    hotkeys.set(item.hotkey, item);
  }
  for (const item of items) {
    const problems = itemProblems(item);
    if (problems.length) refuse(`This cannot be kept: ${problems.join('; ')}.`);
    const was = show.items.get(item.key);
    if (!was && !KEY.test(item.key))
      refuse(
        'The key of an item is letters, digits, points and hyphens, and begins with a letter or a digit.',
      );
    const template =
      world.documents.template.get(item.template) ?? refuse(`There is no template "${item.template}".`);
    for (const place of item.zones) if (!was || !placesIn(was, place)) laneOf(show, place);
    if (item.follows !== null && item.follows !== was?.follows && !after.has(item.follows))
      refuse(`There is no item "${item.follows}" to follow ${item.name}.`);
    for (const [key, value] of Object.entries(item.inputs)) {
      if (was && was.inputs[key] === value) continue;
      const problem = refuseInput(
        template.inputs.find((d) => d.key === key),
        key,
        value,
      );
      if (problem) refuse(`${item.name}: ${problem}`);
    }
    const goes = new Set(item.zones.map(placeKey));
    const lanes = was ? airing(show.lanes.values(), item.key) : [];
    if (lanes.length && (was!.template !== item.template || lanes.some((l) => !goes.has(laneKey(l)))))
      refuse(`${was!.name} is on air: clear it before it goes elsewhere.`);
  }
}

/** A lane in which some items are next, queued and what was on before no more. */
function laneWithout(lane: Lane, gone: ReadonlySet<string>): Lane {
  const { next, before, queue } = lane;
  const left = {
    next: gone.has(next ?? '') ? null : next,
    before: gone.has(before?.item ?? '') ? null : before,
    queue: queue.some((key) => gone.has(key)) ? queue.filter((key) => !gone.has(key)) : queue,
  };
  return left.next === next && left.before === before && left.queue === queue ? lane : { ...lane, ...left };
}

/**
 * What deletes items: they are next in no lane and follow nothing any more; others that are changed beside it are left alone.
 * What triggers take goes with its trigger. Throws a Refusal where one is on air.
 */
export function removalOf(
  { show, world }: Pick<Situation, 'show' | 'world'>,
  keys: readonly string[],
  beside: readonly Item[] = [],
): Edit[] {
  const items = keys.map((key) => itemOf(show, key));
  for (const item of items)
    if (isOnAir(show.lanes.values(), item.key)) refuse(`${item.name} is on air: clear it first.`);
  const gone = new Set(keys);
  const changed = new Set(beside.map((i) => i.key));
  const before = [...show.items.values()].filter(
    (i) => !gone.has(i.key) && !changed.has(i.key) && gone.has(i.follows ?? ''),
  );
  return [
    ...[...show.lanes.values()].flatMap((lane) => {
      const left = laneWithout(lane, gone);
      return left === lane ? [] : [edit('lane', laneKey(lane), lane, left)];
    }),
    ...before.map((item) => edit('item', item.key, item, { ...item, follows: null })),
    ...[...world.documents.trigger.values()]
      .filter((t) => gone.has(t.item))
      .map((t) => edit('trigger', t.key, t, null)),
    ...items.map((item) => edit('item', item.key, item, null)),
  ];
}

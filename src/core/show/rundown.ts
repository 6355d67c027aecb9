import { Each, Strict } from '../document/check.ts';
import type { Parsed } from '../document/problems.ts';
import { Count, Is, isText, Key, ListOf, Name } from '../document/rules.ts';
import { readDocument } from '../document/upgrade.ts';
import { freshKey } from '../text/keys.ts';
import { placesIn, Item } from './item.ts';
import type { Lane } from './show.ts';

/** The one rundown that is worked with, as a document. */
export const RUNDOWN = 'rundown';
/** There are no more groups than this, and no more items in all of them. */
const MOST_GROUPS = 100;
export const MOST_ITEMS = 2000;

/** A part of the night under a name, such as the break: its items in order, by their keys. */
@Strict
export class Group {
  @Key() key!: string;
  @Name() name!: string;
  @Count(0, MOST_ITEMS) @ListOf((v) => isText(v, 80), 'must be the keys of items') items!: string[];
}

/** The order in which items are worked with: groups, and the items in each. An item in none of them stands after them. */
@Strict
export class Rundown {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @Count(0, MOST_GROUPS) @Each(() => Group) groups!: Group[];
}

/** The groups of a night that has none yet. */
export const FIRST_GROUPS: readonly Group[] = [
  { key: 'pre-game', name: 'Pre-game', items: [] },
  { key: 'game', name: 'Game', items: [] },
  { key: 'breaks', name: 'Breaks', items: [] },
  { key: 'post-game', name: 'Post-game', items: [] },
];

/** A rundown with the first groups and nothing in them. */
export const defaultRundown = (): Rundown => ({
  schema: 1,
  key: RUNDOWN,
  groups: FIRST_GROUPS.map((g) => ({ ...g, items: [] })),
});

const repeated = (all: readonly string[]) => [...new Set(all.filter((one, i) => all.indexOf(one) !== i))];

/** Reads a rundown; refuses one with two groups of one key, or with one item twice. */
export function parseRundown(input: unknown): Parsed<Rundown> {
  return readDocument(Rundown, [], input, ({ key, groups }) => [
    ...(key === RUNDOWN ? [] : [`key: there is one rundown, "${RUNDOWN}"`]),
    ...repeated(groups.map((g) => g.key)).map((key) => `groups: two have the key "${key}"`),
    ...repeated(groups.flatMap((g) => g.items)).map((key) => `groups: the item "${key}" stands there twice`),
  ]);
}

/** A group of a model: with its items in it, whole. */
@Strict
export class ModelGroup {
  @Key() key!: string;
  @Name() name!: string;
  @Count(0, MOST_ITEMS) @Each(() => Item) items!: Item[];
}

/** A rundown with all its items under a name of its own, to begin another night from, or to be carried to another machine. */
@Strict
export class RundownModel {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @Name() name!: string;
  @Count(0, MOST_GROUPS) @Each(() => ModelGroup) groups!: ModelGroup[];
}

/** Reads a model; refuses one in which two groups or two items have one key. */
export function parseModel(input: unknown): Parsed<RundownModel> {
  return readDocument(RundownModel, [], input, ({ groups }) => [
    ...repeated(groups.map((g) => g.key)).map((key) => `groups: two have the key "${key}"`),
    ...repeated(groups.flatMap((g) => g.items.map((i) => i.key))).map(
      (key) => `groups: two items have the key "${key}"`,
    ),
  ]);
}

/** A group as it is shown: what is in no group stands under a blank key. */
export interface Shown {
  key: string;
  name: string;
  items: Item[];
}

const byNumber = (a: Item, b: Item) => a.number - b.number || (a.key < b.key ? -1 : 1);

/**
 * The items in their groups, in order; then, under a blank key, those that stand in none, by number. What a group names and is
 * not there any more is left out.
 */
export function grouped(groups: readonly Group[], items: readonly Item[]): Shown[] {
  const known = new Map(items.map((i) => [i.key, i]));
  const shown = groups.map(({ key, name, items: keys }) => ({
    key,
    name,
    items: keys.flatMap((k) => {
      const item = known.get(k);
      known.delete(k);
      return item ?? [];
    }),
  }));
  const rest = [...known.values()].sort(byNumber);
  return rest.length ? [...shown, { key: '', name: 'In no group', items: rest }] : shown;
}

/** The items in the order in which they are worked with: group by group. */
export const inOrder = (groups: readonly Group[], items: readonly Item[]): Item[] =>
  grouped(groups, items).flatMap((g) => g.items);

/**
 * What a lane takes next by itself: the first in its queue, else the item that stands below the one that is on air, or was last, among
 * those that go there; where there is none of both the first. `order`: the items in the order of the rundown. Undefined after the last one.
 */
export function followingIn(lane: Lane, order: readonly Item[]): Item | undefined {
  const queued = lane.queue.flatMap((key) => order.find((i) => i.key === key) ?? []);
  if (queued.length) return queued[0];
  const going = order.filter((item) => placesIn(item, lane));
  const last = (lane.onAir ?? lane.before)?.item;
  return going[going.findIndex((i) => i.key === last) + 1];
}

/**
 * The groups with items at the end of those that each names; one that is not there is made, behind the others. Groups are found by their
 * names, without regard to case.
 */
export function placedByName(groups: readonly Group[], named: ReadonlyMap<string, string>): Group[] {
  let all: readonly Group[] = groups;
  for (const [item, name] of named) {
    const plain = (text: string) => text.trim().toLowerCase();
    const found = all.find((g) => plain(g.name) === plain(name) || g.key === plain(name));
    const group = found ?? {
      key: freshKey(name, (key) => all.some((g) => g.key === key), 'group'),
      name: name.trim(),
      items: [],
    };
    if (!found) all = [...all, group];
    if (!group.items.includes(item)) all = placed(all, [item], group.key);
  }
  return [...all];
}

/** The groups with some items, in the order in which they are given, moved before another in a group, or to its end. */
export function placed(
  groups: readonly Group[],
  keys: readonly string[],
  group: string,
  before: string | null = null,
): Group[] {
  const moved = new Set(keys);
  return groups.map((g) => {
    // What it is to stand before may be moved itself: then before the next that stays.
    const at = before === null ? -1 : g.items.indexOf(before);
    const anchor = at < 0 ? undefined : g.items.slice(at).find((k) => !moved.has(k));
    const stay = g.items.filter((k) => !moved.has(k));
    if (g.key !== group) return stay.length === g.items.length ? g : { ...g, items: stay };
    const to = anchor === undefined ? stay.length : stay.indexOf(anchor);
    return { ...g, items: [...stay.slice(0, to), ...keys, ...stay.slice(to)] };
  });
}

/** The groups without some items. */
export const without = (groups: readonly Group[], keys: readonly string[]): Group[] =>
  placed(groups, keys, '');

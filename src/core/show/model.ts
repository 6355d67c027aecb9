import type { Template } from '../documents/template.ts';
import { freshKey } from '../text/keys.ts';
import { freeNumber, placesIn, type Item, type Place } from './item.ts';
import { grouped, type Group, type RundownModel } from './rundown.ts';

/** A rundown with its items as a model: they are as on a night that has not begun. */
export function modelOf(
  known: Pick<RundownModel, 'key' | 'name'>,
  groups: readonly Group[],
  items: readonly Item[],
): RundownModel {
  return {
    schema: 1,
    ...known,
    groups: grouped(groups, items).map(({ key, name, items: all }) => ({
      key: key || freshKey('more', (k) => groups.some((g) => g.key === k), 'more'),
      name: key ? name : 'More',
      items: all.map((i) => ({ ...i, aired: null })),
    })),
  };
}

/** What a model is used in: what is there already. */
export interface ModelContext {
  items: readonly Item[];
  groups: readonly Group[];
  templates: readonly Pick<Template, 'key' | 'inputs'>[];
  zones: readonly Place[];
  /** The keys of the items that are on air. */
  onAir: ReadonlySet<string>;
}

/** What using a model makes of a rundown. */
export interface Used {
  /** The items as they are to be, those that stay as they are left out. */
  items: Item[];
  groups: Group[];
  /** The keys of the items that go. */
  gone: string[];
  /** What of the model cannot be had here, each a sentence. */
  said: string[];
}

/**
 * What becomes of a rundown when a model is used: added to what is there, or in its place, where what is on air stays. What the
 * model names and is not here (a template, a zone, an input) is left out and said.
 */
export function usedModel(model: RundownModel, there: ModelContext, how: 'add' | 'replace'): Used {
  const said: string[] = [];
  const stays = there.items.filter((i) => how === 'add' || there.onAir.has(i.key));
  const keys = new Map<string, string>();
  const taken = new Map(stays.map((i) => [i.key, i]));
  const numbers = stays.map(({ number }) => ({ number }));
  const made: Item[] = [];
  for (const item of model.groups.flatMap((g) => g.items)) {
    const template = there.templates.find((t) => t.key === item.template);
    if (!template) {
      said.push(`${item.name} is left out: there is no template “${item.template}” here.`);
      continue;
    }
    const zones = item.zones.filter((z) => there.zones.some((at) => placesIn({ zones: [at] }, z)));
    if (zones.length < item.zones.length)
      said.push(
        `${item.name} goes to ${zones.length} of its ${item.zones.length} zones: the others are not here.`,
      );
    const known = new Set(template.inputs.map((d) => d.key));
    const inputs = Object.fromEntries(Object.entries(item.inputs).filter(([key]) => known.has(key)));
    const key = taken.has(item.key) ? freshKey(item.name, (k) => taken.has(k), 'item') : item.key;
    const number = numbers.some((n) => n.number === item.number) ? freeNumber(numbers) : item.number;
    const hotkey = [...taken.values()].some((i) => i.hotkey === item.hotkey) ? '' : item.hotkey;
    const is = { ...item, key, number, zones, inputs, hotkey, aired: null };
    keys.set(item.key, key);
    taken.set(key, is);
    numbers.push({ number });
    made.push(is);
  }
  const items = made.map((i) => ({ ...i, follows: keys.get(i.follows ?? '') ?? null }));
  const own = (group: { items: readonly Item[] }) => group.items.flatMap((i) => keys.get(i.key) ?? []);
  const kept = new Set(stays.map((i) => i.key));
  const groups = there.groups.map((g) => ({ ...g, items: g.items.filter((k) => kept.has(k)) }));
  // Groups of one name are one group.
  for (const group of model.groups) {
    const same = groups.find((g) => g.name === group.name);
    if (same) same.items.push(...own(group));
    else {
      const key = freshKey(group.name, (k) => groups.some((g) => g.key === k), 'group');
      groups.push({ key, name: group.name, items: own(group) });
    }
  }
  const wanted = new Set(model.groups.map((g) => g.name));
  return {
    items,
    groups: how === 'add' ? groups : groups.filter((g) => wanted.has(g.name) || g.items.length > 0),
    // What comes under the key of one that was there stands in its place.
    gone: there.items.flatMap((i) => (kept.has(i.key) || taken.has(i.key) ? [] : [i.key])),
    said,
  };
}

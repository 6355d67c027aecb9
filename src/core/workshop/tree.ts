import { layersOf, type Layer, type LayerKind, type Layout, memberOf } from '../layers/kinds.ts';
import type { Box } from '../text/fit.ts';
import { freshId } from '../text/keys.ts';
import { unlike } from '../text/words.ts';
import { around } from './boxes.ts';

type Holder = Extract<Layer, { layers: Layer[] }>;

/** Where a layer stands: in which list, at which place of it, and in which layer; null for the layout itself. */
export interface Place {
  list: Layer[];
  at: number;
  within: Holder | null;
}

/** True for a layer that holds others. */
export const holds = (layer: Layer): layer is Holder => 'layers' in layer;

/** Where a layer stands; null where there is none of that id. */
export function placeOf(layers: Layer[], id: string, within: Holder | null = null): Place | null {
  const at = layers.findIndex((l) => l.id === id);
  if (at >= 0) return { list: layers, at, within };
  for (const layer of layers) {
    const place = holds(layer) ? placeOf(layer.layers, id, layer) : null;
    if (place) return place;
  }
  return null;
}

/** The layers that hold a layer, the outermost first; null where there is none of that id. */
export function holdersOf(layers: readonly Layer[], id: string): Holder[] | null {
  for (const layer of layers) {
    if (layer.id === id) return [];
    const inner = holds(layer) ? holdersOf(layer.layers, id) : null;
    if (inner) return [layer as Holder, ...inner];
  }
  return null;
}

/** Of chosen layers those that no other chosen one holds, in the order in which they are drawn. */
export function outermost(layers: readonly Layer[], ids: ReadonlySet<string>): Layer[] {
  return layers.flatMap((layer) =>
    ids.has(layer.id) ? [layer] : holds(layer) ? outermost(layer.layers, ids) : [],
  );
}

const held = (n: unknown) => (typeof n === 'number' ? n : 0);

/** The box of a layer in what holds it, as far as it is said outright; what is bound counts as 0. px. */
export const boxOf = (layer: Layer): Box => ({
  x: held(layer.x),
  y: held(layer.y),
  width: held(layer.width),
  height: held(layer.height),
});

/** Where the corner of what holds a layer stands in the layout, by the boxes of what holds it. px. */
export const originOf = (layers: readonly Layer[], id: string): { x: number; y: number } =>
  (holdersOf(layers, id) ?? []).reduce(
    (sum, holder) => ({ x: sum.x + boxOf(holder).x, y: sum.y + boxOf(holder).y }),
    { x: 0, y: 0 },
  );

/** All ids of a layout. */
export const idsOf = ({ layers }: Pick<Layout, 'layers'>): Set<string> =>
  new Set([...layersOf(layers)].map((l) => l.id));

/** A name that no layer of the layout has yet. */
export function freshName({ layers }: Pick<Layout, 'layers'>, word: string): string {
  const names = new Set([...layersOf(layers)].map((l) => l.name));
  const stem = word.replace(/ \d+$/, '');
  return unlike(
    word,
    (name) => names.has(name),
    (n) => `${stem} ${n}`,
  );
}

/** Takes layers out, with all that they hold. Changes the layout that it is given. */
export function remove(layout: Layout, ids: ReadonlySet<string>): void {
  const kept = (list: Layer[]): Layer[] => {
    const left = list.filter((l) => !ids.has(l.id));
    for (const l of left) if (holds(l)) l.layers = kept(l.layers);
    return left;
  };
  layout.layers = kept(layout.layers);
}

/** A copy that nothing is shared with; a draft that is being changed can be copied so too. */
const copyOf = (layer: Layer): Layer => JSON.parse(JSON.stringify(layer)) as Layer;

/** Copies of layers under ids and names of their own, moved by so much. */
export function copiesOf(layout: Layout, layers: readonly Layer[], by: { x: number; y: number }): Layer[] {
  const known = idsOf(layout);
  const anew = (layer: Layer): Layer => {
    const copy = copyOf(layer);
    const fresh = (l: Layer): void => {
      l.id = freshId(known, l.id.replace(/-\d+$/, ''));
      if (holds(l)) l.layers.forEach(fresh);
    };
    fresh(copy);
    copy.name = freshName(layout, copy.name);
    if (typeof copy.x !== 'object') copy.x = held(copy.x) + by.x;
    if (typeof copy.y !== 'object') copy.y = held(copy.y) + by.y;
    return copy;
  };
  return layers.map(anew);
}

/**
 * Moves layers into another list, or to another place of their own, in the order in which they are drawn; what they look like
 * where they stand stays. `before` is the layer that they come before; null for the end. Into itself a layer does not go:
 * then nothing changes and false is given. Changes the layout that it is given.
 */
export function move(
  layout: Layout,
  ids: ReadonlySet<string>,
  to: { within: string | null; before: string | null },
): boolean {
  const inner =
    to.within === null ? [] : [...(holdersOf(layout.layers, to.within) ?? []).map((l) => l.id), to.within];
  if (inner.some((id) => ids.has(id))) return false;
  const target = to.within === null ? null : placeOf(layout.layers, to.within);
  const holder = target && target.list[target.at]!;
  if (to.within !== null && (!holder || !holds(holder))) return false;
  const moved = outermost(layout.layers, ids);
  const corner = holder ? add(originOf(layout.layers, holder.id), boxOf(holder)) : { x: 0, y: 0 };
  const copies = moved.map((layer) => {
    const from = originOf(layout.layers, layer.id);
    const copy = copyOf(layer);
    if (typeof copy.x !== 'object') copy.x = held(copy.x) + from.x - corner.x;
    if (typeof copy.y !== 'object') copy.y = held(copy.y) + from.y - corner.y;
    return copy;
  });
  remove(layout, ids);
  const list = holder
    ? (placeOf(layout.layers, holder.id)!.list.find((l) => l.id === holder.id) as Holder).layers
    : layout.layers;
  const at = to.before === null ? -1 : list.findIndex((l) => l.id === to.before);
  list.splice(at < 0 ? list.length : at, 0, ...copies);
  return true;
}

const add = (a: { x: number; y: number }, b: { x: number; y: number }) => ({ x: a.x + b.x, y: a.y + b.y });

/**
 * Puts layers into a new group, under an id that none has, that stands where the topmost of them stood; gives the group's id,
 * null where nothing was chosen. Changes the layout that it is given.
 */
export function group(
  layout: Layout,
  ids: ReadonlySet<string>,
  kind: 'group' | 'one-of' = 'group',
  id = freshId(idsOf(layout), kind),
): string | null {
  const chosen = outermost(layout.layers, ids);
  const top = chosen.at(-1);
  if (!top) return null;
  const place = placeOf(layout.layers, top.id)!;
  const corner = originOf(layout.layers, top.id);
  const box = around(
    chosen.map((l) => {
      const from = originOf(layout.layers, l.id);
      const b = boxOf(l);
      return { ...b, x: b.x + from.x - corner.x, y: b.y + from.y - corner.y };
    }),
  )!;
  const name = freshName(layout, kind === 'group' ? 'Group' : 'One of');
  const made = {
    id,
    kind,
    name,
    ...box,
    layers: [],
    // The topmost of them is what shows until something else is said.
    ...(kind === 'one-of' ? { which: memberOf(top) } : {}),
  } as unknown as Layer;
  place.list.splice(place.at + 1, 0, made);
  move(layout, new Set(chosen.map((l) => l.id)), { within: id, before: null });
  return id;
}

/** Puts what groups hold in their places; gives the ids of what stood in them. Changes the layout that it is given. */
export function ungroup(layout: Layout, ids: ReadonlySet<string>): string[] {
  return outermost(layout.layers, ids).flatMap((layer) => {
    if (!holds(layer)) return [layer.id];
    const inner = layer.layers.map((l) => l.id);
    const within = placeOf(layout.layers, layer.id)!.within?.id ?? null;
    move(layout, new Set(inner), { within, before: layer.id });
    remove(layout, new Set([layer.id]));
    return inner;
  });
}

/** One step, or all the way, nearer to whoever looks, or further away. Changes the layout that it is given. */
export function order(
  layout: Layout,
  ids: ReadonlySet<string>,
  to: 'front' | 'forward' | 'backward' | 'back',
): void {
  const chosen = outermost(layout.layers, ids);
  const up = to === 'front' || to === 'forward';
  // One that goes first is not in the way of the next, and among themselves they stay as they are.
  for (const layer of to === 'front' || to === 'backward' ? chosen : [...chosen].reverse()) {
    const { list, at } = placeOf(layout.layers, layer.id)!;
    const next = to === 'front' ? list.length - 1 : to === 'back' ? 0 : at + (up ? 1 : -1);
    const beside = list[next];
    // A neighbour that goes along is not passed.
    if (!beside || ((to === 'forward' || to === 'backward') && ids.has(beside.id))) continue;
    list.splice(at, 1);
    list.splice(next, 0, layer);
  }
}

/** What a new layer of a kind begins as, in a box. */
export function newLayer(layout: Layout, kind: LayerKind, box: Box): Layer {
  const type = {
    font: 'Barlow Condensed',
    weight: 600,
    size: Math.max(8, Math.round(box.height * 0.8)),
    anchorY: 'middle',
  };
  const words: Partial<Record<LayerKind, [word: string, first: object]>> = {
    text: ['Text', { text: 'Text', ...type }],
    clock: ['Clock', { clock: { field: 'clock.game' }, ...type }],
    shape: ['Shape', { shape: 'box', fill: '#8b8378' }],
    picture: ['Picture', { picture: '' }],
    pips: ['Pips', { count: 1, of: 3 }],
    line: ['Line', { toX: box.width, toY: box.height }],
  };
  const [word, first] = words[kind] ?? [kind, {}];
  return {
    id: freshId(idsOf(layout), kind),
    kind,
    name: freshName(layout, word),
    ...box,
    ...first,
  } as unknown as Layer;
}

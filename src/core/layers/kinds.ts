import type { FieldValue, Scalar } from '../board/values.ts';
import type { Value } from '../value/value.ts';
import { CLOCK } from './clock.ts';
import { COMMON } from './common.ts';
import { GROUP } from './group.ts';
import { LINE } from './line.ts';
import { ONE_OF } from './one-of.ts';
import { PICTURE } from './picture.ts';
import { PIPS } from './pips.ts';
import { isValue, type PropertyValues, type Properties, type Property } from './property.ts';
import { SHAPE } from './shape.ts';
import { TEXT } from './text.ts';

/** What a layer kind declares. */
interface KindDef {
  /** What people call it. */
  word: string;
  properties: Properties;
  /** It holds further layers. */
  holds?: boolean;
}

/** Every layer kind; to add one is a file beside this and a line here, and the same under `src/stage/layers`. */
export const KINDS = {
  text: TEXT,
  clock: CLOCK,
  shape: SHAPE,
  picture: PICTURE,
  pips: PIPS,
  group: GROUP,
  'one-of': ONE_OF,
  line: LINE,
} satisfies Record<string, KindDef>;

type Kinds = typeof KINDS;
export type LayerKind = keyof Kinds;

/** One movement: what kind, how long (ms), after which wait (ms), from which side. */
export interface Moment {
  kind: 'cut' | 'fade' | 'slide' | 'wipe' | 'roll' | 'pulse';
  ms: number;
  delay?: number;
  from?: 'left' | 'right' | 'top' | 'bottom';
}
export type MomentName = 'enter' | 'exit' | 'change' | 'idle';

interface AnyLayer<K extends LayerKind> {
  /** It never changes, and no two layers of a layout have the same. */
  id: string;
  kind: K;
  /** What people call it. */
  name: string;
  /** Within a one-of group: what its `which` says when this layer is the one that shows. */
  member?: string;
  moments?: Partial<Record<MomentName, Moment>>;
}
interface Holder {
  layers: Layer[];
}
/** A layer of one kind. */
export type LayerOf<K extends LayerKind> = AnyLayer<K> &
  PropertyValues<typeof COMMON> &
  PropertyValues<Kinds[K]['properties']> &
  (Kinds[K] extends { holds: true } ? Holder : unknown);
export type Layer = { [K in LayerKind]: LayerOf<K> }[LayerKind];

/** Where guides stand, in px: upright ones from the left, level ones from the top. */
export interface GuideLines {
  x: number[];
  y: number[];
}

export interface Layout {
  key: string;
  width: number;
  height: number;
  layers: Layer[];
  /** Lines that layers are drawn in by while the layout is made; nothing of them goes out. */
  guides?: GuideLines;
}

/** The properties of a layer as they stand: contents by the properties' names. */
export type LayerProps = Record<string, FieldValue>;

const known = new Map<LayerKind, readonly [name: string, property: Property][]>();

/** All properties of a layer kind, those that every layer has first. */
export function propertiesOf(kind: LayerKind): readonly [name: string, property: Property][] {
  let all = known.get(kind);
  if (!all) {
    all = Object.entries({ ...COMMON, ...(KINDS[kind] as KindDef).properties }) as [string, Property][];
    known.set(kind, all);
  }
  return all;
}

/** All layers, those within others too, each before what it holds. */
export function* layersOf(layers: readonly Layer[]): Generator<Layer> {
  for (const l of layers) {
    yield l;
    if ('layers' in l) yield* layersOf(l.layers);
  }
}

/** A property of a layer that gets its content from a Value. */
export interface Binding {
  prop: string;
  property: Property;
  value: Value;
}

/**
 * Each Value of one layer (not of the layers within it) with the property that it feeds. A picture that is named by its
 * path is one too: the library says where it is.
 */
export function bindingsOf(layer: Layer): Binding[] {
  const list: Binding[] = [];
  for (const [prop, property] of propertiesOf(layer.kind)) {
    if (!property.bound) continue;
    const held = (layer as unknown as LayerProps)[prop] as Scalar | Value | undefined;
    if (isValue(held)) list.push({ prop, property, value: held });
    else if (property.type === 'picture' && held) list.push({ prop, property, value: { fixed: held } });
  }
  return list;
}

/** The content of each property that no binding gives: as the layer says it, or what stands where it says nothing. */
export function contentsOf(layer: Layer): LayerProps {
  const props: LayerProps = {};
  for (const [prop, property] of propertiesOf(layer.kind)) {
    const held = (layer as unknown as LayerProps)[prop];
    if (held === undefined) props[prop] = property.default;
    else if (!isValue(held) && (property.type !== 'picture' || held === '')) props[prop] = held;
  }
  return props;
}

/** What a one-of group's `which` says when this layer is the one that shows. */
export const memberOf = (layer: Layer): string => layer.member ?? layer.id;

import type { Scalar } from '../board/values.ts';
import type { Anchor, Box } from '../text/fit.ts';
import type { Value } from '../value/value.ts';

/** One movement: what kind, how long (ms), after which wait (ms), from which side. */
export interface Moment {
  kind: 'cut' | 'fade' | 'slide' | 'wipe' | 'roll' | 'pulse';
  ms: number;
  delay?: number;
  from?: 'left' | 'right' | 'top' | 'bottom';
}

export type MomentName = 'enter' | 'exit' | 'change' | 'idle';

/** While a clock stands between `above` (not included) and `below` (not included), in ms. */
export interface ClockWindow {
  clock: Value;
  above?: number;
  below?: number;
}

export interface TextStyle {
  font: string;
  weight: number;
  /** The set size in px: a text is drawn at it, or smaller where it does not fit. */
  size: number;
  colour: Value;
  anchor: Anchor;
  /** Space between letters, in em. */
  tracking?: number;
}

interface LayerBase {
  name: string;
  box: Box;
  /** Whether the layer shows; without it, it does. */
  shows?: Value;
  /** The layer shows only while a clock stands within the window; decided in the page, frame by frame. */
  window?: ClockWindow;
  moments?: Partial<Record<MomentName, Moment>>;
}

export interface TextLayer extends LayerBase {
  kind: 'text';
  text: Value;
  style: TextStyle;
  /** Text layers of one layout with the same name here never differ in scale. */
  fitWith?: string;
}
export interface ClockLayer extends LayerBase {
  kind: 'clock';
  clock: Value;
  style: TextStyle;
  form?: 'm:ss' | 's';
  tenthsBelow?: number;
}
export interface ShapeLayer extends LayerBase {
  kind: 'shape';
  shape: 'box' | 'ellipse';
  fill: Value;
  radius?: number;
  /** Horizontal lean of the upright sides, in degrees. */
  slant?: number;
}
export interface PictureLayer extends LayerBase {
  kind: 'picture';
  picture: Value;
  fit: 'contain' | 'cover';
}
export interface PipsLayer extends LayerBase {
  kind: 'pips';
  count: Value;
  of: Value;
  on: Value;
  off: Value;
  gap: number;
  direction?: 'row' | 'column';
}
export interface GroupLayer extends LayerBase {
  kind: 'group';
  layers: Layer[];
  clip?: boolean;
}
export interface OneOfLayer extends LayerBase {
  kind: 'one-of';
  /** The name of the one layer that shows; none where no layer has that name. */
  which: Value;
  layers: Layer[];
}
export type Layer = TextLayer | ClockLayer | ShapeLayer | PictureLayer | PipsLayer | GroupLayer | OneOfLayer;

/** What a template lets the operator fill in. */
export interface InputDef {
  key: string;
  label: string;
  kind: 'text' | 'choice' | 'switch';
  choices?: { value: string; label: string }[];
  required?: boolean;
  maxLength?: number;
  sample?: Scalar;
}

export interface Layout {
  key: string;
  width: number;
  height: number;
  layers: Layer[];
}

export interface Template {
  schema: 1;
  key: string;
  name: string;
  inputs: InputDef[];
  layouts: Layout[];
}

/** All layers, those within groups too, parents first. */
export function* layersOf(layers: readonly Layer[]): Generator<Layer> {
  for (const l of layers) {
    yield l;
    if ('layers' in l) yield* layersOf(l.layers);
  }
}

/** The properties of a layer that get their content from a Value, by the names that travel to the stage. */
export type Prop =
  | 'shows'
  | 'window'
  | 'text'
  | 'colour'
  | 'clock'
  | 'fill'
  | 'picture'
  | 'count'
  | 'of'
  | 'on'
  | 'off'
  | 'which';

/** Each Value of one layer (not of the layers within it) with the property that it feeds. */
export function bindingsOf(l: Layer): { prop: Prop; value: Value }[] {
  const list: { prop: Prop; value: Value | undefined }[] = [
    { prop: 'shows', value: l.shows },
    { prop: 'window', value: l.window?.clock },
  ];
  if (l.kind === 'text')
    list.push({ prop: 'text', value: l.text }, { prop: 'colour', value: l.style.colour });
  if (l.kind === 'clock')
    list.push({ prop: 'clock', value: l.clock }, { prop: 'colour', value: l.style.colour });
  if (l.kind === 'shape') list.push({ prop: 'fill', value: l.fill });
  if (l.kind === 'picture') list.push({ prop: 'picture', value: l.picture });
  if (l.kind === 'pips') {
    list.push(
      { prop: 'count', value: l.count },
      { prop: 'of', value: l.of },
      { prop: 'on', value: l.on },
      { prop: 'off', value: l.off },
    );
  }
  if (l.kind === 'one-of') list.push({ prop: 'which', value: l.which });
  return list.filter((b): b is { prop: Prop; value: Value } => b.value !== undefined);
}

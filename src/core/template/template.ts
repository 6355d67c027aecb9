import * as v from 'valibot';
import type { Scalar } from '../board/values.ts';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';
import type { Anchor, Box } from '../text/fit.ts';
import { namesIn, valueSchema, type Value } from '../value/value.ts';

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

const px = v.pipe(v.number(), v.finite(), v.minValue(-20_000), v.maxValue(20_000));
const side = v.picklist(['left', 'right', 'top', 'bottom']);
const moment = v.strictObject({
  kind: v.picklist(['cut', 'fade', 'slide', 'wipe', 'roll', 'pulse']),
  ms: wholeNumber(0, 20_000),
  delay: v.optional(wholeNumber(0, 20_000)),
  from: v.optional(side),
});
const size = v.pipe(v.number(), v.minValue(0), v.maxValue(20_000));
const base = {
  name: nameSchema,
  box: v.strictObject({ x: px, y: px, width: size, height: size }),
  shows: v.optional(valueSchema),
  window: v.optional(
    v.strictObject({ clock: valueSchema, above: v.optional(v.number()), below: v.optional(v.number()) }),
  ),
  moments: v.optional(
    v.strictObject({
      enter: v.optional(moment),
      exit: v.optional(moment),
      change: v.optional(moment),
      idle: v.optional(moment),
    }),
  ),
};
const style = v.strictObject({
  font: nameSchema,
  weight: wholeNumber(100, 900),
  size: v.pipe(v.number(), v.minValue(1), v.maxValue(4000)),
  colour: valueSchema,
  anchor: v.strictObject({
    x: v.picklist(['left', 'centre', 'right']),
    y: v.picklist(['top', 'middle', 'bottom']),
  }),
  tracking: v.optional(v.number()),
});
const layer: v.GenericSchema<unknown, Layer> = v.lazy(() =>
  v.variant('kind', [
    v.strictObject({
      ...base,
      kind: v.literal('text'),
      text: valueSchema,
      style,
      fitWith: v.optional(nameSchema),
    }),
    v.strictObject({
      ...base,
      kind: v.literal('clock'),
      clock: valueSchema,
      style,
      form: v.optional(v.picklist(['m:ss', 's'])),
      tenthsBelow: v.optional(wholeNumber(0, 60_000)),
    }),
    v.strictObject({
      ...base,
      kind: v.literal('shape'),
      shape: v.picklist(['box', 'ellipse']),
      fill: valueSchema,
      radius: v.optional(size),
      slant: v.optional(v.pipe(v.number(), v.minValue(-60), v.maxValue(60))),
    }),
    v.strictObject({
      ...base,
      kind: v.literal('picture'),
      picture: valueSchema,
      fit: v.picklist(['contain', 'cover']),
    }),
    v.strictObject({
      ...base,
      kind: v.literal('pips'),
      count: valueSchema,
      of: valueSchema,
      on: valueSchema,
      off: valueSchema,
      gap: size,
      direction: v.optional(v.picklist(['row', 'column'])),
    }),
    v.strictObject({
      ...base,
      kind: v.literal('group'),
      layers: v.array(layer),
      clip: v.optional(v.boolean()),
    }),
    v.strictObject({ ...base, kind: v.literal('one-of'), which: valueSchema, layers: v.array(layer) }),
  ]),
) as v.GenericSchema<unknown, Layer>;

const templateSchema = v.strictObject({
  schema: v.literal(1),
  key: keySchema,
  name: nameSchema,
  inputs: v.array(
    v.strictObject({
      key: keySchema,
      label: nameSchema,
      kind: v.picklist(['text', 'choice', 'switch']),
      choices: v.optional(v.array(v.strictObject({ value: v.string(), label: nameSchema }))),
      required: v.optional(v.boolean()),
      maxLength: v.optional(wholeNumber(1, 2000)),
      sample: v.optional(v.union([v.string(), v.number(), v.boolean(), v.null()])),
    }),
  ),
  layouts: v.pipe(
    v.array(v.strictObject({ key: keySchema, width: size, height: size, layers: v.array(layer) })),
    v.minLength(1, 'a template needs at least one layout'),
  ),
}) as v.GenericSchema<unknown, Template>;

/**
 * Reads a template; refuses one whose layers share a name within a layout, or that asks for an input it does
 * not declare, or whose choice has nothing to choose from.
 */
export function parseTemplate(input: unknown): Parsed<Template> {
  return parseDocument(templateSchema, input, (template) => {
    const problems: string[] = [];
    const inputs = new Set(template.inputs.map((i) => i.key));
    for (const i of template.inputs) {
      if (i.kind === 'choice' && !i.choices?.length)
        problems.push(`inputs: "${i.label}" has nothing to choose from`);
    }
    for (const layout of template.layouts) {
      const names = new Set<string>();
      for (const l of layersOf(layout.layers)) {
        if (names.has(l.name)) problems.push(`layouts.${layout.key}: two layers are named "${l.name}"`);
        names.add(l.name);
        for (const { prop, value } of bindingsOf(l)) {
          for (const key of namesIn(value).inputs) {
            if (!inputs.has(key))
              problems.push(`layouts.${layout.key}.${l.name}.${prop}: there is no input "${key}"`);
          }
        }
      }
    }
    return problems;
  });
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

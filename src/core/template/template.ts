import * as v from 'valibot';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';
import { type Layer, type Template, bindingsOf, layersOf } from './layers.ts';
import { namesIn, valueSchema } from '../value/value.ts';

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

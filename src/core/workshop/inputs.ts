import type { Scalar } from '../board/values.ts';
import type { InputDef, InputKind, Template } from '../documents/template.ts';
import {
  bindingsOf,
  layersOf,
  memberOf,
  propertiesOf,
  type Layer,
  type LayerOf,
  type Layout,
} from '../layers/kinds.ts';
import { isValue, type Property } from '../layers/property.ts';
import { freshKey } from '../text/keys.ts';
import { namesIn, type Value } from '../value/value.ts';
import { placeOf } from './tree.ts';

/** What kind of input fills in a property; null where none can. */
export const inputKindFor = (property: Property): InputKind | null =>
  !property.bound || property.type === 'clock'
    ? null
    : property.type === 'flag'
      ? 'switch'
      : (property.type as InputKind);

/** What a one-of group can show: what is kept, and what people read; none for any other layer. */
export const membersIn = (layer: Layer): { value: string; label: string }[] =>
  layer.kind === 'one-of'
    ? [
        ...layer.layers.map((l) => ({ value: memberOf(l), label: l.name })),
        ...(layer.empty ? [{ value: '', label: layer.empty }] : []),
      ]
    : [];

/** The one-of group of a layout whose member an input chooses by itself. */
export const groupChosenBy = (
  { layers }: Pick<Layout, 'layers'>,
  key: string,
): LayerOf<'one-of'> | undefined =>
  [...layersOf(layers)].find(
    (l): l is LayerOf<'one-of'> =>
      l.kind === 'one-of' && isValue(l.which) && 'input' in l.which && l.which.input === key,
  );

/**
 * Hands a property of a layer to the operator: a new input, called after the layer (and the property where that is not what the
 * layer is there for), that holds what stood there; of a one-of group, a choice of its members. Gives the input's key, null where
 * the property cannot be handed over. Changes the template that it is given.
 */
export function handOver(template: Template, layoutKey: string, id: string, prop: string): string | null {
  const layout = template.layouts.find((l) => l.key === layoutKey);
  const place = layout && placeOf(layout.layers, id);
  const layer = place?.list[place.at];
  const property = layer && propertiesOf(layer.kind).find(([name]) => name === prop)?.[1];
  const kind = property ? inputKindFor(property) : null;
  if (!layer || !property || !kind) return null;
  const which = layer.kind === 'one-of' && prop === 'which';
  const label = property.main || which ? layer.name : `${layer.name}: ${property.label.toLowerCase()}`;
  const key = freshKey(label, (k) => template.inputs.some((i) => i.key === k), 'input');
  const said = (layer as unknown as Record<string, unknown>)[prop];
  const held = (said === undefined || isValue(said) ? property.default : said) as Scalar;
  const choices = which ? membersIn(layer) : null;
  template.inputs.push({
    key,
    label: label.slice(0, 80),
    kind: choices ? 'choice' : kind,
    ...(choices ? { choices } : {}),
    ...(kind === 'number' ? limits(property) : {}),
    // A text begins empty, with what stood there as a hint: what nobody filled in is seen before it is taken.
    ...(held === null || held === ''
      ? {}
      : kind === 'text' && !choices
        ? { sample: held }
        : { sample: held, default: held }),
  });
  (layer as unknown as Record<string, Value>)[prop] = { input: key };
  return key;
}

const limits = ({ min, max }: Property) => ({
  ...(min === undefined ? {} : { min }),
  ...(max === undefined ? {} : { max }),
});

/**
 * Takes an input back from the operator: what asked for it alone holds its sample from now on. Gives the names of layers that
 * ask for it among other things; where there are any, nothing is changed. Changes the template that it is given.
 */
export function takeBack(template: Template, key: string): string[] {
  const def = template.inputs.find((i) => i.key === key);
  if (!def) return [];
  const alone: { layer: Layer; prop: string; property: Property }[] = [];
  const others: string[] = [];
  for (const { layers } of template.layouts)
    for (const layer of layersOf(layers))
      for (const { prop, property, value } of bindingsOf(layer)) {
        if (!namesIn(value).inputs.has(key)) continue;
        if ('input' in value) alone.push({ layer, prop, property });
        else others.push(layer.name);
      }
  if (others.length) return [...new Set(others)];
  for (const { layer, prop, property } of alone)
    (layer as unknown as Record<string, unknown>)[prop] = def.sample ?? def.default ?? property.default ?? '';
  template.inputs = template.inputs.filter((i) => i.key !== key);
  return [];
}

/** The labels of inputs that nothing in a layout shows. */
export function unshown({ inputs }: Pick<Template, 'inputs'>, { layers }: Pick<Layout, 'layers'>): string[] {
  const asked = new Set(
    [...layersOf(layers)].flatMap((l) => bindingsOf(l).flatMap(({ value }) => [...namesIn(value).inputs])),
  );
  return inputs.filter((i) => !asked.has(i.key)).map((i) => i.label);
}

/** What an input holds in a new item; null for nothing. */
const defaultOf = ({ kind, default: first, choices, rows }: InputDef): Scalar =>
  first ?? (kind === 'choice' && !rows ? (choices?.[0]?.value ?? null) : null);

/** What the inputs of a new item hold. */
export const defaultInputs = ({ inputs }: Pick<Template, 'inputs'>): Record<string, Scalar> =>
  Object.fromEntries(
    inputs.flatMap((def) => {
      const held = defaultOf(def);
      return held === null ? [] : [[def.key, held]];
    }),
  );

/** What an item's inputs hold once it was on air: those that begin anew are what they are in a new item. */
export function resetInputs(
  { inputs }: Pick<Template, 'inputs'>,
  held: Readonly<Record<string, Scalar>>,
): Record<string, Scalar> {
  const anew = inputs.filter((def) => def.resets);
  return { ...held, ...Object.fromEntries(anew.map((def) => [def.key, defaultOf(def)])) };
}

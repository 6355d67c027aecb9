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
        if (shows(value, key)) alone.push({ layer, prop, property });
        else others.push(layer.name);
      }
  if (others.length) return [...new Set(others)];
  for (const { layer, prop, property } of alone)
    (layer as unknown as Record<string, unknown>)[prop] = def.sample ?? def.default ?? property.default ?? '';
  template.inputs = template.inputs.filter((i) => i.key !== key);
  return [];
}

/** What an input is filled in by: as its kind is, out of a list of its own, or out of the rows of a table by what a column says. */
export type FilledBy = 'itself' | 'list' | { table: string; column: string };

/** What an input is filled in by. */
export const filledBy = ({ kind, rows }: InputDef): FilledBy =>
  kind !== 'choice' ? 'itself' : (rows ?? 'list');

/** The kind of an input that is typed, or picked, again. */
const kindOf = ({ as }: InputDef): InputKind => (as === 'picture' || as === 'colour' ? as : 'text');

/**
 * Lets an input be filled in by something else. Out of a list it begins with what it held as the one choice; out of rows what shows it
 * looks the row's column up, for the input holds the row's key. Changes the template that it is given.
 */
export function fillBy(template: Template, key: string, by: FilledBy): void {
  const def = template.inputs.find((i) => i.key === key);
  if (!def) return;
  const { choices, rows, as, min: _min, max: _max, maxLength: _most, default: first, sample, ...rest } = def;
  const held = sample ?? first ?? choices?.[0]?.value;
  const text = held === undefined || held === null ? '' : String(held);
  const drawnAs = as ?? (def.kind === 'picture' || def.kind === 'colour' ? def.kind : undefined);
  const next: InputDef =
    by === 'itself'
      ? { ...rest, kind: kindOf(def), ...(text === '' || rows ? {} : { sample: text }) }
      : by === 'list'
        ? {
            ...rest,
            kind: 'choice',
            ...(drawnAs && { as: drawnAs }),
            choices: choices?.length ? choices : [{ value: text, label: text.slice(0, 80) || 'One' }],
          }
        : // Its list waits for when it is wanted again.
          { ...rest, kind: 'choice', ...(drawnAs && { as: drawnAs }), ...(choices && { choices }), rows: by };
  template.inputs[template.inputs.indexOf(def)] = next;
  for (const { layers } of template.layouts)
    for (const layer of layersOf(layers))
      for (const { prop, value } of bindingsOf(layer)) {
        const now = shownBy(value, key, typeof by === 'object' ? by : null);
        if (now !== value) (layer as unknown as Record<string, unknown>)[prop] = now;
      }
}

/** True where a Value shows what an input holds and nothing else, by itself or as the column of the row that it names. */
const shows = (value: Value, key: string): boolean =>
  ('input' in value && value.input === key) ||
  ('lookup' in value &&
    'key' in value.lookup &&
    'input' in value.lookup.key &&
    value.lookup.key.input === key);

/** A Value that shows an input alone, made to show it by rows or by itself; any other as it is. */
function shownBy(value: Value, key: string, rows: { table: string; column: string } | null): Value {
  if (!shows(value, key)) return value;
  const { input: _, lookup: __, ...format } = value as unknown as Record<string, unknown>;
  const asked = rows
    ? { lookup: { table: rows.table, key: { input: key }, column: rows.column } }
    : { input: key };
  return { ...asked, ...format } as Value;
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

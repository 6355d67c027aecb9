import type { Scalar } from '../board/values.ts';
import type { InputDef, Template } from '../documents/template.ts';
import { bindingsOf, layersOf, memberOf, type Layer, type Layout } from '../layers/kinds.ts';
import { isValue } from '../layers/property.ts';
import { isHidden, memberThatShows } from '../layers/shown.ts';
import { namesIn, type Scope } from '../value/value.ts';
import { holdersOf } from './tree.ts';

/** An input that changes nothing as all stands, because something that shows it is hidden. */
export interface Idle {
  input: string;
  /** The layer that is hidden. */
  hidden: string;
  /** The input that shows it again, and what that has to hold; null where it is no input alone that hides it. */
  fix: { input: string; label: string; value: Scalar; text: string } | null;
}

const asks = (layer: Layer, key: string): boolean =>
  bindingsOf(layer).some(({ value }) => namesIn(value).inputs.has(key));

/** What hides a layer itself, as all stands: its own property, or its place in a one-of group; null where it is not hidden. */
function hiddenBy(layer: Layer, holder: Layer | undefined, scope: Scope): unknown {
  if (isHidden(layer, scope)) return layer.shows;
  if (holder?.kind !== 'one-of') return null;
  const which = memberThatShows(holder, scope);
  return which === null || which === memberOf(layer) ? null : holder.which;
}

/** What an input can be set to at one press. */
const settings = ({ kind, choices }: InputDef): Scalar[] =>
  kind === 'switch' ? [true, false] : kind === 'choice' ? (choices ?? []).map((c) => c.value) : [];

/** The one input whose other setting shows a layer again that is hidden by a Value. */
function fixOf(
  inputs: readonly InputDef[],
  by: unknown,
  hidden: (scope: Scope) => boolean,
  scope: Scope,
): Idle['fix'] {
  if (!isValue(by)) return null;
  const asked = namesIn(by).inputs;
  for (const def of inputs.filter((i) => asked.has(i.key)))
    for (const value of settings(def)) {
      const input = (key: string) => (key === def.key ? value : scope.input(key));
      if (!hidden({ ...scope, input }))
        return { input: def.key, label: def.label, value, text: textOf(def, value) };
    }
  return null;
}

/**
 * The inputs of a template that change nothing as all stands, because every layer that asks for them is hidden or within
 * something that is: the text of a call-out that is switched off. What hides them is told, with what would show them again.
 * An input that hides a layer itself, or that nothing in the layout asks for, is none of them. Who asks for what is looked up
 * once; what is given tells it of any state.
 */
export function withoutEffect(
  { inputs }: Pick<Template, 'inputs'>,
  { layers }: Pick<Layout, 'layers'>,
): (scope: Scope) => Idle[] {
  const all = [...layersOf(layers)];
  const asked = inputs.map(({ key }) => ({
    key,
    asking: all
      .filter((l) => asks(l, key))
      .map((layer) => ({
        chain: [...(holdersOf(layers, layer.id) ?? []), layer] as Layer[],
        /** What shows or hides a layer has an effect though the layer is hidden. */
        shows: isValue(layer.shows) && namesIn(layer.shows).inputs.has(key),
      })),
  }));
  return (scope) =>
    asked.flatMap(({ key, asking }): Idle[] => {
      let first: Idle | null = null;
      for (const { chain, shows } of asking) {
        const at = chain.findIndex((l, i) => hiddenBy(l, chain[i - 1], scope) !== null);
        const one = chain[at];
        if (!one || (shows && at === chain.length - 1)) return [];
        const hidden = (s: Scope) => hiddenBy(one, chain[at - 1], s) !== null;
        const by = hiddenBy(one, chain[at - 1], scope);
        first ??= { input: key, hidden: one.name, fix: fixOf(inputs, by, hidden, scope) };
      }
      return first ? [first] : [];
    });
}

/** What an input holds, in words. */
const textOf = ({ choices }: InputDef, value: Scalar): string =>
  choices?.find((c) => c.value === value)?.label ??
  (value === true ? 'on' : value === false ? 'off' : String(value ?? ''));

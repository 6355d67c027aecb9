import type { InputDef } from '../documents/template.ts';
import type { Layer, LayerKind, Layout } from '../layers/kinds.ts';
import type { FieldDef } from '../sport/profile.ts';
import type { Box } from '../text/fit.ts';
import { freshId } from '../text/keys.ts';
import type { Value } from '../value/value.ts';
import { around } from './boxes.ts';
import { INPUT_AS, propertyFor } from './showing.ts';
import { idsOf } from './tree.ts';

/** A part of a drawing as it was read from SVG: where it stands in the drawing, in px, and what it is. */
export interface SvgPart {
  kind: Extract<LayerKind, 'group' | 'shape' | 'text' | 'picture' | 'line'>;
  name: string;
  box: Box;
  /** The properties of the layer that it becomes, without its box. */
  props: Readonly<Record<string, unknown>>;
  /** What a group holds, from back to front. */
  parts?: readonly SvgPart[];
}

/** A binding that a part's name proposes: it is called as a field or an input is. */
export interface Proposal {
  id: string;
  name: string;
  prop: string;
  value: Value;
  /** What it is bound to, as people read it. */
  to: string;
}

/** How large a drawing is brought in, and from where. */
export interface Placing {
  scale: number;
  x: number;
  y: number;
}

/** The properties that are lengths, and grow with a drawing. */
const LENGTHS = new Set(['size', 'border', 'radius', 'thickness', 'fromX', 'fromY', 'toX', 'toY']);

const round = (n: number) => Math.round(n * 100) / 100;

/**
 * The layers that parts of a drawing become, with ids and names of their own, in a layout that has others already. A group's
 * box goes round what it holds.
 */
export function layersOfParts(
  layout: Pick<Layout, 'layers'>,
  parts: readonly SvgPart[],
  placing: Placing,
): Layer[] {
  const ids = idsOf(layout);
  const made = (part: SvgPart, from: { x: number; y: number }): Layer => {
    const inner = part.parts ?? [];
    const box = inner.length ? (around(inner.map((p) => boxOf(p))) ?? part.box) : part.box;
    const { scale } = placing;
    const props = Object.fromEntries(
      Object.entries(part.props).map(([prop, held]) => [
        prop,
        LENGTHS.has(prop) && typeof held === 'number' ? round(held * scale) : held,
      ]),
    );
    return {
      id: freshId(ids, part.name, part.kind),
      kind: part.kind,
      name: part.name.slice(0, 80) || part.kind,
      x: round((box.x - from.x) * scale + (from === ORIGIN ? placing.x : 0)),
      y: round((box.y - from.y) * scale + (from === ORIGIN ? placing.y : 0)),
      width: round(box.width * scale),
      height: round(box.height * scale),
      ...props,
      ...(part.kind === 'group' ? { layers: inner.map((p) => made(p, box)) } : {}),
    } as unknown as Layer;
  };
  return parts.map((part) => made(part, ORIGIN));
}

const ORIGIN = { x: 0, y: 0 };

/** The box that a part takes: a group's goes round what it holds. */
const boxOf = (part: SvgPart): Box =>
  part.parts?.length ? (around(part.parts.map(boxOf)) ?? part.box) : part.box;

const alike = (a: string, b: string) => {
  const plain = (t: string) =>
    t
      .toLowerCase()
      .replace(/[\s._-]+/g, ' ')
      .trim();
  return plain(a) === plain(b);
};

/** What each layer's name proposes: the field that has it as its key or label, or the input that has it as its own. */
export function proposalsOf(
  layers: readonly Layer[],
  fields: readonly FieldDef[],
  inputs: readonly InputDef[],
): Proposal[] {
  return layers.flatMap((layer): Proposal[] => {
    const inner = 'layers' in layer ? proposalsOf(layer.layers, fields, inputs) : [];
    const { id, name } = layer;
    const propose = (what: Parameters<typeof propertyFor>[1], value: Value, to: string): Proposal[] => {
      const prop = propertyFor(layer.kind, what);
      return prop === null ? [] : [{ id, name, prop, value, to }];
    };
    const input = inputs.find((i) => alike(i.label, name) || alike(i.key, name));
    const field = fields.find((f) => alike(f.key, name) || alike(f.label, name));
    const own = input
      ? propose(INPUT_AS[input.kind], { input: input.key }, `the input ${input.label}`)
      : field
        ? propose(field.kind, { field: field.key }, field.label)
        : [];
    return [...own, ...inner];
  });
}

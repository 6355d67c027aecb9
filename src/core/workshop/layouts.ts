import { layersOf, propertiesOf, type Layer, type Layout } from '../layers/kinds.ts';
import { isValue } from '../layers/property.ts';

/** Lengths that go with the width alone, and with the height alone; all others go with both. */
const ACROSS = new Set(['x', 'width', 'fromX', 'toX', 'marginX', 'shadowX', 'softLeft', 'softRight']);
const DOWN = new Set(['y', 'height', 'fromY', 'toY', 'marginY', 'shadowY', 'softTop', 'softBottom']);

/** Lengths are kept to a tenth of a px. */
const clean = (n: number) => Math.round(n * 10) / 10;

/**
 * Makes a layer, and all that it holds, larger or smaller: each length that is not bound, across and down by its own factor, and
 * what is neither (a size of type, a radius) by the smaller. Where it stands is left alone, except of what stands in it. Changes
 * the layer that it is given.
 */
export function scaleLayer(layer: Layer, across: number, down: number): void {
  const both = Math.min(across, down);
  for (const inner of layersOf([layer])) {
    const held = inner as unknown as Record<string, unknown>;
    for (const [name, property] of propertiesOf(inner.kind)) {
      const n = held[name];
      if (property.unit !== 'px' || typeof n !== 'number') continue;
      if (inner === layer && (name === 'x' || name === 'y')) continue;
      const factor = ACROSS.has(name) ? across : DOWN.has(name) ? down : both;
      held[name] = Math.min(property.max ?? Infinity, Math.max(property.min ?? -Infinity, clean(n * factor)));
    }
    if (inner.kind === 'line' && typeof inner.dash === 'string')
      inner.dash = inner.dash.replace(/[\d.]+/g, (n) => String(clean(Number(n) * both)));
  }
}

/** A layout like another one in another size: all of it as large as it can be there, in the middle. */
export function scaledLayout(
  from: Layout,
  { key, width, height }: Pick<Layout, 'key' | 'width' | 'height'>,
): Layout {
  const made = structuredClone({ ...from, key, width, height });
  const factor = Math.min(width / from.width, height / from.height);
  const [x, y] = [(width - from.width * factor) / 2, (height - from.height * factor) / 2];
  for (const layer of made.layers) {
    scaleLayer(layer, factor, factor);
    if (!isValue(layer.x)) layer.x = clean((layer.x ?? 0) * factor + x);
    if (!isValue(layer.y)) layer.y = clean((layer.y ?? 0) * factor + y);
  }
  if (made.guides)
    made.guides = {
      x: made.guides.x.map((n) => clean(n * factor + x)),
      y: made.guides.y.map((n) => clean(n * factor + y)),
    };
  return made;
}

import type { Template } from '../documents/template.ts';
import type { Layout } from '../layers/kinds.ts';

interface Size {
  width: number;
  height: number;
}

/** How far two sizes are from one shape: 0 for the same proportion, then the logarithm of how much they differ. */
const offShape = (a: Size, b: Size) => Math.abs(Math.log((a.width * b.height) / (a.height * b.width)));
/** How far two sizes are from one area, the same way. */
const offArea = (a: Size, b: Size) => Math.abs(Math.log((a.width * a.height) / (b.width * b.height)));

/**
 * The layout of a template that fits a zone best: the one of its size, else of the shape that is nearest, among those of the
 * size that is nearest. Lengths in px, above 0.
 */
export function layoutFor({ layouts }: Pick<Template, 'layouts'>, zone: Size): Layout {
  const [first, ...rest] = layouts;
  return rest.reduce((best, layout) => {
    const shape = offShape(layout, zone) - offShape(best, zone);
    if (Math.abs(shape) > 0.01) return shape < 0 ? layout : best;
    return offArea(layout, zone) < offArea(best, zone) ? layout : best;
  }, first!);
}

/** The layout of a key; where there is none any more, the one that fits the zone. */
export const layoutOf = (template: Pick<Template, 'layouts'>, key: string, zone: Size): Layout =>
  template.layouts.find((l) => l.key === key) ?? layoutFor(template, zone);

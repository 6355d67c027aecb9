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

/** How far a layout and a zone may differ in proportion, and in size, before it counts, as a share. */
const SAME_SHAPE = 0.02;
const SAME_SIZE = 0.01;

/** How a layout stands in a zone. */
export interface Fit {
  /** `own`: in its own size; `scaled`: made larger or smaller to fill the zone; `off`: of another shape, so that some of the zone stays empty. */
  how: 'own' | 'scaled' | 'off';
  /** By how much it is made larger or smaller. */
  scale: number;
}

/** How a layout of one size stands in a zone of another: as large as it can be with all of it inside. */
export function fitIn(layout: Size, zone: Size): Fit {
  const sides = [zone.width / layout.width, zone.height / layout.height] as const;
  const scale = Math.min(...sides);
  if (sides.every((s) => Math.abs(s - 1) < SAME_SIZE)) return { how: 'own', scale: 1 };
  return { how: Math.max(...sides) / scale - 1 <= SAME_SHAPE ? 'scaled' : 'off', scale };
}

/** The layout of a key; where there is none any more, the one that fits the zone. */
export const layoutOf = (template: Pick<Template, 'layouts'>, key: string, zone: Size): Layout =>
  template.layouts.find((l) => l.key === key) ?? layoutFor(template, zone);

import { outlinePath } from '../../core/layers/outline.ts';
import type { LayerProps } from '../../core/layers/kinds.ts';
import { textIn } from './content.ts';

const SVG = 'http://www.w3.org/2000/svg';

/** An element of SVG. */
export function svg<K extends keyof SVGElementTagNameMap>(
  name: K,
  attributes: Readonly<Record<string, string | number>> = {},
): SVGElementTagNameMap[K] {
  const el = document.createElementNS(SVG, name);
  for (const [key, value] of Object.entries(attributes)) el.setAttribute(key, String(value));
  return el;
}

/** SVG path data of a shape that is neither a box nor an ellipse, in a box of 100 by 100; null for those two. */
export const outlineOf = (props: LayerProps): string | null =>
  outlinePath(textIn(props['shape']), textIn(props['points']), textIn(props['path']));

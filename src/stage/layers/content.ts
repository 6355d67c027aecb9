import type { LayerProps } from '../../core/layers/kinds.ts';

import { isColour } from '../../core/colour/colour-text.ts';
import { textIn } from '../../core/layers/content.ts';

export { numberIn, textIn } from '../../core/layers/content.ts';

/** What a property says as a colour; blank for what is none: nothing else reaches a style that takes one. */
export function colourIn(value: LayerProps[string] | undefined): string {
  const text = textIn(value);
  return isColour(text) ? text : '';
}

/** True where any of the names is among what changed. */
export const has = (props: LayerProps, names: readonly string[]) => names.some((name) => name in props);

/** An element with its styles, to be copied: to set them one by one costs more, each time. */
export function styled(tag: 'div' | 'span', styles: string): HTMLElement {
  const element = document.createElement(tag);
  element.style.cssText = styles;
  return element;
}

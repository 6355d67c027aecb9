import type { LayerProps } from '../../core/layers/kinds.ts';

export { numberIn, textIn } from '../../core/layers/content.ts';

/** True where any of the names is among what changed. */
export const has = (props: LayerProps, names: readonly string[]) => names.some((name) => name in props);

/** An element with its styles, to be copied: to set them one by one costs more, each time. */
export function styled(tag: 'div' | 'span', styles: string): HTMLElement {
  const element = document.createElement(tag);
  element.style.cssText = styles;
  return element;
}

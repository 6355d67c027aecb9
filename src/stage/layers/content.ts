import type { LayerProps } from '../../core/layers/kinds.ts';

export { numberIn, textIn } from '../../core/layers/content.ts';

/** True where any of the names is among what changed. */
export const has = (props: LayerProps, names: readonly string[]) => names.some((name) => name in props);

import { isClock, type FieldValue } from '../../core/board/values.ts';
import type { LayerProps } from '../../core/layers/kinds.ts';

/** Content as a text: none where it is blank or a clock. */
export const textIn = (value: FieldValue | undefined) =>
  value == null || isClock(value) ? '' : String(value);
/** Content as a number: 0 where it is none. */
export const numberIn = (value: FieldValue | undefined) => (typeof value === 'number' ? value : 0);

/** True where any of the names is among what changed. */
export const has = (props: LayerProps, names: readonly string[]) => names.some((name) => name in props);

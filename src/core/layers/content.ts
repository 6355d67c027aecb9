import { isClock, type FieldValue } from '../board/values.ts';

/** Content as a text: none where it is blank or a clock. */
export const textIn = (value: FieldValue | undefined): string =>
  value == null || isClock(value) ? '' : String(value);

/** Content as a number: 0 where it is none. */
export const numberIn = (value: FieldValue | undefined): number => (typeof value === 'number' ? value : 0);

import type { MediaEntry } from '../../core/media/media.ts';
import type { Value } from '../../core/value/value.ts';
import type { DroppedKind } from '../../core/workshop/showing.ts';

/** What is dragged onto a layer or a property. */
export interface Carried {
  name: string;
  what: DroppedKind;
  value: Value;
  /** How large it is by itself, in px. */
  size?: { width: number; height: number };
}

/** Under what a drag carries it; as plain text it carries a chip, which lines take in. */
export const CARRIED = 'application/x-foothill-value';

export const carriesValue = ({ types }: DataTransfer): boolean => types.includes(CARRIED);

/** What a drop brings; null where it is not from here. */
export function carriedIn(data: DataTransfer): Carried | null {
  try {
    return JSON.parse(data.getData(CARRIED)) as Carried;
  } catch {
    return null;
  }
}

/** A picture of the library as it is put on the sheet. */
export function carriedPicture({ path, width, height }: MediaEntry, name: string): Carried {
  const size = width > 0 && height > 0 ? { size: { width, height } } : {};
  return { name, what: 'picture', value: { fixed: path }, ...size };
}

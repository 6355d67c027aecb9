import type { Field, Stretch } from '../../core/decode/parts.ts';

/** Bytes that were selected: several places where further ones were added, or the field that they are. */
export interface Selection {
  offset: number;
  length: number;
  more?: { offset: number; length: number }[];
  field?: number | string;
}

/** What is selected as one on the ruler: a byte, or a field of several. */
export interface Unit extends Stretch {
  name: string;
  /** Which field it is; null for a byte, and for what stands between fields, which cannot be selected. */
  field: number | string | null;
  off: boolean;
  bytes: { at: number; named: boolean; first: boolean }[];
}

/** What a frame of so many bytes can be selected in. `placed` is where readings stand. */
export function unitsOf(
  length: number,
  fields: readonly Field[],
  placed: readonly (Stretch & { name: string })[],
): Unit[] {
  const bytes = Array.from({ length }, (_, at) => {
    const reading = placed.find((r) => at >= r.from && at < r.to);
    const first = reading?.from === at || fields.some((f) => f.from === at);
    return { at, named: reading !== undefined, first, says: reading ? `: ${reading.name}` : '' };
  });
  const unit = (from: number, to: number, field: Unit['field']): Unit => {
    const within = bytes.slice(from, to);
    const what = field === null ? `byte ${from}` : typeof field === 'number' ? `field ${field}` : field;
    return {
      from,
      to,
      field,
      off: field === null && fields.length > 0,
      name: what + (within.find((b) => b.says)?.says ?? ''),
      bytes: within.map(({ says: _, ...b }) => b),
    };
  };
  const units: Unit[] = [];
  let at = 0;
  fields.forEach((f, n) => {
    for (; at < f.from; at++) units.push(unit(at, at + 1, null));
    // A field of no bytes has no place on the ruler.
    if (f.to > f.from) units.push(unit(f.from, f.to, f.name ?? n + 1));
    at = Math.max(at, f.to);
  });
  for (; at < length; at++) units.push(unit(at, at + 1, null));
  return units;
}

/** Which units a selection covers, by their number, in the order of its places. */
export const chosenOf = (selection: Selection | null, units: readonly Unit[]): number[] =>
  (selection ? [selection, ...(selection.more ?? [])] : []).flatMap(({ offset, length }) =>
    units.flatMap((u, n) => (!u.off && u.from < offset + length && u.to > offset ? [n] : [])),
  );

/** The selection that units make: neighbours in a row are one place; of fields, the last that was chosen. */
export function selectionOf(chosen: readonly number[], units: readonly Unit[]): Selection | null {
  const last = units[chosen.at(-1) ?? -1];
  if (!last) return null;
  if (last.field !== null) return { offset: last.from, length: last.to - last.from, field: last.field };
  const places: { offset: number; length: number }[] = [];
  for (const n of chosen) {
    const { from } = units[n]!;
    const place = places.at(-1);
    if (place && place.offset + place.length === from) place.length++;
    else places.push({ offset: from, length: 1 });
  }
  const [first, ...more] = places;
  return { ...first!, ...(more.length ? { more } : {}) };
}

/** All units from one to another, rising. */
export const unitsWithin = (a: number, b: number): number[] =>
  Array.from({ length: Math.abs(a - b) + 1 }, (_, i) => Math.min(a, b) + i);

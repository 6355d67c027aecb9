import { unlike } from '../text/words.ts';

/** A reading that a map describes, as far as who it is. */
export interface Identified {
  /** What links know it by. Where it has none that is its name, which it keeps as its id when it is renamed. */
  id?: string;
  name: string;
}

/** What the links of a patch know a reading by; it never changes. */
export const idOf = ({ id, name }: Identified): string => id ?? name;

/** The same reading under another name, to all that knows it. */
export function renamed<T extends Identified>(reading: T, name: string): T {
  const { id: _, ...rest } = reading;
  const id = idOf(reading);
  return (id === name ? { ...rest, name } : { ...rest, id, name }) as T;
}

/**
 * The readings with an id for each that would be taken for another: a new one may have the name that a renamed one
 * began with.
 */
export function identified<T extends Identified>(readings: readonly T[]): T[] {
  const taken = new Set(readings.flatMap(({ id }) => id ?? []));
  return readings.map((reading) => {
    if (reading.id !== undefined) return reading;
    const { name } = reading;
    const id = unlike(
      name,
      (free) => taken.has(free),
      (n) => `${name.slice(0, 74)} ${n}`,
    );
    taken.add(id);
    return id === name ? reading : { ...reading, id };
  });
}

/** A sentence for each id that two readings of a map have. */
export function sharedIds(readings: readonly Identified[]): string[] {
  const ids = readings.map(idOf);
  return ids.flatMap((id, i) =>
    ids.indexOf(id) === i ? [] : [`readings: "${readings[i]!.name}" has the id "${id}" of another`],
  );
}

/** True for an object with named members: neither null nor a list. */
export const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * A record's own member of this name; undefined where it has none. Names come from outside, and a record of JavaScript
 * also answers to `constructor` and `toString`, which are no data.
 */
export function own<T>(record: Readonly<Record<string, T>>, name: string): T | undefined {
  return Object.hasOwn(record, name) ? record[name] : undefined;
}

/** Gives a record a member of any name; an assignment to `__proto__` would change what it is instead. */
export function setOwn<T>(record: Record<string, T>, name: string, value: T): void {
  if (name !== '__proto__') record[name] = value;
  else Object.defineProperty(record, name, { value, enumerable: true, configurable: true, writable: true });
}

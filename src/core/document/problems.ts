/** What came of reading a document: the document, or every reason why it is not one. */
export type Parsed<T> = { ok: true; value: T } | { ok: false; problems: string[] };

/** The value where nothing is wrong with it, or what is. */
export const parsed = <T>(value: T, problems: string[]): Parsed<T> =>
  problems.length ? { ok: false, problems } : { ok: true, value };

/** The value of what has to be right, as what ships with the program has; throws an Error with its problems. */
export function must<T>(read: Parsed<T>): T {
  if (!read.ok) throw new Error(read.problems.join('; '));
  return read.value;
}

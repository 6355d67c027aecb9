import * as v from 'valibot';

/** What came of reading a document: the document, or every reason why it is not one. */
export type Parsed<T> = { ok: true; value: T } | { ok: false; problems: string[] };

/**
 * Checks `input` against a schema, then by `also`, which may name further problems of a well-formed document.
 * Never throws; each problem is one sentence that begins with the place in the document.
 */
export function parseDocument<T>(
  schema: v.GenericSchema<unknown, T>,
  input: unknown,
  also: (value: T) => string[] = () => [],
): Parsed<T> {
  const result = v.safeParse(schema, input);
  if (!result.success) {
    return {
      ok: false,
      problems: result.issues.map((i) => `${v.getDotPath(i) ?? 'document'}: ${i.message}`),
    };
  }
  const problems = also(result.output);
  return problems.length ? { ok: false, problems } : { ok: true, value: result.output };
}

/** A key such as `home.score` or `clock.game`: lower-case words, digits and hyphens, joined by dots. */
export const keySchema = v.pipe(
  v.string(),
  v.maxLength(80),
  v.regex(/^[a-z][a-z0-9-]*(\.[a-z0-9-]+)*$/, 'a key is lower-case words joined by dots'),
);

/** A name for people: 1 to 80 characters. */
export const nameSchema = v.pipe(v.string(), v.minLength(1, 'a name is missing'), v.maxLength(80));

/** A whole number within bounds, both included. */
export const wholeNumber = (min: number, max: number) =>
  v.pipe(v.number(), v.integer(), v.minValue(min), v.maxValue(max));

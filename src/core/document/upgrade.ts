import { isRecord } from '../board/own.ts';
import { readAs, type DocumentClass } from './check.ts';
import type { Parsed } from './problems.ts';

type Doc = Readonly<Record<string, unknown>>;

/** What makes a document of a schema version one of the next. It is given what was read so far, and refuses nothing. */
export type Step = (doc: Doc) => Doc;

/** A record with some of its keys under other names, in the same order; what is under other keys stays as it is. */
export const renamedKeys = (doc: Doc, names: Readonly<Record<string, string>>): Doc =>
  Object.fromEntries(
    Object.entries(doc).map(([key, value]) => [Object.hasOwn(names, key) ? names[key]! : key, value]),
  );

/**
 * A document as today's schema has it, by the step from each older version to the next: `steps[0]` makes version 2 of version
 * 1. Only what says its version is upgraded; one of a version that is not known yet is refused.
 */
export function upgraded(input: unknown, steps: readonly Step[]): Parsed<unknown> {
  const newest = steps.length + 1;
  if (!isRecord(input)) return { ok: false, problems: ['document: is not an object'] };
  const version = input['schema'];
  if (typeof version !== 'number' || !Number.isInteger(version) || version < 1)
    return { ok: false, problems: ['schema: must be the number of its version'] };
  if (version > newest)
    return {
      ok: false,
      problems: [`schema: version ${version} is of a newer Foothill; this one reads up to ${newest}`],
    };
  const doc = steps.slice(version - 1).reduce((at, step) => step(at), input);
  return { ok: true, value: { ...doc, schema: newest } };
}

/**
 * Reads a document of any version of its kind: brought up to date step by step, then read by its class and by `also`, as
 * `readAs` does.
 */
export function readDocument<T extends object>(
  Class: DocumentClass<T>,
  steps: readonly Step[],
  input: unknown,
  also?: (doc: T) => string[],
): Parsed<T> {
  const doc = upgraded(input, steps);
  return doc.ok ? readAs<T>(Class, doc.value, also) : doc;
}

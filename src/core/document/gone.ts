import { isRecord } from '../board/own.ts';

/** The names of all that has one within a document, by what each is known by: its id, or its key. */
function named(doc: unknown, into = new Map<string, string>()): Map<string, string> {
  if (Array.isArray(doc)) for (const one of doc) named(one, into);
  else if (isRecord(doc)) {
    const { id, key, name } = doc;
    const known = typeof id === 'string' ? `id ${id}` : typeof key === 'string' ? `key ${key}` : null;
    if (known !== null && typeof name === 'string') into.set(known, name);
    for (const part of Object.values(doc)) named(part, into);
  }
  return into;
}

/**
 * The names of what somebody else took out of a document: it was there before, is not there now, and still is in what is worked at
 * here. An id counts once, wherever in the document it stands.
 */
export function goneElsewhere(before: object, now: object, here: object): string[] {
  const [was, is, mine] = [named(before), named(now), named(here)];
  return [...was].flatMap(([known, name]) => (is.has(known) || !mine.has(known) ? [] : [name]));
}

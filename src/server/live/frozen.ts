/** In development and in tests documents are frozen: whoever changes one in place is told at once. */
const FREEZES = process.env['NODE_ENV'] !== 'production';

/** The same document, which nobody can change while Foothill is made. */
export function frozen<T>(doc: T): T {
  if (FREEZES && typeof doc === 'object' && doc !== null && !Object.isFrozen(doc)) {
    Object.freeze(doc);
    for (const part of Object.values(doc)) frozen(part);
  }
  return doc;
}

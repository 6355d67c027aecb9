/** What is wrong at a place and within it, as react-hook-form keeps errors. */
export interface FieldErrors {
  type?: string;
  message?: string;
  [part: string]: FieldErrors | string | undefined;
}

/** The problems of a document that was read (`home.players.3.number: …`), each at its place. */
export function errorsOf(problems: readonly string[]): FieldErrors {
  // An error of the whole, whatever part of it is wrong: what has no type is none to a form.
  const root: FieldErrors = { type: 'read' };
  for (const problem of problems) {
    const cut = /^([\w.-]+): (.*)$/s.exec(problem);
    let at = root;
    for (const part of cut ? cut[1]!.split('.') : []) {
      // Own names of what people prepared: none of them may be taken for one that every object has.
      const inner = Object.hasOwn(at, part) ? at[part] : undefined;
      at = typeof inner === 'object' ? inner : (at[part] = Object.create(null) as FieldErrors);
    }
    at.type = 'read';
    at.message = at.message ? `${at.message}; ${cut?.[2] ?? problem}` : (cut?.[2] ?? problem);
  }
  return root;
}

/** What is wrong at a place itself; null where nothing is. */
export function errorAt(wrongs: FieldErrors | undefined, place: string): string | null {
  let at: FieldErrors | string | undefined = wrongs;
  for (const part of place === '' ? [] : place.split('.'))
    at = typeof at === 'object' && Object.hasOwn(at, part) ? at[part] : undefined;
  return typeof at === 'object' ? (at.message ?? null) : null;
}

/** Parts of documents that have no name on a screen: what is in them has. */
const UNNAMED = new Set(['source', 'transport']);

/** Every problem in words with its place, such as `home players 4 number: …`; places of a list are counted from 1. */
export function errorSentences(wrongs: FieldErrors | undefined, place = ''): string[] {
  if (!wrongs) return [];
  const here = wrongs.message ? [place ? `${place}: ${wrongs.message}` : wrongs.message] : [];
  const inner = Object.entries(wrongs).flatMap(([part, within]) => {
    if (typeof within !== 'object' || part === 'ref') return [];
    const name = /^\d+$/.test(part) ? String(Number(part) + 1) : part;
    return errorSentences(within, [place, UNNAMED.has(name) ? '' : name].filter(Boolean).join(' '));
  });
  return [...here, ...inner];
}

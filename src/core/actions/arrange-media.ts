import { Count, OneOf } from '../document/rules.ts';
import { fileNameOf, inPlaceOf, plainPath, type MediaChange, type MediaEntry } from '../media/media.ts';
import { counted } from '../text/words.ts';
import { action, refuse } from './action.ts';
import { edit, type Edit } from './change.ts';
import { readChange } from './media.ts';
import { ActionRequest } from './request.ts';
import type { Situation } from './situation.ts';

class ArrangeMediaRequest extends ActionRequest {
  @OneOf('arrange-media') kind!: 'arrange-media';
  /** Each a path with what is to stand there, or null. */
  @Count(1, 4000) changes!: MediaChange[];
}

/**
 * Moves or takes away several entries at once: all or none, and nothing that stands in the way is overwritten. What shows a
 * picture that was moved goes on showing it, unless its path is worked out from a key.
 */
export const arrangeMedia = action({
  request: ArrangeMediaRequest,
  role: 'prepare',
  prepare: ({ library }, request) => library.trueEntries(request),
  decide: (now, { changes }) => ({ change: { edits: arranged(now, changes.map(readChange)) } }),
  sentence: (_, { changes }) => {
    const put = changes.filter((c) => c.entry !== null).length;
    return put
      ? `Moved ${counted(put, 'picture')} in the library`
      : `Took ${counted(changes.length, 'picture')} out of the library`;
  },
});

/** Finds the one that an entry was before it was moved: of the same content, by the same name if there is one. */
function movedFrom(gone: readonly Edit[]): (entry: MediaEntry) => MediaEntry | undefined {
  const byHash = new Map<string, MediaEntry[]>();
  for (const edit of gone) {
    const was = edit.was as MediaEntry;
    const same = byHash.get(was.hash);
    if (same) same.push(was);
    else byHash.set(was.hash, [was]);
  }
  return ({ path, hash }) => {
    const same = byHash.get(hash) ?? [];
    return same.find((was) => fileNameOf(was.path) === fileNameOf(path)) ?? same[0];
  };
}

function arranged({ library }: Situation, changes: MediaChange[]): Edit[] {
  // What is taken away makes room for what is put.
  const gone = changes
    .filter((m) => m.entry === null)
    .map(({ path }) => {
      const was =
        library.index.at(path) ?? refuse(`The library has no "${path}"; it may have been moved or deleted.`);
      return edit('media', was.path, was, null);
    });
  const free = new Set(gone.map((e) => plainPath(e.key)));
  const former = movedFrom(gone);
  const taken = new Set<string>();
  const put = changes.flatMap(({ path, entry }) => {
    if (!entry) return [];
    const plain = plainPath(path);
    if (taken.has(plain)) refuse(`Two would stand at "${path}"; nothing was moved.`);
    taken.add(plain);
    const was = free.has(plain) ? null : (library.index.at(path) ?? null);
    if (was && was.hash !== entry.hash) refuse(`"${was.path}" stands there already; nothing was moved.`);
    return [edit('media', path, was, inPlaceOf(entry, was, former(entry)))];
  });
  return [...gone, ...put];
}

import { fileNameOf, plainPath, type MediaChange, type MediaEntry } from '../../core/media/media.ts';

export const folderOf = (path: string) => path.split('/').slice(0, -1).join('/');
const inFolder = (folder: string, name: string) => (folder ? `${folder}/${name}` : name);

/** A folder as it may be typed: without slashes at its ends or blanks around its parts. */
export const tidyFolder = (typed: string) =>
  typed
    .split('/')
    .map((part) => part.trim())
    .filter(Boolean)
    .join('/');

/** The changes that put entries under other paths; those that stay where they are change nothing. */
export function movedTo(
  entries: readonly MediaEntry[],
  pathOf: (entry: MediaEntry) => string,
): MediaChange[] {
  const moved = entries
    .map((entry) => ({ entry, path: pathOf(entry) }))
    .filter((m) => m.path !== m.entry.path);
  // Where only the writing of a path changes, nothing is taken away.
  const gone = moved.filter((m) => plainPath(m.path) !== plainPath(m.entry.path));
  return [
    ...gone.map(({ entry }) => ({ path: entry.path, entry: null })),
    ...moved.map(({ entry, path }) => ({ path, entry: { ...entry, path } })),
  ];
}

/** The same into a folder, by name. */
export const intoFolder = (entries: readonly MediaEntry[], folder: string) =>
  movedTo(entries, ({ path }) => inFolder(folder, fileNameOf(path)));

/** All that is in a folder, and in those in it, under another name of that folder. */
export const folderRenamed = (all: readonly MediaEntry[], from: string, to: string) =>
  movedTo(
    all.filter(({ path }) => path.startsWith(`${from}/`)),
    ({ path }) => `${to}${path.slice(from.length)}`,
  );

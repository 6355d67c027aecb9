import { editsOf, reversed, type Change, type Decision, type Edit } from '../../core/actions/change.ts';
import { assembled, bundleOf, nameOfPlace, type DocumentMaps, type World } from '../../core/actions/world.ts';
import { differences } from '../../core/document/merge.ts';
import { isDocumentKind, type DocumentKind } from '../../core/documents/kinds.ts';
import { withoutSecret } from '../../core/source/source.ts';
import type { Version } from '../store/store.ts';

/** A decision whose edits of documents say how often each was saved: one more than before, or as before where it is undone. */
export function nextRevisions(
  { revisions }: Pick<World, 'revisions'>,
  { change, undo }: Decision,
): { change: Change; undo: Change } {
  const numbered = (edits: Edit[], more: number) =>
    edits.map((e) =>
      isDocumentKind(e.kind)
        ? { ...e, revision: (revisions.get(nameOfPlace(e.kind, e.key)) ?? 0) + more }
        : e,
    );
  const back = undo ?? { edits: reversed(change.edits) };
  return {
    change: { ...change, edits: numbered(change.edits, 1) },
    undo: { ...back, edits: numbered(back.edits, 0) },
  };
}

/** What a version is called: what it changed where that is asked for, else what was done. */
function inWords(text: string, byChange: boolean, was: object | null, is: object): string {
  const changed = was && byChange ? differences(was, is) : [];
  if (!changed.length) return text;
  const more = changed.length > 2 ? `; and ${changed.length - 2} more` : '';
  return `${changed.slice(0, 2).join('; ')}${more}`;
}

const BEFORE = { who: '', text: 'As it stood before' };

/** The kinds of which versions are kept; the parts of a source are kept with it. */
const VERSIONED: readonly DocumentKind[] = [
  ...(['game', 'profile', 'derived', 'template', 'palette', 'output'] as const),
  ...(['rundown', 'rundown-model', 'look'] as const),
];

/**
 * The versions that a change makes, and what stood before where that is none yet: whoever began from it can be told what
 * changed since.
 */
export function versionsOf(
  world: World,
  change: Change,
  said: Pick<Version, 'at' | 'who' | 'text'>,
  byChange = false,
): Version[] {
  const both = (kind: string, key: string, revision: number, was: object | null, is: object | null) => [
    ...(was && revision > 1
      ? [{ ...BEFORE, at: said.at, kind, key, revision: revision - 1, body: was, before: true }]
      : []),
    // That it was deleted is a version too: the numbers go on after it.
    { ...said, text: is ? inWords(said.text, byChange, was, is) : said.text, kind, key, revision, body: is },
  ];
  const documents = change.edits.flatMap((e) =>
    VERSIONED.includes(e.kind as DocumentKind) ? both(e.kind, e.key, e.revision!, e.was, e.is) : [],
  );
  const after = documentsAfter(world.documents, change);
  const sources = editsOf(change, 'source').flatMap(({ key, is, revision }) => {
    const was = bundleOf(world, key);
    return both(
      'source',
      key,
      revision!,
      was ? withoutSecret(was) : null,
      is && withoutSecret(assembled(after, is)),
    );
  });
  return [...documents, ...sources];
}

/** The documents as they are after a change; those that it does not touch are the same maps. */
function documentsAfter(documents: DocumentMaps, { edits }: Change): DocumentMaps {
  const before: Record<string, Map<string, unknown>> = documents;
  const after = { ...before };
  for (const { kind, key, is } of edits.filter((e) => isDocumentKind(e.kind))) {
    if (after[kind] === before[kind]) after[kind] = new Map(before[kind]);
    const map = after[kind]!;
    if (is) map.set(key, is);
    else map.delete(key);
  }
  return after as DocumentMaps;
}

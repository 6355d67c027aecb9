import { DOCUMENT_KINDS, type DocumentKind } from '../documents/kinds.ts';
import { inWords, merged, type Collision } from '../document/merge.ts';
import { Clash } from '../show/show.ts';
import { refuse } from './action.ts';
import { edit, type Edit } from './change.ts';
import type { Situation } from './situation.ts';
import { nameOfPlace, type World } from './world.ts';
import type { SourceBundle } from '../source/source.ts';

const wordOf = (kind: DocumentKind) => DOCUMENT_KINDS[kind].word;

/** Refuses to write over a document that could not be read: what somebody made is in it. */
export function refuseOver({ unread }: Pick<World, 'unread'>, kind: DocumentKind, key: string): void {
  const there = unread.get(nameOfPlace(kind, key));
  if (there)
    refuse(
      `The ${wordOf(kind)} "${there.name}" could not be read and stands under the key "${key}". Mend or delete it first.`,
    );
}

/** The same for a source, which is saved with all its parts. */
export function refuseOverParts(world: Pick<World, 'unread' | 'documents'>, key: string): void {
  for (const kind of ['source', 'doc-map', 'patch'] as const) refuseOver(world, kind, key);
  const map = world.documents.source.get(key)?.frameMap;
  if (map) refuseOver(world, 'frame-map', map);
}

/** What two people made of the same thing, each in a few words. */
const clashInWords = ({ place, mine, theirs }: Collision) =>
  `${place || 'the whole'} (${inWords(theirs)} there, ${inWords(mine)} here)`;

/**
 * The version of a document that a save began from. Throws a Clash where it has been deleted meanwhile, and where that version is
 * kept no more.
 */
export function begunFrom<T extends object>(
  { world, versions }: Pick<Situation, 'world' | 'versions'>,
  { kind, key, revision }: { kind: string; key: string; revision: number },
  theirs: T | null,
): T {
  if (!theirs) throw new Clash('It was deleted at another desk meanwhile.');
  const today = world.revisions.get(nameOfPlace(kind, key)) === revision;
  const base = today ? theirs : versions.base(kind, key, revision);
  if (!base) throw new Clash('It was saved at another desk meanwhile.');
  return base as T;
}

/**
 * What a save writes: `mine` where it began from what stands, else both made one. `kind` and `key` are under what its versions
 * are kept. Throws a Clash that says what clashes where two changed the same thing, or where it has been deleted meanwhile.
 */
export function reconciled<T extends object>(
  now: Pick<Situation, 'world' | 'versions'>,
  { kind, key, revision }: { kind: string; key: string; revision: number | undefined },
  mine: T,
  theirs: T | null,
): T {
  if (revision === undefined) return mine;
  const today = theirs === null ? 0 : now.world.revisions.get(nameOfPlace(kind, key));
  if (revision === today) return mine;
  const base = begunFrom(now, { kind, key, revision }, theirs);
  const { doc, clashes } = merged(base, mine, theirs);
  if (clashes.length)
    throw new Clash(
      `It was saved at another desk meanwhile, and both changed ${clashes.slice(0, 3).map(clashInWords).join('; ')}${clashes.length > 3 ? ` and ${clashes.length - 3} more` : ''}.`,
    );
  return doc as T;
}

/** The edits that make a source with its parts another; its own document is always among them, for its revision is that of all. */
export function bundleEdits(was: SourceBundle | null, is: SourceBundle | null): Edit[] {
  const key = (is ?? was)!.source.key;
  const edits: Edit[] = [edit('source', key, was?.source ?? null, is?.source ?? null)];
  const wasMap = was?.map ?? null;
  const isMap = is?.map ?? null;
  // A map under a key of its own is there for all, and stays when a source that used it goes.
  if (wasMap && wasMap.key !== isMap?.key && wasMap.key === key)
    edits.push(edit('frame-map', wasMap.key, wasMap, null));
  if (isMap) edits.push(edit('frame-map', isMap.key, wasMap?.key === isMap.key ? wasMap : null, isMap));
  if (was?.document || is?.document)
    edits.push(edit('doc-map', key, was?.document ?? null, is?.document ?? null));
  if (was?.patch || is?.patch) edits.push(edit('patch', key, was?.patch ?? null, is?.patch ?? null));
  return edits;
}

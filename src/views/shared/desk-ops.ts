import type { Documents, ToldKind } from '../../core/documents/kinds.ts';
import { nameOfPlace } from '../../core/actions/world.ts';
import { patched } from '../../core/document/patches.ts';
import { plainPath } from '../../core/media/plain-path.ts';
import { lanesInOrder, outputsInOrder } from '../../core/show/order.ts';
import { laneKey } from '../../core/show/show.ts';
import { changedTable } from '../../core/wire/table-change.ts';
import type {
  ChangedOp,
  DeskDocuments,
  DeskOp,
  DeskSnapshot,
  DeskTable,
  DocumentOp,
} from '../../core/wire/wire.ts';

type Op<K extends DeskOp['op']> = Extract<DeskOp, { op: K }>;

interface Place<T> {
  of: (desk: DeskSnapshot) => readonly T[];
  with: (list: T[], desk: DeskSnapshot) => Partial<DeskSnapshot>;
  key: (doc: T) => string;
}
/** Where a snapshot has what is no document of its own kind, and under which key. */
const PLACES: { [K in Exclude<keyof DeskDocuments, ToldKind>]: Place<DeskDocuments[K]> } = {
  lane: {
    of: (d) => d.lanes,
    with: (lanes, { documents }) => ({ lanes: lanesInOrder(documents.output, lanes) }),
    key: laneKey,
  },
  source: { of: (d) => d.bundles, with: (bundles) => ({ bundles }), key: (b) => b.source.key },
  // What replaces a picture may be of another type: it stands under the same plain path.
  media: { of: (d) => d.media, with: (media) => ({ media }), key: (m) => plainPath(m.path) },
};
/** The place of the documents of a kind: under its name. */
const documentsOf = (kind: ToldKind): Place<Keyed> => ({
  of: ({ documents }) => documents[kind],
  with: (list, { documents }) => ({ documents: { ...documents, [kind]: list } }),
  key: ({ key }) => key,
});
/** Outputs stand as people put them, and the lanes with them. */
const outputsOf: Place<Documents['output']> = {
  of: ({ documents }) => documents.output,
  with: (list, { documents, lanes }) => {
    const output = outputsInOrder(list);
    return { documents: { ...documents, output }, lanes: lanesInOrder(output, lanes) };
  },
  key: ({ key }) => key,
};
type Keyed = Documents[ToldKind];
const placeOf = (kind: keyof DeskDocuments) =>
  (kind === 'output'
    ? outputsOf
    : Object.hasOwn(PLACES, kind)
      ? PLACES[kind as keyof typeof PLACES]
      : documentsOf(kind as ToldKind)) as Place<unknown>;

/** The list with this one in the place of the one of its key, or added. */
function withOne<T>(list: readonly T[], next: T, key: (x: T) => string): T[] {
  const at = list.findIndex((x) => key(x) === key(next));
  return at < 0 ? [...list, next] : list.map((x, i) => (i === at ? next : x));
}

function withDocument(desk: DeskSnapshot, op: DocumentOp): DeskSnapshot {
  const place = placeOf(op.kind);
  const list = withOne(place.of(desk), op.doc, place.key);
  const { revision } = op;
  return {
    ...desk,
    ...place.with(list, desk),
    ...(revision === undefined
      ? {}
      : { revisions: { ...desk.revisions, [nameOfPlace(op.kind, op.key)]: revision } }),
  };
}

/** A document with what a save changed in it. Throws where this page has another one: then it must have all anew. */
function withChanges(desk: DeskSnapshot, op: ChangedOp): DeskSnapshot {
  const { kind, key, patches, revision } = op;
  const was = desk.documents[kind].find((d) => d.key === key);
  if (!was || desk.revisions[nameOfPlace(kind, key)] !== revision - 1)
    throw new Error(`${kind} ${key} is not known as it was before revision ${revision}`);
  return withDocument(desk, {
    op: 'document',
    kind,
    key,
    doc: patched(was, patches),
    revision,
  } as DocumentOp);
}

function withoutDocument(desk: DeskSnapshot, { kind, key }: Op<'document-gone'>): DeskSnapshot {
  const place = placeOf(kind);
  const revisions = { ...desk.revisions };
  delete revisions[nameOfPlace(kind, key)];
  return {
    ...desk,
    ...place.with(
      place.of(desk).filter((x) => place.key(x) !== key),
      desk,
    ),
    revisions,
  };
}

/** As many lines of the log as a desk keeps. */
const LOG_LENGTH = 40;

/** What a desk knows after a piece of news; what it is not about stays the same object. */
export function changedDesk(
  desk: DeskSnapshot,
  op: Exclude<DeskOp, Op<'fields'> | Op<'tables'> | Op<'undo'>>,
): DeskSnapshot {
  switch (op.op) {
    case 'document':
      return withDocument(desk, op);
    case 'changed':
      return withChanges(desk, op);
    case 'document-gone':
      return withoutDocument(desk, op);
    case 'world':
      return {
        ...desk,
        ...op.world,
        revisions: op.world.revisions ? { ...desk.revisions, ...op.world.revisions } : desk.revisions,
      };
    case 'sources':
      return { ...desk, sources: op.sources };
    case 'deck':
      return { ...desk, tapes: op.tapes, rehearsal: op.rehearsal };
    case 'problems':
      return { ...desk, problems: op.problems };
    case 'database':
      return { ...desk, database: { ok: op.ok, full: op.full } };
    case 'cards':
      return { ...desk, cards: op.cards };
    case 'quiet':
      return { ...desk, quiet: op.quiet };
    case 'pages':
      return { ...desk, pages: op.pages, gone: op.gone };
    case 'log': {
      const before = op.replaces ? desk.log.slice(0, -1) : desk.log;
      return { ...desk, log: [...before, op.line].slice(-LOG_LENGTH) };
    }
  }
}

/** The tables after news of some; those that are new or other. A change of a table that was never told is left out. */
export function changedTables(
  tables: readonly DeskTable[],
  op: Op<'tables'>,
): { tables: DeskTable[]; news: DeskTable[] } {
  const known = new Map(tables.map((t) => [t.key, t]));
  for (const key of op.gone) known.delete(key);
  const news = op.tables.flatMap((t) => {
    const was = known.get(t.key);
    const now = !('change' in t) ? t : was && changedTable(was, t);
    return now ? [now] : [];
  });
  for (const t of news) known.set(t.key, t);
  return { tables: [...known.values()], news };
}

import { plainPath } from '../../core/media/plain-path.ts';
import { laneKey } from '../../core/show/show.ts';
import { changedTable } from '../../core/wire/table-change.ts';
import type { DeskDocuments, DeskOp, DeskSnapshot, DeskTable, DocumentOp } from '../../core/wire/wire.ts';

type Op<K extends DeskOp['op']> = Extract<DeskOp, { op: K }>;

/** Where a snapshot has the documents of each kind, and under which key. */
const PLACES: {
  [K in keyof DeskDocuments]: {
    of: (desk: DeskSnapshot) => readonly DeskDocuments[K][];
    with: (list: DeskDocuments[K][]) => Partial<DeskSnapshot>;
    key: (doc: DeskDocuments[K]) => string;
  };
} = {
  item: { of: (d) => d.items, with: (items) => ({ items }), key: (i) => i.id },
  lane: { of: (d) => d.lanes, with: (lanes) => ({ lanes }), key: laneKey },
  game: { of: (d) => d.games, with: (games) => ({ games }), key: (g) => g.key },
  profile: { of: (d) => d.profiles, with: (profiles) => ({ profiles }), key: (p) => p.key },
  template: { of: (d) => d.templates, with: (templates) => ({ templates }), key: (t) => t.key },
  output: { of: (d) => d.outputs, with: (outputs) => ({ outputs }), key: (o) => o.key },
  source: { of: (d) => d.bundles, with: (bundles) => ({ bundles }), key: (b) => b.source.key },
  // What replaces a picture may be of another type: it stands under the same plain path.
  media: { of: (d) => d.media, with: (media) => ({ media }), key: (m) => plainPath(m.path) },
};
const placeOf = (kind: keyof DeskDocuments) => PLACES[kind] as (typeof PLACES)['item'];

/** The list with this one in the place of the one of its key, or added. */
function withOne<T>(list: readonly T[], next: T, key: (x: T) => string): T[] {
  const at = list.findIndex((x) => key(x) === key(next));
  return at < 0 ? [...list, next] : list.map((x, i) => (i === at ? next : x));
}

function withDocument(desk: DeskSnapshot, op: DocumentOp): DeskSnapshot {
  const place = placeOf(op.kind);
  const list = withOne(place.of(desk), op.doc as DeskDocuments['item'], place.key);
  const { revision } = op;
  return {
    ...desk,
    ...place.with(list),
    ...(revision === undefined
      ? {}
      : { revisions: { ...desk.revisions, [`${op.kind}/${op.key}`]: revision } }),
  };
}

function withoutDocument(desk: DeskSnapshot, { kind, key }: Op<'document-gone'>): DeskSnapshot {
  const place = placeOf(kind);
  const revisions = { ...desk.revisions };
  delete revisions[`${kind}/${key}`];
  return {
    ...desk,
    ...place.with(place.of(desk).filter((x) => place.key(x) !== key) as DeskDocuments['item'][]),
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
      return { ...desk, database: { ok: op.ok } };
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

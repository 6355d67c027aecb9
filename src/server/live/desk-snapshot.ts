import { TOLD } from '../../core/documents/kinds.ts';
import type { Board } from '../../core/board/board.ts';
import type { Derivations } from '../../core/derive/derivations.ts';
import type { Show } from '../../core/show/show.ts';
import { withoutSecret } from '../../core/source/source.ts';
import type { DeskSnapshot, LogLine, OpenPage } from '../../core/wire/wire.ts';
import type { Reach } from '../ingest/open-source.ts';
import type { Library } from '../media/library.ts';
import type { Store } from '../store/store.ts';
import type { Deck } from '../tape/deck.ts';
import type { Sources } from './sources.ts';
import type { ToldTables } from './tables.ts';
import { nameOfPlace, sharedMaps, type World } from '../../core/actions/world.ts';
import type { UndoState } from '../../core/actions/past.ts';

interface Parts {
  world: World;
  derivations: Derivations;
  library: Library;
  board: Board;
  tables: ToldTables;
  show: Show;
  sources: Sources;
  reach: Reach;
  deck: Deck;
  store: Pick<Store, 'ok' | 'full'>;
  log: LogLine[];
  undos: UndoState[];
  pages: OpenPage[];
  gone: OpenPage[];
}

/** All that a desk begins with; nothing of it is a secret. */
export function deskSnapshotOf(parts: Parts): DeskSnapshot {
  const { world, derivations, board, show, sources, deck } = parts;
  const { game, documents } = world;
  return {
    documents: Object.fromEntries(
      TOLD.map((kind) => [kind, [...documents[kind].values()]]),
    ) as DeskSnapshot['documents'],
    playing: game?.key ?? null,
    derived: derivedNow(derivations, world),
    problems: Object.fromEntries(derivations.problems),
    maps: sharedMaps(world),
    media: parts.library.index.list(),
    defs: [...board.fields],
    fields: [...board.fields].map(({ key }) => ({ key, ...board.state(key)! })),
    tables: parts.tables.whole(),
    lanes: [...show.lanes.values()],
    unread: unreadNow(world),
    sources: sources.states(),
    bundles: sources.bundles().map(withoutSecret),
    folders: [...parts.reach.folders],
    tapes: deck.tapes,
    rehearsal: deck.playing,
    database: { ok: parts.store.ok, full: parts.store.full },
    log: parts.log,
    undos: parts.undos,
    pages: parts.pages,
    gone: parts.gone,
    cards: [...show.cards],
    quiet: show.quiet,
    revisions: revisionsNow(world),
  };
}

/** What is derived, and whether it is one's own or the sport's. */
export const derivedNow = (
  derivations: Pick<Derivations, 'list'>,
  { documents }: World,
): DeskSnapshot['derived'] => derivations.list().map((doc) => ({ doc, own: documents.derived.has(doc.key) }));

/** What could not be read, without what it is. */
export const unreadNow = ({ unread }: World): DeskSnapshot['unread'] =>
  [...unread.values()].map(({ text: _, ...u }) => u);

/** How often each document that is there was saved. */
function revisionsNow({ documents, revisions }: World): Record<string, number> {
  return Object.fromEntries(
    Object.entries(documents).flatMap(([kind, docs]) =>
      [...docs.keys()].map((key) => [nameOfPlace(kind, key), revisions.get(nameOfPlace(kind, key)) ?? 1]),
    ),
  );
}

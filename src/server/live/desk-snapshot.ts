import type { Board } from '../../core/board/board.ts';
import type { Derivations } from '../../core/derive/derivations.ts';
import type { Show } from '../../core/show/show.ts';
import { withoutSecret } from '../../core/source/source.ts';
import type { DeskSnapshot, LogLine } from '../../core/wire/wire.ts';
import type { Reach } from '../ingest/open-source.ts';
import type { Library } from '../media/library.ts';
import type { Store } from '../store/store.ts';
import type { Deck } from '../tape/deck.ts';
import type { Sources } from './sources.ts';
import type { ToldTables } from './tables.ts';
import type { World } from './world.ts';

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
  store: Pick<Store, 'ok'>;
  log: LogLine[];
}

/** All that a desk begins with; nothing of it is a secret. */
export function deskSnapshotOf(parts: Parts): DeskSnapshot {
  const { world, derivations, board, show, sources, deck } = parts;
  const { game, output, templates, games, profiles, derived, maps } = world;
  return {
    game: {
      title: game ? `${game.home.name} v ${game.away.name}` : 'No game chosen',
      competition: game?.competition ?? '',
      venue: game?.venue ?? '',
    },
    output,
    playing: game?.key ?? null,
    games: [...games.values()],
    profiles: [...profiles.values()],
    derived: derivations.list().map((doc) => ({ doc, own: derived.has(doc.key) })),
    problems: Object.fromEntries(derivations.problems),
    maps,
    media: parts.library.index.list(),
    defs: [...board.fields],
    fields: [...board.fields].map(({ key }) => ({ key, ...board.state(key)! })),
    tables: parts.tables.whole(),
    items: [...show.items.values()],
    lanes: [...show.lanes.values()],
    templates: [...templates.values()],
    unread: [...world.unread.values()].map(({ text: _, ...u }) => u),
    sources: sources.states(),
    bundles: sources.bundles().map(withoutSecret),
    folders: [...parts.reach.folders],
    tapes: deck.tapes,
    rehearsal: deck.playing,
    database: { ok: parts.store.ok },
    log: parts.log,
  };
}

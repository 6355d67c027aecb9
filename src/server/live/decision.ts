import type { Board } from '../../core/board/board.ts';
import type { Derivations } from '../../core/derive/derivations.ts';
import type { Show } from '../../core/show/show.ts';
import type { Library } from '../media/library.ts';
import type { StoreChange } from '../store/store.ts';
import type { Deck } from '../tape/deck.ts';
import type { Secrets } from './secrets.ts';
import type { Sources } from './sources.ts';
import type { World } from './world.ts';

/** What a request would change, and what restores what was. */
export interface Decision {
  change: StoreChange;
  undo: StoreChange;
}

/** What decisions are made from; nothing here is changed by making one. */
export interface Situation {
  show: Show;
  board: Board;
  world: World;
  sources: Sources;
  derivations: Derivations;
  library: Library;
  deck: Deck;
  secrets: Secrets;
  /** What takes the latest choices of a game back, by the action's id. */
  before: ReadonlyMap<string, StoreChange>;
}

import type { Board } from '../board/board.ts';
import type { Derivations } from '../derive/derivations.ts';
import type { MediaIndex } from '../media/media.ts';
import type { FieldDef } from '../sport/profile.ts';
import type { Show } from '../show/show.ts';
import type { SourceBundle, SourceDoc } from '../source/source.ts';
import type { IntakeMemory } from '../tape/memory.ts';
import type { RehearsalState, TapeInfo } from '../tape/tape.ts';
import type { Decision } from './change.ts';
import type { DeckRequest } from './deck-requests.ts';
import { refuse } from './refuse.ts';
import type { PastActions } from './past.ts';
import type { World } from './world.ts';

/** What decisions are made from; nothing here is changed by making one. */
export interface Situation {
  show: Show;
  board: Board;
  world: World;
  sources: {
    bundle: (key: string) => SourceBundle | undefined;
    bundles: () => SourceBundle[];
    /** The name of the device that speaks and feeds a field before a pad does; null for none. */
    aheadOf: (pad: string, field: string) => string | null;
    /** All that is known of the sources and by them; `zero` is the moment from which its times count. */
    remember: (zero: number) => IntakeMemory;
  };
  derivations: Derivations;
  library: { index: MediaIndex };
  deck: {
    playing: RehearsalState | null;
    tapes: readonly TapeInfo[];
    decide: (request: DeckRequest, at: number) => Decision;
  };
  /** The values of feeds' headers, which stay at the server. */
  secrets: {
    fill: (bundle: SourceBundle) => SourceBundle;
    fillSource: (source: SourceDoc) => SourceDoc;
  };
  /** What can be taken back. */
  past: PastActions;
  /** Decides an action that another one stands for. */
  decide: (asked: object, at: number) => Decision;
  /** The version of a document that a save began from, where it is not today's. */
  versions: { base: (kind: string, key: string, revision: number) => object | null };
}

/** What is made ready before an action is decided. */
export interface Preparation {
  past: PastActions;
  /** Makes ready what another action needs. */
  prepare: (asked: object) => Promise<void>;
  deck: { prepare: (request: DeckRequest) => Promise<void> };
  library: { trueEntries: (request: { entry?: object | null } | { changes: unknown[] }) => Promise<void> };
  /** Fetches the version of a document that a save began from, where it is not today's. */
  versions: { fetch: (kind: string, key: string, revision: number | undefined) => Promise<void> };
}

/** The source of a key. Throws a Refusal where there is none. */
export const knownSource = ({ sources }: Pick<Situation, 'sources'>, key: string): SourceBundle =>
  sources.bundle(key) ?? refuse(`There is no source "${key}"; it may have been deleted.`);

/** The field of a key. Throws a Refusal where the board has none. */
export const knownField = ({ board }: Pick<Situation, 'board'>, key: string): FieldDef =>
  board.def(key) ?? refuse(`The board has no field "${key}".`);

/** What people call a tape. */
export const tapeName = ({ deck }: Pick<Situation, 'deck'>, key: string | undefined): string =>
  deck.tapes.find((t) => t.key === key)?.name ?? 'a tape';

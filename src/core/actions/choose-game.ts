import { Maybe, OneOf, Text } from '../document/rules.ts';
import { nameOfDocument } from '../documents/kinds.ts';
import { emptyLane, laneKey } from '../show/show.ts';
import { isByHand, type SourceBundle } from '../source/source.ts';
import { COMMON_FIELDS } from '../sport/common.ts';
import type { SportProfile } from '../sport/profile.ts';
import { defaultValue } from '../sport/typed.ts';
import { action, refuse } from './action.ts';
import { edit, reversed, type BoardRow, type Setting } from './change.ts';
import { blank, pinEdits, pinsNow, rowsOf } from './memory-rows.ts';
import { ActionRequest } from './request.ts';
import { bundleEdits } from './saving.ts';

class ChooseGameRequest extends ActionRequest {
  @OneOf('choose-game') kind!: 'choose-game';
  @Text(1, 80) game!: string;
  /** Whether the board begins anew with the sport's first values, or keeps what it says; another sport's is never kept. */
  @Maybe() @OneOf('clear', 'keep') board?: 'clear' | 'keep';
  @Maybe() @OneOf('clear', 'keep') air?: 'clear' | 'keep';
}

/** Whose word it is what a game begins with. */
export const START = 'start';

/** What fields of a profile say when a game begins; those of the game itself are said by the game. */
export function firstRows(profile: SportProfile, at: number): BoardRow[] {
  const games = new Set(COMMON_FIELDS.map((f) => f.key));
  return profile.fields.flatMap((def) =>
    games.has(def.key) || def.kind === 'derived'
      ? []
      : [{ field: def.key, value: defaultValue(def, at), origin: START, at }],
  );
}

/** A source that feeds nothing of a sport is switched off when that is played. */
const isForSport = ({ source, patch }: SourceBundle, profile: SportProfile): boolean =>
  isByHand(source) ||
  !patch?.links.length ||
  patch.links.some((l) => profile.fields.some((f) => f.key === l.field));

const playing = (game: string | null): Setting => ({ schema: 1, game });

/** Chooses the game that is played, and what becomes of the board and of what is on air. */
export const chooseGame = action({
  request: ChooseGameRequest,
  role: 'prepare',
  decide: (now, request, at) => {
    const { world, show } = now;
    const game =
      world.documents.game.get(request.game) ??
      refuse(`There is no game "${request.game}"; it may have been deleted.`);
    const profile = world.documents.profile.get(game.profile) ?? world.profile;
    const fresh = request.board !== 'keep' || profile.key !== world.profile.key;
    const was = now.sources.remember(at);
    const lanes = request.air === 'clear' ? [...show.lanes.values()].filter((l) => l.onAir) : [];
    const off = now.sources
      .bundles()
      .filter((b) => b.source.enabled && !isForSport(b, profile) && isForSport(b, world.profile));
    const rows = firstRows(profile, at);
    const own = new Set(rows.map((r) => r.field));
    const old = was.board.fields.map((f) => f.key).filter((key) => !own.has(key));
    const edits = [
      edit('setting', 'game', playing(world.game?.key ?? null), playing(game.key)),
      ...off.flatMap((b) => bundleEdits(b, { ...b, source: { ...b.source, enabled: false } })),
      ...lanes.map((lane) =>
        edit('lane', laneKey(lane), lane, {
          ...emptyLane(lane),
          next: lane.next,
          off: lane.off,
        }),
      ),
      ...(fresh ? pinEdits(pinsNow(now), new Map()) : []),
      // What was aired in another game was not in this one.
      ...[...show.items.values()]
        .filter((i) => i.aired !== null && fresh)
        .map((i) => edit('item', i.key, i, { ...i, aired: null })),
    ];
    if (!fresh) return { change: { edits } };
    const before = [...blank(own, at), ...rowsOf(was.board, at)];
    return {
      change: { edits, values: [...blank(old, at), ...rows], reset: 'fresh' },
      undo: {
        edits: reversed(edits),
        values: before.filter((row, i) => before.findLastIndex((r) => r.field === row.field) === i),
        reset: { memory: was, zero: at },
      },
    };
  },
  sentence: ({ world }, { game }) => {
    const doc = world.documents.game.get(game);
    return `Chose ${doc ? nameOfDocument('game', doc) : `the game ${game}`}`;
  },
});

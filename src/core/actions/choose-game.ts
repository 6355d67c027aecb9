import { own } from '../board/own.ts';
import { Maybe, OneOf, Text } from '../document/rules.ts';
import { nameOfDocument } from '../documents/kinds.ts';
import { emptyLane, laneKey } from '../show/show.ts';
import { isByHand, type SourceBundle } from '../source/source.ts';
import { COMMON_FIELDS } from '../sport/common.ts';
import type { SportProfile } from '../sport/profile.ts';
import { defaultValue } from '../sport/typed.ts';
import type { IntakeMemory } from '../tape/memory.ts';
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

/** Whether what a source says stands when another game begins: it speaks, and is nobody's hand. */
function goesOn({ sources }: IntakeMemory, bundles: readonly SourceBundle[]): (origin: string) => boolean {
  const devices = new Set(bundles.filter((b) => !isByHand(b.source)).map((b) => b.source.key));
  return (origin) => devices.has(origin) && own(sources, origin)?.health === 'live';
}

/**
 * What is known when another game begins: what sources say that speak, which they go on saying, and the rows of all that feed
 * no field, whose they are whatever is played. What else was said, and by hand, was of the game before.
 */
export function freshMemory(memory: IntakeMemory, bundles: readonly SourceBundle[]): IntakeMemory {
  const stays = goesOn(memory, bundles);
  const feeding = new Set(bundles.filter((b) => b.patch?.links.length).map((b) => b.source.key));
  const { board, arbiter } = memory;
  const only = <T>(record: Record<string, T>, holds: (entry: [string, T]) => boolean) =>
    Object.fromEntries(Object.entries(record).filter(holds));
  return {
    board: {
      fields: board.fields.filter((f) => stays(f.origin)),
      tables: board.tables.filter((t) => stays(t.origin) || !feeding.has(t.origin)),
    },
    arbiter: {
      live: only(arbiter.live, ([source]) => stays(source)),
      latest: arbiter.latest.filter((said) => stays(said.origin)),
      holders: only(arbiter.holders, ([, source]) => stays(source)),
      lost: {},
    },
    sources: Object.fromEntries(
      Object.entries(memory.sources).map(([key, s]) => [
        key,
        stays(key) ? s : { ...s, clocks: [], words: [] },
      ]),
    ),
  };
}

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
    const first = firstRows(profile, at);
    const fields = new Set(first.map((r) => r.field));
    const old = was.board.fields.map((f) => f.key).filter((key) => !fields.has(key));
    // What a source goes on saying of a field that is the same in this sport stands: it is not 0 for a moment.
    const stays = goesOn(
      was,
      now.sources.bundles().filter((b) => !off.includes(b)),
    );
    const said = new Set(was.board.fields.filter((f) => stays(f.origin)).map((f) => f.key));
    const def = (of: SportProfile, key: string) => JSON.stringify(of.fields.find((f) => f.key === key));
    const rows = first.filter(
      ({ field }) => !said.has(field) || def(profile, field) !== def(world.profile, field),
    );
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
    const before = [...blank(fields, at), ...rowsOf(was.board, at)];
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

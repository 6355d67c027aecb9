import type { BoardMemory } from '../../core/board/board.ts';
import { isClock, shifted, type FieldValue } from '../../core/board/values.ts';
import { clockAt, stoppedClock } from '../../core/clock/clock.ts';
import { swapSides } from '../../core/show/game.ts';
import { Refusal } from '../../core/show/show.ts';
import {
  feedsSides,
  placeOfField,
  sidesOf,
  swapMemory,
  swapPatch,
  valueOfField,
} from '../../core/show/swap.ts';
import type { SourceBundle } from '../../core/source/source.ts';
import type { SportProfile } from '../../core/sport/profile.ts';
import { firstValue } from '../../core/sport/typed.ts';
import { COMMON_FIELDS } from '../../core/sport/common.ts';
import type { IntakeMemory } from '../../core/tape/memory.ts';
import type { ChooseGameRequest, SwapSidesRequest } from '../http/requests.ts';
import type { DocumentChange, PinChange, Saved, StoreChange } from '../store/store.ts';
import type { Decision, Situation } from './decision.ts';

/** A value as it is kept: clocks at rest. */
export const atRest = (value: FieldValue, now: number): FieldValue =>
  isClock(value) ? stoppedClock(clockAt(value, now), value.direction, now) : value;

/** Rows of the board as they are kept, of what a memory of it says. */
const rowsOf = ({ fields }: BoardMemory, now: number): Saved['board'] =>
  fields.map(({ key, value, origin }) => ({
    field: key,
    value: atRest(shifted(value, now), now),
    origin,
    at: now,
  }));

/** Blank rows for fields that have one no more. */
const blank = (keys: Iterable<string>, now: number): Saved['board'] =>
  [...keys].map((field) => ({ field, value: null, origin: '', at: now }));

/** The rows after a change: what the memory says, and blanks where only the one before it said something. */
function rowsAfter(was: IntakeMemory, is: IntakeMemory, now: number): Saved['board'] {
  const kept = new Set(is.board.fields.map((f) => f.key));
  return [
    ...blank(
      was.board.fields.map((f) => f.key).filter((key) => !kept.has(key)),
      now,
    ),
    ...rowsOf(is.board, now),
  ];
}

const pinsNow = ({ board }: Situation): { field: string; value: FieldValue; at: number }[] =>
  [...board.fields].flatMap(({ key }) => {
    const pin = board.state(key)?.pin;
    return pin ? [{ field: key, ...pin }] : [];
  });

/** The setting that says which game is played. */
export const chosen = (game: string | null): DocumentChange => ({
  kind: 'setting',
  key: 'game',
  body: { schema: 1, game },
});

/** Decides to exchange the sides: teams, what the board says of each, pins, and the patches where the scorer has not. */
export function decideSwap(now: Situation, { scorer }: SwapSidesRequest, at: number): Decision {
  const { game, profile } = now.world;
  if (!game) throw new Refusal('No game is chosen.');
  const sides = sidesOf(profile.fields);
  const feeding = now.sources.bundles().filter((b) => b.source.enabled && feedsSides(sides, b.patch));
  const [first] = feeding;
  if (first && scorer === undefined)
    throw new Refusal(
      `${first.source.name} goes on feeding the sides; say whether the scorer has changed them there too.`,
    );
  const was = now.sources.remember(at);
  const is = swapMemory(sides, was);
  const pins = pinsNow(now);
  const moved = pins.map(({ field, value, at: since }) => ({
    field: placeOfField(sides, field),
    value: valueOfField(sides, field, value),
    at: since,
  }));
  const patches = scorer === 'not' ? feeding : [];
  return {
    change: {
      documents: [{ kind: 'game', key: game.key, body: swapSides(game) }],
      sources: patches.map((b) => ({ put: { ...b, patch: swapPatch(sides, b.patch!) } })),
      values: rowsAfter(was, is, at),
      pins: [...released(pins, moved), ...moved],
      become: 'swapped',
    },
    undo: {
      documents: [{ kind: 'game', key: game.key, body: game }],
      sources: patches.map((put) => ({ put })),
      values: rowsAfter(is, was, at),
      pins: [...released(moved, pins), ...pins],
      become: { memory: was, zero: at },
    },
  };
}

/** The pins that are there no more. */
const released = (were: readonly { field: string }[], are: readonly { field: string }[]): PinChange[] =>
  were
    .filter(({ field }) => !are.some((p) => p.field === field))
    .map(({ field }) => ({ field, release: true as const }));

/** Whose word it is what a game begins with. */
export const START = 'start';

/** What fields of a profile say when a game begins; those of the game itself are said by the game. */
export function firstRows(profile: SportProfile, at: number): Saved['board'] {
  const games = new Set(COMMON_FIELDS.map((f) => f.key));
  return profile.fields.flatMap((def) =>
    games.has(def.key) || def.kind === 'derived'
      ? []
      : [{ field: def.key, value: firstValue(def, at), origin: START, at }],
  );
}

/** A source that feeds nothing of a sport is switched off when that is played. */
const isForSport = ({ source, patch }: SourceBundle, profile: SportProfile): boolean =>
  source.transport.kind === 'hand' ||
  !patch?.links.length ||
  patch.links.some((l) => profile.fields.some((f) => f.key === l.field));

/** Decides which game is played, and what becomes of the board and of what is on air; or takes that back whole. */
export function decideChoose(now: Situation, request: ChooseGameRequest, at: number): Decision {
  const { world, show } = now;
  const game = world.games.get(request.game);
  if (!game) throw new Refusal(`There is no game "${request.game}"; it may have been deleted.`);
  if (request.back !== undefined) {
    const before = now.before.get(request.back);
    if (!before)
      throw new Refusal('What was before is not known any more; choose the game and set the board by hand.');
    return { change: before, undo: {} };
  }
  const profile = world.profiles.get(game.profile) ?? world.profile;
  const fresh = request.board !== 'keep' || profile.key !== world.profile.key;
  const was = now.sources.remember(at);
  const pins = fresh ? pinsNow(now) : [];
  const lanes = request.air === 'clear' ? [...show.lanes.values()].filter((l) => l.onAir) : [];
  const off = now.sources
    .bundles()
    .filter((b) => b.source.enabled && !isForSport(b, profile) && isForSport(b, world.profile));
  const rows = firstRows(profile, at);
  const own = new Set(rows.map((r) => r.field));
  const old = was.board.fields.map((f) => f.key).filter((key) => !own.has(key));
  const undo: StoreChange = {
    documents: [chosen(world.game?.key ?? null)],
    sources: off.map((put) => ({ put })),
    lanes,
    pins,
    ...(fresh
      ? {
          become: { memory: was, zero: at },
          values: [...blank(own, at), ...rowsOf(was.board, at)].filter(
            (row, i, all) => all.findLastIndex((r) => r.field === row.field) === i,
          ),
        }
      : {}),
  };
  return {
    change: {
      documents: [chosen(game.key)],
      sources: off.map((b) => ({ put: { ...b, source: { ...b.source, enabled: false } } })),
      lanes: lanes.map((lane) => ({ ...lane, onAir: null })),
      pins: released(pins, []),
      ...(fresh ? { become: 'fresh' as const, values: [...blank(old, at), ...rows] } : {}),
    },
    undo,
  };
}

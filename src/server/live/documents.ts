import type { Edit } from '../../core/actions/change.ts';
import type { World } from '../../core/actions/world.ts';
import type { Board } from '../../core/board/board.ts';
import type { Derivations, Recomputed } from '../../core/derive/derivations.ts';
import { PALETTE, paletteTable, type Palette } from '../../core/documents/palette.ts';
import { gameChanges, gameTables, type Game } from '../../core/show/game.ts';
import type { SportProfile } from '../../core/sport/profile.ts';

/** What of a running Foothill a game, a profile or a derivation changes. */
export interface RunningState {
  world: World;
  derivations: Derivations;
  board: Board;
}

/** Makes the running board what edits of documents say, once they stand in the world; gives what they changed there. */
export function carryOutDocuments(live: RunningState, edits: readonly Edit[], now: number): Recomputed {
  const worked: Recomputed = { changed: [], touched: [], tables: [] };
  const add = (more: Recomputed) => {
    worked.changed.push(...more.changed);
    worked.touched.push(...more.touched);
    worked.tables.push(...more.tables);
  };
  const { world, derivations, board } = live;
  for (const edit of edits) {
    const { key } = edit;
    if (edit.kind === 'derived') {
      // What the profile derives under this key comes back when one's own is gone.
      const derived = edit.is?.derived ?? world.profile.derived.find((d) => d.key === key);
      add(derived ? derivations.put(derived, now) : derivations.remove(key, now));
    } else if (edit.kind === 'game') {
      if (world.game?.key === key && edit.is) add(playGame(live, edit.is, now));
    } else if (edit.kind === 'profile') {
      if (edit.is && (world.profile.key === key || world.game?.profile === key))
        add(useProfile(live, edit.is, now));
    } else if (edit.kind === 'palette') {
      if (edit.is) add(usePalette(live, edit.is, now));
      else add({ changed: board.tables.remove(PALETTE), touched: [], tables: [PALETTE] });
    } else if (edit.kind === 'setting') {
      const game = world.documents.game.get(edit.is?.game ?? '');
      if (game) add(playGame(live, game, now));
    }
  }
  return worked;
}

/** Puts a game on the board: its names, colours and people, under its own profile. */
export function playGame(live: RunningState, game: Game, now: number): Recomputed {
  const { world, board } = live;
  world.game = game;
  const profile = world.documents.profile.get(game.profile);
  const worked =
    profile && profile !== world.profile
      ? useProfile(live, profile, now)
      : { changed: [], touched: [], tables: [] };
  const applied = board.apply(gameChanges(game), now);
  const put = gameTables(game).map((table) => ({
    key: table.key,
    tokens: board.tables.put(table, 'game', now),
  }));
  return {
    changed: [...worked.changed, ...applied.changed, ...put.flatMap((p) => p.tokens)],
    touched: [...worked.touched, ...applied.touched],
    tables: [...worked.tables, ...put.filter((p) => p.tokens.length).map((p) => p.key)],
  };
}

/** Puts on the board what the documents say as they stand: the game that is played, and the palette. */
export function beginWith(live: RunningState, now: number): void {
  const { game, documents } = live.world;
  if (game) playGame(live, game, now);
  for (const palette of documents.palette.values()) usePalette(live, palette, now);
}

/** Puts the palette on the board: whatever shows a colour of it follows. */
function usePalette({ board }: Pick<RunningState, 'board'>, palette: Palette, now: number): Recomputed {
  const changed = board.tables.put(paletteTable(palette), PALETTE, now);
  return { changed, touched: [], tables: changed.length ? [PALETTE] : [] };
}

/** Gives the board the fields of a profile; fields that it shares with the one before keep their values. */
export function useProfile(
  { world, board, derivations }: RunningState,
  profile: SportProfile,
  now: number,
): Recomputed {
  const gone = world.profile.fields.filter((f) => !profile.fields.some((g) => g.key === f.key));
  const worked: Recomputed[] = world.profile.derived
    .filter((d) => !world.documents.derived.has(d.key))
    .map((d) => derivations.remove(d.key, now));
  for (const { key } of gone) board.undefine(key);
  for (const def of profile.fields) board.define(def);
  world.profile = profile;
  for (const derived of profile.derived) {
    if (world.documents.derived.has(derived.key) || derivations.refuse(derived)) continue;
    worked.push(derivations.put(derived, now));
  }
  return {
    changed: [...gone.map((f) => f.key), ...worked.flatMap((w) => w.changed)],
    touched: worked.flatMap((w) => w.touched),
    tables: worked.flatMap((w) => w.tables),
  };
}

import { sidesOf, swapMemory } from '../../core/show/swap.ts';
import type { SportProfile } from '../../core/sport/profile.ts';
import type { IntakeMemory } from '../../core/tape/memory.ts';
import type { Applied, Board } from '../../core/board/board.ts';
import type { BoardReset, BoardRow } from '../../core/actions/change.ts';
import { freshMemory, START } from '../../core/actions/choose-game.ts';
import type { Sources } from './sources.ts';

/**
 * Makes what is known of the sources and by them what a change says; `before` is what was known before anything of the
 * change was carried out, which an exchange of sides begins with.
 */
export function resetBoard(
  sources: Sources,
  profile: SportProfile,
  how: BoardReset,
  before: IntakeMemory | null,
): void {
  if (how === 'swapped') sources.reset(() => swapMemory(sidesOf(profile.fields), before!));
  else if (how === 'fresh') sources.reset((now) => freshMemory(now, sources.bundles()));
  else sources.reset(() => how.memory, how.zero);
}

/** Puts the first values of a game on the board. */
export function applyFirstValues(board: Board, rows: readonly BoardRow[], now: number): Applied {
  const first = rows.filter((row) => row.origin === START);
  return board.apply(
    first.map(({ field: key, value, origin }) => ({ key, value, origin })),
    now,
  );
}

import { Maybe, OneOf } from '../document/rules.ts';
import { swapSides as exchanged } from '../show/game.ts';
import { feedsSides, placeOfField, sidesOf, swapMemory, swapPatch, valueOfField } from '../show/swap.ts';
import { action, refuse } from './action.ts';
import { edit, reversed, type Pin } from './change.ts';
import { pinEdits, pinsNow, rowsAfter } from './memory-rows.ts';
import { ActionRequest } from './request.ts';
import { bundleEdits } from './saving.ts';

class SwapSidesRequest extends ActionRequest {
  @OneOf('swap-sides') kind!: 'swap-sides';
  /** Whether the scorer has changed the sides at the controller too: then the sources' patches stay as they are. */
  @Maybe() @OneOf('swapped', 'not') scorer?: 'swapped' | 'not';
}

/** Exchanges the sides: teams, what the board says of each, pins, and the patches where the scorer has not. */
export const swapSides = action({
  request: SwapSidesRequest,
  role: 'operate',
  decide: (now, { scorer }, at) => {
    const { profile } = now.world;
    const game = now.world.game ?? refuse('No game is chosen.');
    const sides = sidesOf(profile.fields);
    const feeding = now.sources.bundles().filter((b) => b.source.enabled && feedsSides(sides, b.patch));
    const [first] = feeding;
    if (first && scorer === undefined)
      refuse(
        `${first.source.name} goes on feeding the sides; say whether the scorer has changed them there too.`,
      );
    const was = now.sources.remember(at);
    const is = swapMemory(sides, was);
    const pins = pinsNow(now);
    const moved = new Map<string, Pin>(
      [...pins].map(([field, { value, at: since }]) => [
        placeOfField(sides, field),
        { value: valueOfField(sides, field, value), at: since },
      ]),
    );
    const edits = [
      edit('game', game.key, game, exchanged(game)),
      ...(scorer === 'not' ? feeding : []).flatMap((b) =>
        bundleEdits(b, { ...b, patch: swapPatch(sides, b.patch!) }),
      ),
      ...pinEdits(pins, moved),
    ];
    return {
      change: { edits, values: rowsAfter(was, is, at), reset: 'swapped' },
      undo: {
        edits: reversed(edits),
        values: rowsAfter(is, was, at),
        reset: { memory: was, zero: at },
      },
      // What was scored since goes back with its side.
      back: { kind: 'swap-sides', ...(scorer ? { scorer } : {}) },
    };
  },
  sentence: () => 'Swapped sides: home and away are exchanged',
});

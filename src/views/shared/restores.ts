import type { Undoable } from '../../core/actions/past.ts';
import { isStill, laneKey, type Lane } from '../../core/show/show.ts';
import type { Desk } from './desk.ts';
import type { DeskState } from './desk-state.ts';
import { useDesk } from './use-desk.ts';
import { itemName } from './rundown.ts';
import { placeName } from './zones.ts';

/** As many lanes are named; of the others it is said how many there are. */
const MOST = 6;

/** Of lanes those that change, each with what stands there then, in words; blank where none does. */
function lanesInWords<A extends { output: string; zone: string }>(
  { desk: known }: DeskState,
  air: readonly A[],
  itemIn: (asked: A) => string | null,
  changes: (lane: Lane, asked: A) => boolean,
): string {
  if (!known) return '';
  const { output: outputs, item: items } = known.documents;
  const said = air.flatMap((asked) => {
    const lane = known.lanes.find((l) => laneKey(l) === laneKey(asked));
    if (!lane || !changes(lane, asked)) return [];
    const item = itemIn(asked);
    return [`${placeName(outputs, lane)}: ${item === null ? 'nothing' : itemName(items, item)}`];
  });
  return `${said.slice(0, MOST).join('; ')}${said.length > MOST ? `; and ${said.length - MOST} more` : ''}`;
}

/** What a redo would put on air as all stands now, in words. */
export function useRedoes(desk: Desk): string {
  return useDesk(desk, (state) => {
    const said = lanesInWords(
      state,
      state.redoes,
      ({ item }) => item,
      (lane, { item }) => (lane.onAir?.item ?? null) !== item,
    );
    return said ? `On air then: ${said}` : 'What is on air stays as it is.';
  });
}

/** What an undo would put back on air as all stands now, in words; blank where it changes nothing there. */
export function useRestores(desk: Desk, { air }: Undoable): string {
  return useDesk(desk, (state) => {
    if (!air || !state.desk) return '';
    const said = lanesInWords(
      state,
      air,
      ({ again }) => again,
      // What was taken or cleared there since stays.
      (lane, { now }) => isStill(lane.onAir, now),
    );
    return said ? `On air again: ${said}` : 'What is on air was changed again since: nothing comes back.';
  });
}

import type { Undoable } from '../../core/actions/past.ts';
import { isStill, laneKey } from '../../core/show/show.ts';
import type { Desk } from './desk.ts';
import { useDesk } from './use-desk.ts';
import { itemName } from './rundown.ts';
import { placeName } from './zones.ts';

/** The first so many of what is said, and how many more there are. */
const MOST = 6;
const inWords = (said: readonly string[]): string =>
  `${said.slice(0, MOST).join('; ')}${said.length > MOST ? `; and ${said.length - MOST} more` : ''}`;

/** What a redo would put on air as all stands now, in words. */
export function useRedoes(desk: Desk): string {
  return useDesk(desk, ({ desk: known, redoes }) => {
    if (!known) return '';
    const { output: outputs, item: items } = known.documents;
    const said = redoes.flatMap(({ output, zone, item }) => {
      const lane = known.lanes.find((l) => laneKey(l) === laneKey({ output, zone }));
      if (!lane || (lane.onAir?.item ?? null) === item) return [];
      return [`${placeName(outputs, lane)}: ${item === null ? 'nothing' : itemName(items, item)}`];
    });
    return said.length ? `On air then: ${inWords(said)}` : 'What is on air stays as it is.';
  });
}

/** What an undo would put back on air as all stands now, in words; blank where it changes nothing there. */
export function useRestores(desk: Desk, { air }: Undoable): string {
  return useDesk(desk, ({ desk: known }) => {
    if (!air || !known) return '';
    const { output: outputs, item: items } = known.documents;
    const said = air.flatMap(({ output, zone, now, again }) => {
      const lane = known.lanes.find((l) => laneKey(l) === laneKey({ output, zone }));
      // What was taken or cleared there since stays.
      if (!lane || !isStill(lane.onAir, now)) return [];
      const back = again === null ? 'nothing' : itemName(items, again);
      return [`${placeName(outputs, lane)}: ${back}`];
    });
    return said.length
      ? `On air again: ${inWords(said)}`
      : 'What is on air was changed again since: nothing comes back.';
  });
}

import type { Undoable } from '../../core/actions/past.ts';
import { placeKey } from '../../core/show/item.ts';
import { laneKey } from '../../core/show/show.ts';
import type { Desk } from './desk.ts';
import { useDesk } from './use-desk.ts';

/** What an undo would put back on air as all stands now, in words; blank where it changes nothing there. */
export function useRestores(desk: Desk, { air }: Undoable): string {
  return useDesk(desk, ({ desk: known }) => {
    if (!air || !known) return '';
    const { output: outputs, item: items } = known.documents;
    const said = air.flatMap(({ output, zone, now, again }) => {
      const lane = known.lanes.find((l) => laneKey(l) === placeKey({ output, zone }));
      const stands = lane?.onAir ?? null;
      // What was taken or cleared there since stays.
      if (!lane || (stands?.item ?? null) !== (now?.item ?? null) || (now && stands?.takenAt !== now.takenAt))
        return [];
      const of = outputs.find((o) => o.key === output);
      const name = `${of?.name ?? output}, ${of?.zones.find((z) => z.key === zone)?.name ?? zone}`;
      const back = again === null ? null : (items.find((i) => i.key === again)?.name ?? again);
      return [`${name}: ${back === null ? 'nothing' : back}`];
    });
    return said.length
      ? `On air again: ${said.join('; ')}`
      : 'What is on air was changed again since: nothing comes back.';
  });
}

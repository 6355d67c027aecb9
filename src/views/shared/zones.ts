import { placeKey, type Place } from '../../core/show/item.ts';
import type { Output } from '../../core/show/show.ts';

/** Every zone of the outputs, as it is chosen from a list. */
export const zonesOf = (outputs: readonly Output[]) =>
  outputs.flatMap((o) =>
    o.zones.map((z) => ({ ...z, output: o.key, zone: z.key, label: `${o.name}, ${z.name}` })),
  );

/** The sizes of the zones of outputs, and of each output as a whole, as they are chosen from a list. */
export const sizesOf = (outputs: readonly Output[]) =>
  outputs.flatMap((o) => [
    ...zonesOf([o]),
    { width: o.width, height: o.height, label: `${o.name}, all of it` },
  ]);

/** What a zone is called in full: its output's name and its own. */
export function placeName(outputs: readonly Output[], place: Pick<Place, 'output' | 'zone'>): string {
  const output = outputs.find((o) => o.key === place.output);
  const zone = output?.zones.find((z) => z.key === place.zone);
  return output && zone ? `${output.name}, ${zone.name}` : `${placeKey(place)}, which is gone`;
}

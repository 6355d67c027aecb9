import type { Template } from '../documents/template.ts';
import { placeKey, type Item, type Place } from './item.ts';
import { fitIn, layoutFor, type Fit } from './layout.ts';
import { airing, laneKey, missingInputs, type Lane, type Output, type Zone } from './show.ts';

/** A zone that an item goes to, with the layout that it stands in there; a zone that is not there is left out. */
export interface Placement {
  place: Place;
  output: Output;
  zone: Zone;
  layout: Template['layouts'][number];
  fit: Fit;
}

/** Where an item of a template goes, and in which layout: the one that fits the zone best. */
export const placementOf = (
  places: readonly Place[],
  template: Pick<Template, 'layouts'>,
  outputs: readonly Output[],
): Placement[] =>
  places.flatMap((place) => {
    const output = outputs.find((o) => o.key === place.output);
    const zone = output?.zones.find((z) => z.key === place.zone);
    if (!output || !zone) return [];
    const layout = layoutFor(template, zone);
    return { place, output, zone, layout, fit: fitIn(layout, zone) };
  });

/** How a layout stands in a zone, in words. */
export function fitText({ layout, fit }: Pick<Placement, 'layout' | 'fit'>): string {
  if (fit.how === 'own') return `layout ${layout.key}`;
  const scaled = `at ${Math.round(fit.scale * 100)} %`;
  return fit.how === 'scaled'
    ? `layout ${layout.key} ${scaled}`
    : `no layout of its shape: ${layout.key} ${scaled}`;
}

/** How an item stands, as one word and as words that say more. */
export interface ItemState {
  is: 'on-air' | 'lacks' | 'aired' | 'ready';
  says: string;
}

/** What an item lacks before it can be shown as it is meant, each as a noun; none where it lacks nothing. */
export function missingOf(
  item: Pick<Item, 'inputs' | 'zones'>,
  template: Template | undefined,
  outputs: readonly Output[],
): string[] {
  if (!template) return ['its template'];
  const goes = placementOf(item.zones, template, outputs);
  return [
    ...missingInputs(template.inputs, item.inputs),
    ...(goes.length === 0
      ? ['a zone']
      : goes.every((g) => g.fit.how === 'off')
        ? ['a layout that fits']
        : []),
  ];
}

/** How an item stands: on air (where), else what it lacks, else when it was aired, else ready. `timeText` writes a server time. */
export function stateOfItem(
  item: Item,
  known: { template: Template | undefined; outputs: readonly Output[]; lanes: readonly Lane[] },
  timeText: (at: number) => string,
): ItemState {
  const on = airing(known.lanes, item.key);
  if (on.length) {
    const all = new Set(item.zones.map(placeKey));
    const missing = all.size - on.filter((l) => all.has(laneKey(l))).length;
    return { is: 'on-air', says: missing > 0 ? `in ${on.length} of ${all.size} zones` : '' };
  }
  const lacks = missingOf(item, known.template, known.outputs);
  if (lacks.length) return { is: 'lacks', says: `lacks ${lacks.join(', ')}` };
  if (item.aired !== null) return { is: 'aired', says: `aired ${timeText(item.aired)}` };
  return { is: 'ready', says: 'ready' };
}

import { own } from '../../core/board/own.ts';
import type { Scalar } from '../../core/board/values.ts';
import type { InputDef, Template } from '../../core/documents/template.ts';
import type { Item } from '../../core/show/item.ts';

/**
 * What the inputs of a template hold while it is worked at: as an item has them filled in, else their samples, or the first that
 * may be chosen.
 */
export const samplesOf = (
  { inputs }: Pick<Template, 'inputs'>,
  like: Readonly<Record<string, Scalar>> = {},
): Record<string, Scalar> =>
  Object.fromEntries(inputs.map((def) => [def.key, own(like, def.key) ?? def.sample ?? firstSample(def)]));

/** What an input without a sample holds while its template is worked at: something that can be seen, where its kind has that. */
function firstSample({ kind, label, default: first, choices, min }: InputDef): Scalar {
  switch (kind) {
    case 'text':
      return label;
    case 'switch':
      return true;
    case 'choice':
      return first ?? choices?.[0]?.value ?? '';
    case 'number':
      return first ?? min ?? 0;
    default:
      return first ?? '';
  }
}

/** The item in which most of a template's inputs say something; the first of several alike, undefined where there is none. */
export function mostFilled({ inputs }: Pick<Template, 'inputs'>, items: readonly Item[]): Item | undefined {
  const filled = ({ inputs: held }: Item) =>
    inputs.filter(({ key }) => (own(held, key) ?? '') !== '' && own(held, key) !== false).length;
  return items.reduce<Item | undefined>(
    (best, i) => (best && filled(best) >= filled(i) ? best : i),
    undefined,
  );
}

/** A zone, and what it is called in full. */
interface Place {
  output: string;
  zone: string;
  label: string;
}

/** What uses a template: its items, each with the zones that it goes to, and the zones that have one of them on air; in words. */
export function usesOf(
  key: string,
  items: readonly Pick<Item, 'key' | 'name' | 'template' | 'zones'>[],
  lanes: readonly { output: string; zone: string; onAir: { item: string } | null }[],
  places: readonly Place[],
): { items: { name: string; place: string }[]; onAir: string[] } {
  const placeOf = ({ output, zone }: Pick<Place, 'output' | 'zone'>) =>
    places.find((p) => p.output === output && p.zone === zone)?.label ?? `${output}, ${zone}`;
  const mine = items.filter((i) => i.template === key);
  const on = lanes.filter((l) => mine.some((i) => i.key === l.onAir?.item));
  return {
    items: mine.map((i) => ({ name: i.name, place: i.zones.map(placeOf).join('; ') })),
    onAir: on.map(placeOf),
  };
}

import { own } from '../../core/board/own.ts';
import type { Scalar } from '../../core/board/values.ts';
import type { InputDef, Template } from '../../core/documents/template.ts';

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
function firstSample({ kind, label, first, choices, min }: InputDef): Scalar {
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

/** What uses a template, in words: its items, and the lanes that have one of them on air. */
export function usesOf(
  key: string,
  items: readonly { id: string; name: string; template: string }[],
  lanes: readonly { output: string; zone: string; onAir: { item: string } | null }[],
): { items: string[]; onAir: string[] } {
  const mine = items.filter((i) => i.template === key);
  const on = lanes.filter((l) => mine.some((i) => i.id === l.onAir?.item));
  return { items: mine.map((i) => i.name), onAir: on.map((l) => `${l.output}, ${l.zone}`) };
}

import type { FieldDef } from '../../core/sport/profile.ts';
import type { Value } from '../../core/value/value.ts';

/** A Value in a few words, as it stands where there is little room. */
export function valueWords(
  value: Value,
  defs: readonly FieldDef[],
  inputs: ReadonlyMap<string, string>,
): string {
  const of = (v: Value): string => {
    if ('fixed' in v) return v.fixed === null || v.fixed === '' ? 'blank' : String(v.fixed);
    if ('field' in v) return defs.find((d) => d.key === v.field)?.label ?? v.field;
    if ('input' in v) return inputs.get(v.input) ?? v.input;
    if ('pieces' in v) return v.pieces.map(of).join('');
    if ('choose' in v) return `by ${of(v.choose as Value)}`;
    if ('lookup' in v) return 'looked up';
    return 'formula';
  };
  const text = of(value);
  return text.length > 60 ? `${text.slice(0, 59)}…` : text;
}

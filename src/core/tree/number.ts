/** How numbers are written in a document: `1,234.5` with a point, `1.234,5` with a comma. */
export type NumberForm = 'point' | 'comma';

const APART = " '\u00a0\u202f\u2019";
const formed = (decimal: string, thousands: string) => ({
  whole: new RegExp(
    `^-?((\\d{1,3}([${thousands}${APART}]\\d{3})+|\\d+)(\\${decimal}\\d*)?|\\${decimal}\\d+)([eE][-+]?\\d+)?$`,
  ),
  apart: new RegExp(`[${thousands}${APART}]`, 'g'),
});
const FORMS = { point: formed('.', ','), comma: formed(',', '.') };

/**
 * A number as people and spreadsheets write it: signs, thousands apart by their sign, a space or an apostrophe, a percent
 * sign, which is left out (`66.7 %` is 66.7). Null for what is none in this form.
 */
export function readNumber(text: string, form: NumberForm = 'point'): number | null {
  const plain = text
    .replace(/[\s\u00a0\u202f]*%$/, '')
    .replace(/^\+/, '')
    .replace(/^\u2212/, '-');
  const { whole, apart } = FORMS[form];
  if (!whole.test(plain)) return null;
  const n = Number(plain.replace(apart, '').replace(',', '.'));
  return Number.isFinite(n) ? n : null;
}

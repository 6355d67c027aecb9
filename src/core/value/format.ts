import { isClock, type FieldValue } from '../board/values.ts';
import { clockText } from '../clock/clock.ts';
import { moreLegible } from '../colour/contrast.ts';
import type { Format } from './format-doc.ts';

export type { Format } from './format-doc.ts';

/** True for null and for the empty text. */
export function isBlank(value: FieldValue): boolean {
  return value === null || value === '';
}

/** A value as text; blank is the empty text, a clock is drawn by its layer and has none here. */
export function textOf(value: FieldValue): string {
  return value === null || isClock(value) ? '' : String(value);
}

/** A value as yes or no: blank, 0, false and a clock at zero are no. */
export function truthOf(value: FieldValue): boolean {
  return isClock(value) ? value.value > 0 : value !== null && value !== '' && value !== false && value !== 0;
}

/** True for a number whose form says nothing more than its value: `12` and `3.5`, but not `007`, `.317` or `1.50`. */
export function isPlainNumber(text: string): boolean {
  return text !== '' && String(Number(text)) === text && Number.isFinite(Number(text));
}

/** English ordinal of a whole number: 1st, 2nd, 3rd, 4th, 11th, 21st. */
export function ordinal(n: number): string {
  const tail = Math.abs(n) % 100;
  const suffix = tail > 10 && tail < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][tail % 10] ?? 'th');
  return `${n}${suffix}`;
}

const DATE_FORMS: Record<'short' | 'long' | 'weekday' | 'time', Intl.DateTimeFormatOptions> = {
  short: { day: 'numeric', month: 'short' },
  long: { day: 'numeric', month: 'long', year: 'numeric' },
  weekday: { weekday: 'long' },
  time: { hour: '2-digit', minute: '2-digit', hour12: false },
};

/** A value in a format. What the format cannot be applied to (a word as a percentage) stays as it is. */
export function applyFormat(value: FieldValue, form: Format | undefined): FieldValue {
  if (form === undefined) return value;
  if (form === 'not') return !truthOf(value);
  if (value === null || isClock(value)) return value;
  const text = String(value);
  // A number may come as text, in a form of its own.
  const n = typeof value === 'boolean' || text.trim() === '' ? NaN : Number(text);
  const numbered = (write: (n: number) => string): FieldValue => (Number.isFinite(n) ? write(n) : value);
  switch (form) {
    case 'upper':
      return text.toUpperCase();
    case 'lower':
      return text.toLowerCase();
    case 'initials':
      return text
        .split(/[\s-]+/)
        .map((word) => word.charAt(0).toUpperCase())
        .join('');
    case 'ordinal':
      return typeof value === 'number' ? ordinal(value) : value;
    case 'signed':
      return n > 0 ? `+${text.replace(/^\+/, '')}` : text.replace('-', '\u2212');
    case 'percent':
      return numbered((x) => `${Math.round(x * 100)}%`);
    case 'average':
      return numbered((x) => x.toFixed(3).replace(/^(-?)0\./, '$1.'));
    case 'clock':
      return numbered((x) => clockText(x));
  }
  if ('ink' in form) return moreLegible(text, form.ink);
  if ('decimals' in form) return numbered((x) => x.toFixed(form.decimals));
  if ('pad' in form) return numbered(() => text.padStart(form.pad, '0'));
  if ('plural' in form) return numbered((x) => `${text} ${form.plural[x === 1 ? 0 : 1]}`);
  const time = Date.parse(text);
  if (Number.isNaN(time)) return value;
  return new Intl.DateTimeFormat('en-GB', { ...DATE_FORMS[form.date], timeZone: 'UTC' }).format(time);
}

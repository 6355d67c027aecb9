import { byProperty, Strict } from '../document/check.ts';
import { Must, OneOf, Whole } from '../document/rules.ts';

const PLAIN = [
  'ordinal',
  'upper',
  'lower',
  'signed',
  'not',
  'initials',
  'percent',
  'average',
  'clock',
] as const;
const DATES = ['short', 'long', 'weekday', 'time'] as const;

/** Exactly two texts. */
const Two = (): PropertyDecorator =>
  Must(
    'two',
    (v) => Array.isArray(v) && v.length === 2 && v.every((t) => typeof t === 'string' && t.length <= 200),
    'must be two texts',
  );

@Strict
class Ink {
  @Two() ink!: [string, string];
}
@Strict
class Decimals {
  @Whole(0, 6) decimals!: number;
}
@Strict
class Padded {
  @Whole(1, 20) pad!: number;
}
@Strict
class Plural {
  @Two() plural!: [string, string];
}
@Strict
class Dated {
  @OneOf(...DATES) date!: (typeof DATES)[number];
}

/**
 * What may be done to a value on its way out. `ink` gives the more legible of two inks on a ground colour; `average`
 * drops the zero before the point (.317); `percent` takes a share of 1; `clock` writes milliseconds as m:ss; `pad`
 * puts zeros before a number up to so many signs; `plural` is one word for 1 and another for all else, after the
 * number; `date` writes an ISO 8601 date.
 */
export type Format = (typeof PLAIN)[number] | Ink | Decimals | Padded | Plural | Dated;

/** Reads a format. */
export const FORMAT = byProperty<Format>(
  { ink: Ink, decimals: Decimals, pad: Padded, plural: Plural, date: Dated },
  'is not a format',
  (value) => (PLAIN as readonly unknown[]).includes(value),
);

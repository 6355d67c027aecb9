import { ValidateBy, ValidateIf } from 'class-validator';

/**
 * A property's decorator made of a check and of what is said where it does not hold; `bounds` are what the check goes by, for
 * whoever describes it.
 */
export const Must = (
  name: string,
  holds: (value: unknown) => boolean,
  message: string | ((value: unknown) => string),
  bounds: readonly unknown[] = [],
): PropertyDecorator =>
  ValidateBy({
    name,
    constraints: [...bounds],
    validator: {
      validate: holds,
      defaultMessage: (at) => (typeof message === 'string' ? message : message(at?.value)),
    },
  });

/** It may be left out. */
export const Maybe = (): PropertyDecorator => ValidateIf((_, value) => value !== undefined);
/** It may be null. */
export const OrNull = (): PropertyDecorator => ValidateIf((_, value) => value !== null);

/** The one value that it can have. */
export const Is = (
  only: string | number | boolean,
  message = `must be ${JSON.stringify(only)}`,
): PropertyDecorator => Must('is', (v) => v === only, message, [only]);

/** One of these. */
export const OneOf = (...these: readonly unknown[]): PropertyDecorator =>
  Must('oneOf', (v) => these.includes(v), `must be one of ${these.map(String).join(', ')}`, these);

/** A text of so many characters. */
export const Text = (min: number, max: number): PropertyDecorator =>
  Must(
    'text',
    (v) => typeof v === 'string' && v.length >= min && v.length <= max,
    min > 0 ? `must be a text of ${min} to ${max} characters` : `must be a text of at most ${max} characters`,
    [min, max],
  );

/** A text of this form; `message` says what it is instead. */
export const Form = (pattern: RegExp, message: string, max = 2000): PropertyDecorator =>
  Must('form', (v) => typeof v === 'string' && v.length <= max && pattern.test(v), message, [pattern.source]);

/** A colour such as #16a085. */
export const Colour = (): PropertyDecorator => Form(/^#[0-9a-f]{6}$/i, 'a colour is written #rrggbb');

/** Yes or no. */
export const YesNo = (): PropertyDecorator =>
  Must('yesNo', (v) => typeof v === 'boolean', 'must be true or false');

const finite = (v: unknown): v is number => typeof v === 'number' && Number.isFinite(v);

/** A finite number, within bounds where they are given, both included. */
export const Num = (min = -Infinity, max = Infinity): PropertyDecorator =>
  Must(
    'num',
    (v) => finite(v) && v >= min && v <= max,
    min === -Infinity ? 'must be a number' : `must be a number from ${min} to ${max}`,
    [min, max],
  );

/** True for a whole number within bounds, both included. */
export const isWhole = (v: unknown, min: number, max: number): v is number =>
  Number.isInteger(v) && (v as number) >= min && (v as number) <= max;

/** A whole number within bounds, both included. */
export const Whole = (min: number, max: number): PropertyDecorator =>
  Must('whole', (v) => isWhole(v, min, max), `must be a whole number from ${min} to ${max}`, [min, max]);

/** A list of so many. */
export const Count = (min: number, max: number, message?: string): PropertyDecorator =>
  Must(
    'count',
    (v) => Array.isArray(v) && v.length >= min && v.length <= max,
    message ?? (min > 0 ? `must be a list of ${min} to ${max}` : `must be a list of at most ${max}`),
    [min, max],
  );

/** A list of which each keeps a check. */
export const ListOf = (holds: (item: unknown) => boolean, message: string): PropertyDecorator =>
  Must('listOf', (v) => Array.isArray(v) && v.every(holds), message);

/** A text of 1 to `max` characters, as a check for items of lists. */
export const isText = (v: unknown, max: number): v is string =>
  typeof v === 'string' && v.length > 0 && v.length <= max;

const KEY = /^[a-z][a-z0-9-]*(\.[a-z0-9-]+)*$/;
/** True for a key such as `home.score`: lower-case words, digits and hyphens, joined by dots, 80 characters at most. */
export const isKey = (v: unknown): v is string => typeof v === 'string' && v.length <= 80 && KEY.test(v);
/** A key such as `home.score` or `clock.game`. */
export const Key = (): PropertyDecorator => Must('key', isKey, 'a key is lower-case words joined by dots');

/** A name for people: 1 to 80 characters. */
export const Name = (): PropertyDecorator =>
  Must(
    'name',
    (v) => isText(v, 80),
    (v) => (v === '' ? 'a name is missing' : 'a name is a text of at most 80 characters'),
  );

/** True for what a cell or an input may hold: a text of at most 2000 characters, a finite number, yes, no or null. */
export const isScalar = (v: unknown): boolean =>
  v === null || typeof v === 'boolean' || finite(v) || (typeof v === 'string' && v.length <= 2000);
/** A text, a number, yes, no or null. */
export const AnyScalar = (): PropertyDecorator =>
  Must('scalar', isScalar, 'must be a text, a number, true, false or null');

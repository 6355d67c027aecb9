import * as v from 'valibot';
import { isClock, type FieldValue, type Scalar } from '../board/values.ts';
import { moreLegible } from '../colour/contrast.ts';

/** What may be done to a value on its way out. `ink` gives the more legible of two inks on a ground colour. */
export type Format = 'ordinal' | 'upper' | 'signed' | 'not' | { ink: [string, string] };

/** One case of a choice: equal to one of `is`, within `min` to `max` (both included), or blank or not. */
export type Case = { is?: Scalar[]; min?: number; max?: number; blank?: boolean; then: Value };

/** How any property of anything gets its content. */
export type Value =
  | { fixed: Scalar }
  | { field: string; format?: Format; fallback?: Scalar }
  | { input: string; format?: Format; fallback?: Scalar }
  | { pieces: Value[]; format?: Format }
  | { choose: Value; cases: Case[]; otherwise?: Value; format?: Format };

/** Where a value finds what it asks for. */
export interface Scope {
  field(key: string): FieldValue;
  input(key: string): Scalar;
}

const scalar = v.union([
  v.pipe(v.string(), v.maxLength(2000)),
  v.pipe(v.number(), v.finite()),
  v.boolean(),
  v.null(),
]);
const format = v.optional(
  v.union([
    v.picklist(['ordinal', 'upper', 'signed', 'not']),
    v.strictObject({ ink: v.tuple([v.string(), v.string()]) }),
  ]),
);
const name = v.pipe(v.string(), v.minLength(1), v.maxLength(80));

export const valueSchema: v.GenericSchema<unknown, Value> = v.lazy(() =>
  v.union(
    [
      v.strictObject({ fixed: scalar }),
      v.strictObject({ field: name, format, fallback: v.optional(scalar) }),
      v.strictObject({ input: name, format, fallback: v.optional(scalar) }),
      v.strictObject({ pieces: v.array(valueSchema), format }),
      v.strictObject({
        choose: valueSchema,
        cases: v.array(caseSchema),
        otherwise: v.optional(valueSchema),
        format,
      }),
    ],
    'is not a value: fixed, field, input, pieces or choose',
  ),
) as v.GenericSchema<unknown, Value>;

const caseSchema: v.GenericSchema<unknown, Case> = v.lazy(() =>
  v.strictObject({
    is: v.optional(v.array(scalar)),
    min: v.optional(v.number()),
    max: v.optional(v.number()),
    blank: v.optional(v.boolean()),
    then: valueSchema,
  }),
) as v.GenericSchema<unknown, Case>;

/** The value's content in the given scope. Never throws; what is not there reads as blank, or as its fallback. */
export function evaluate(value: Value, scope: Scope): FieldValue {
  if ('fixed' in value) return value.fixed;
  if ('field' in value || 'input' in value) {
    const found = 'field' in value ? scope.field(value.field) : scope.input(value.input);
    return formatted(isBlank(found) ? (value.fallback ?? null) : found, value.format);
  }
  if ('pieces' in value)
    return formatted(value.pieces.map((p) => textOf(evaluate(p, scope))).join(''), value.format);
  const of = evaluate(value.choose, scope);
  const hit = value.cases.find((c) => caseHolds(c, of));
  const then = hit ? hit.then : value.otherwise;
  return then ? formatted(evaluate(then, scope), value.format) : null;
}

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

function caseHolds(c: Case, of: FieldValue): boolean {
  if (c.blank !== undefined && c.blank !== isBlank(of)) return false;
  if (c.is !== undefined && (isClock(of) || !c.is.includes(of))) return false;
  const n = isClock(of) ? of.value : of;
  if (c.min !== undefined && !(typeof n === 'number' && n >= c.min)) return false;
  if (c.max !== undefined && !(typeof n === 'number' && n <= c.max)) return false;
  return true;
}

function formatted(value: FieldValue, form: Format | undefined): FieldValue {
  if (form === undefined) return value;
  if (form === 'not') return !truthOf(value);
  if (value === null || isClock(value)) return value;
  if (form === 'upper') return String(value).toUpperCase();
  if (form === 'ordinal') return typeof value === 'number' ? ordinal(value) : value;
  if (form === 'signed')
    return typeof value === 'number' && value > 0 ? `+${value}` : String(value).replace('-', '\u2212');
  return moreLegible(String(value), form.ink);
}

/** English ordinal of a whole number: 1st, 2nd, 3rd, 4th, 11th, 21st. */
export function ordinal(n: number): string {
  const tail = Math.abs(n) % 100;
  const suffix = tail > 10 && tail < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][tail % 10] ?? 'th');
  return `${n}${suffix}`;
}

/** The keys of all fields and inputs that a value may ask for, whichever case holds. */
export function namesIn(value: Value, into = { fields: new Set<string>(), inputs: new Set<string>() }) {
  if ('field' in value) into.fields.add(value.field);
  else if ('input' in value) into.inputs.add(value.input);
  else if ('pieces' in value) value.pieces.forEach((p) => namesIn(p, into));
  else if ('choose' in value) {
    namesIn(value.choose, into);
    value.cases.forEach((c) => namesIn(c.then, into));
    if (value.otherwise) namesIn(value.otherwise, into);
  }
  return into;
}

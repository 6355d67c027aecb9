import { yesOrNo } from '../board/yes.ts';
import { own } from '../board/own.ts';
import * as v from 'valibot';
import { isClock, type FieldValue, type Scalar } from '../board/values.ts';

import { applyFormat, formatSchema, isBlank, textOf, type Format } from './format.ts';
import { readFormula } from './formula.ts';

export { isBlank, textOf, truthOf, type Format } from './format.ts';

/** One case of a choice: equal to one of `is`, within `min` to `max` (both included), or blank or not. */
export type Case = { is?: Scalar[]; min?: number; max?: number; blank?: boolean; then: Value };

/** How any property of anything gets its content. */
export type Value =
  | { fixed: Scalar }
  | { field: string; format?: Format; fallback?: Scalar }
  | { input: string; format?: Format; fallback?: Scalar }
  | { pieces: Value[]; format?: Format }
  | { choose: Value; cases: Case[]; otherwise?: Value; format?: Format }
  | { lookup: Lookup; format?: Format; fallback?: Scalar }
  | { formula: string; format?: Format; fallback?: Scalar };

/** One cell of a table on the board: of the row with this key, or of the row at this rank, counted from 1. */
export type Lookup = { table: string; column: string } & ({ key: Value } | { rank: Value });

/** Where a value finds what it asks for. */
export interface Scope {
  field(key: string): FieldValue;
  input(key: string): Scalar;
  /** A row of a table by its key. */
  row?(table: string, key: string): Readonly<Record<string, Scalar>> | undefined;
  /** A row of a table by its rank, counted from 1. */
  ranked?(table: string, rank: number): Readonly<Record<string, Scalar>> | undefined;
}

const scalar = v.union([
  v.pipe(v.string(), v.maxLength(2000)),
  v.pipe(v.number(), v.finite()),
  v.boolean(),
  v.null(),
]);
const format = v.optional(formatSchema);
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
      v.strictObject({
        lookup: v.union([
          v.strictObject({ table: name, column: name, key: valueSchema }),
          v.strictObject({ table: name, column: name, rank: valueSchema }),
        ]),
        format,
        fallback: v.optional(scalar),
      }),
      v.strictObject({
        formula: v.pipe(
          v.string(),
          v.minLength(1),
          v.maxLength(2000),
          v.check((text) => 'run' in readFormula(text), 'is not a formula in CEL'),
        ),
        format,
        fallback: v.optional(scalar),
      }),
    ],
    'is not a value: fixed, field, input, pieces, choose, lookup or formula',
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
  // The commonest kinds first: this is done for every change of everything that shows.
  if ('field' in value) return finished(scope.field(value.field), value);
  if ('fixed' in value) return value.fixed;
  if ('pieces' in value) {
    const { pieces } = value;
    let text = '';
    for (let i = 0; i < pieces.length; i++) text += textOf(evaluate(pieces[i]!, scope));
    return applyFormat(text, value.format);
  }
  if ('choose' in value) {
    const of = evaluate(value.choose, scope);
    const hit = value.cases.find((c) => caseHolds(c, of));
    const then = hit ? hit.then : value.otherwise;
    return then ? applyFormat(evaluate(then, scope), value.format) : null;
  }
  if ('input' in value) return finished(scope.input(value.input), value);
  if ('lookup' in value) return finished(lookedUp(value.lookup, scope), value);
  return finished(worked(value.formula, scope), value);
}

/**
 * The same, where trouble must be known: throws an Error with one sentence when a formula in it cannot be worked out.
 */
export function evaluateStrictly(value: Value, scope: Scope): FieldValue {
  if ('formula' in value) {
    const formula = readFormula(value.formula);
    if ('problem' in formula) throw new Error(formula.problem);
    return finished(formula.run(scope.field), value);
  }
  const trouble = troubleIn(value, scope);
  if (trouble) throw new Error(trouble);
  return evaluate(value, scope);
}

/** What was found, or what stands in for a blank, in its format. */
function finished(
  found: FieldValue,
  { format, fallback }: { format?: Format; fallback?: Scalar },
): FieldValue {
  return applyFormat(isBlank(found) ? (fallback ?? null) : found, format);
}

const cellOf = (row: Readonly<Record<string, Scalar>> | undefined, column: string): Scalar =>
  (row && own(row, column)) ?? null;

function lookedUp(at: Lookup, scope: Scope): Scalar {
  if ('key' in at) {
    const key = textOf(evaluate(at.key, scope));
    return key === '' ? null : cellOf(scope.row?.(at.table, key), at.column);
  }
  const rank = Number(textOf(evaluate(at.rank, scope)));
  return Number.isInteger(rank) ? cellOf(scope.ranked?.(at.table, rank), at.column) : null;
}

function worked(text: string, scope: Scope): Scalar {
  const formula = readFormula(text);
  if (!('run' in formula)) return null;
  try {
    return formula.run(scope.field);
  } catch {
    return null;
  }
}

/**
 * Why a value has no content though it should: the first formula in it that cannot be worked out, in one sentence;
 * null where all is well.
 */
export function troubleIn(value: Value, scope: Scope): string | null {
  if ('formula' in value) {
    const formula = readFormula(value.formula);
    if (!('run' in formula)) return formula.problem;
    try {
      formula.run(scope.field);
      return null;
    } catch (error) {
      return (error as Error).message;
    }
  }
  for (const inner of innerValues(value)) {
    const trouble = troubleIn(inner, scope);
    if (trouble) return trouble;
  }
  return null;
}

/** The values that a value is made of, whichever case holds. */
export function innerValues(value: Value): Value[] {
  if ('pieces' in value) return value.pieces;
  if ('choose' in value)
    return [value.choose, ...value.cases.map((c) => c.then), ...(value.otherwise ? [value.otherwise] : [])];
  if ('lookup' in value) return ['key' in value.lookup ? value.lookup.key : value.lookup.rank];
  return [];
}

/** A value in short words, as a formula would write it: what it is made of, without its cases and formats. */
export function valueInWords(value: Value): string {
  if ('fixed' in value) return JSON.stringify(value.fixed);
  if ('field' in value) return value.field;
  if ('input' in value) return `input ${value.input}`;
  if ('pieces' in value) return value.pieces.map(valueInWords).join(' + ');
  if ('choose' in value) return `chosen by ${valueInWords(value.choose)}`;
  if ('formula' in value) return value.formula;
  const { lookup } = value;
  const row = 'key' in lookup ? valueInWords(lookup.key) : `rank ${valueInWords(lookup.rank)}`;
  return `${lookup.column} of ${row} in ${lookup.table}`;
}

/** Yes is written in many ways, and so is no. */
const isSame = (is: Scalar, of: Scalar) => typeof of === 'boolean' && yesOrNo(is) === of;

function caseHolds(c: Case, of: FieldValue): boolean {
  if (c.blank !== undefined && c.blank !== isBlank(of)) return false;
  if (c.is !== undefined && (isClock(of) || !c.is.some((is) => is === of || isSame(is, of)))) return false;
  const n = isClock(of) ? of.value : of;
  if (c.min !== undefined && !(typeof n === 'number' && n >= c.min)) return false;
  if (c.max !== undefined && !(typeof n === 'number' && n <= c.max)) return false;
  return true;
}

/** What a value may ask for: the keys of fields, inputs and tables, whichever case holds. */
export interface Names {
  fields: Set<string>;
  inputs: Set<string>;
  tables: Set<string>;
}

/** The names of all that a value may ask for. */
export function namesIn(
  value: Value,
  into: Names = { fields: new Set(), inputs: new Set(), tables: new Set() },
): Names {
  if ('field' in value) into.fields.add(value.field);
  else if ('input' in value) into.inputs.add(value.input);
  else if ('lookup' in value) into.tables.add(value.lookup.table);
  else if ('formula' in value) {
    const formula = readFormula(value.formula);
    if ('run' in formula) for (const key of formula.fields.keys()) into.fields.add(key);
  }
  innerValues(value).forEach((inner) => namesIn(inner, into));
  return into;
}

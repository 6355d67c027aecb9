import { yesOrNo } from '../board/yes.ts';
import { own } from '../board/own.ts';
import { isClock, type FieldValue, type Scalar } from '../board/values.ts';
import { byProperty, Each, One, Strict } from '../document/check.ts';
import { AnyScalar, isScalar, ListOf, Maybe, Must, Num, Text, YesNo } from '../document/rules.ts';
import { FORMAT } from './format-doc.ts';
import { applyFormat, isBlank, textOf, type Format } from './format.ts';
import { readFormula } from './formula.ts';

export { isBlank, textOf, truthOf, type Format } from './format.ts';

@Strict
class Fixed {
  @AnyScalar() fixed!: Scalar;
}

class Formatted {
  @Maybe() @One(() => FORMAT) format?: Format;
}
class Found extends Formatted {
  /** What stands for a blank. */
  @Maybe() @AnyScalar() fallback?: Scalar;
}

@Strict
class FromField extends Found {
  @Text(1, 80) field!: string;
}
@Strict
class FromInput extends Found {
  @Text(1, 80) input!: string;
}
@Strict
class Pieces extends Formatted {
  @Each(() => VALUE) pieces!: Value[];
}

/** One case of a choice: equal to one of `is`, within `min` to `max` (both included), or blank or not. */
@Strict
export class Case {
  @Maybe() @ListOf(isScalar, 'must be a list of texts, numbers, true, false or null') is?: Scalar[];
  @Maybe() @Num() min?: number;
  @Maybe() @Num() max?: number;
  @Maybe() @YesNo() blank?: boolean;
  @One(() => VALUE) then!: Value;
}
@Strict
class Chosen extends Formatted {
  @One(() => VALUE) choose!: Value;
  @Each(() => Case) cases!: Case[];
  @Maybe() @One(() => VALUE) otherwise?: Value;
}

class AnyRow {
  @Text(1, 80) table!: string;
  @Text(1, 80) column!: string;
}
@Strict
class RowByKey extends AnyRow {
  @One(() => VALUE) key!: Value;
}
@Strict
class RowByRank extends AnyRow {
  @One(() => VALUE) rank!: Value;
}
/** One cell of a table on the board: of the row with this key, or of the row at this rank, counted from 1. */
export type Lookup = RowByKey | RowByRank;
const LOOKUP = byProperty<Lookup>({ key: RowByKey, rank: RowByRank }, 'says no row: key or rank');
@Strict
class LookedUp extends Found {
  @One(() => LOOKUP) lookup!: Lookup;
}

/** A formula of CEL that can be read. */
export const IsFormula = (): PropertyDecorator =>
  Must(
    'formula',
    (v) => typeof v === 'string' && v !== '' && v.length <= 2000 && 'run' in readFormula(v),
    (v) => {
      if (typeof v !== 'string' || v === '') return 'is not a formula';
      if (v.length > 2000) return 'a formula has at most 2000 characters';
      const read = readFormula(v);
      return 'problem' in read ? `is not a formula: ${read.problem}, at sign ${read.at + 1}` : '';
    },
  );
@Strict
class Worked extends Found {
  @IsFormula() formula!: string;
}

/** How any property of anything gets its content. */
export type Value = Fixed | FromField | FromInput | Pieces | Chosen | LookedUp | Worked;

/** Reads a Value. */
export const VALUE = byProperty<Value>(
  {
    fixed: Fixed,
    field: FromField,
    input: FromInput,
    pieces: Pieces,
    choose: Chosen,
    lookup: LookedUp,
    formula: Worked,
  },
  'is not a value: fixed, field, input, pieces, choose, lookup or formula',
);

/** Where a value finds what it asks for. */
export interface Scope {
  field(key: string): FieldValue;
  input(key: string): Scalar;
  /** A row of a table by its key. */
  row?(table: string, key: string): Readonly<Record<string, Scalar>> | undefined;
  /** A row of a table by its rank, counted from 1. */
  ranked?(table: string, rank: number): Readonly<Record<string, Scalar>> | undefined;
}

/** Works a value out in a scope: never throws; what is not there reads as blank, or as its fallback. */
export type Work = (scope: Scope) => FieldValue;

/**
 * A value made ready to be worked out again and again: its formulas are read now, and which kind it is is asked once. A scope
 * gives it what it asks for.
 */
export function compiled(value: Value): Work {
  if ('fixed' in value) return () => value.fixed;
  if ('field' in value) return (scope) => fieldOf(value, scope);
  if ('input' in value) return (scope) => finished(scope.input(value.input), value);
  if ('pieces' in value) {
    // Most are texts and fields: a text is written out once, and a field needs no function of its own.
    const parts = value.pieces.map((p) => ('fixed' in p ? textOf(p.fixed) : 'field' in p ? p : compiled(p)));
    return (scope) => {
      let text = '';
      for (let i = 0; i < parts.length; i++) {
        const part = parts[i]!;
        if (typeof part === 'string') text += part;
        else text += textOf(typeof part === 'function' ? part(scope) : fieldOf(part, scope));
      }
      return applyFormat(text, value.format);
    };
  }
  if ('choose' in value) {
    const of = compiled(value.choose);
    const cases = value.cases.map((c) => ({ is: c, then: compiled(c.then) }));
    const otherwise = value.otherwise ? compiled(value.otherwise) : null;
    return (scope) => {
      const chosen = of(scope);
      const then = cases.find((c) => caseHolds(c.is, chosen))?.then ?? otherwise;
      return then ? applyFormat(then(scope), value.format) : null;
    };
  }
  if ('lookup' in value) {
    const cell = cellFound(value.lookup);
    return (scope) => finished(cell(scope), value);
  }
  const formula = readFormula(value.formula);
  if (!('run' in formula)) return () => finished(null, value);
  return (scope) => {
    let made: Scalar = null;
    try {
      made = formula.run(scope.field);
    } catch {
      // What cannot be worked out is blank; `troubleIn` says why.
    }
    return finished(made, value);
  };
}

/** What a value says that is a field: the commonest kind. */
export const fieldOf = (value: FromField, scope: Scope): FieldValue =>
  finished(scope.field(value.field), value);

/** The value's content in the given scope, worked out once; `compiled` is for what is worked out again. */
export const evaluate = (value: Value, scope: Scope): FieldValue => compiled(value)(scope);

/**
 * The same, where trouble must be known: what it gives throws an Error with one sentence when a formula in the value cannot
 * be worked out.
 */
export function compiledStrictly(value: Value): Work {
  if ('formula' in value) {
    const formula = readFormula(value.formula);
    if (!('run' in formula)) throw new Error(formula.problem);
    return (scope) => finished(formula.run(scope.field), value);
  }
  const trouble = troubles(value);
  const work = compiled(value);
  return (scope) => {
    const problem = trouble(scope);
    if (problem) throw new Error(problem);
    return work(scope);
  };
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

function cellFound(at: Lookup): (scope: Scope) => Scalar {
  if ('key' in at) {
    const asked = compiled(at.key);
    return (scope) => {
      const key = textOf(asked(scope));
      return key === '' ? null : cellOf(scope.row?.(at.table, key), at.column);
    };
  }
  const asked = compiled(at.rank);
  return (scope) => {
    const rank = Number(textOf(asked(scope)));
    return Number.isInteger(rank) ? cellOf(scope.ranked?.(at.table, rank), at.column) : null;
  };
}

/**
 * Tells why a value has no content though it should: the first formula in it that cannot be worked out, in one sentence;
 * null where all is well. Whichever case holds, all formulas count.
 */
export function troubles(value: Value): (scope: Scope) => string | null {
  const formulas = formulasIn(value).map(readFormula);
  return (scope) => {
    for (const formula of formulas) {
      if (!('run' in formula)) return formula.problem;
      try {
        formula.run(scope.field);
      } catch (error) {
        return (error as Error).message;
      }
    }
    return null;
  };
}

/** The same, asked once. */
export const troubleIn = (value: Value, scope: Scope): string | null => troubles(value)(scope);

const formulasIn = (value: Value): string[] =>
  'formula' in value ? [value.formula] : innerValues(value).flatMap(formulasIn);

/** The values that a value is made of, whichever case holds. */
export function innerValues(value: Value): Value[] {
  if ('pieces' in value) return value.pieces;
  if ('choose' in value)
    return [value.choose, ...value.cases.map((c) => c.then), ...(value.otherwise ? [value.otherwise] : [])];
  if ('lookup' in value) return ['key' in value.lookup ? value.lookup.key : value.lookup.rank];
  return [];
}

/** Whether a picture's path is worked out from a key: else somebody chose the picture, wherever it stands by now. */
export function isKeyed(value: Value): boolean {
  if ('pieces' in value || 'formula' in value) return true;
  return (
    'choose' in value && [...value.cases.map((c) => c.then), value.otherwise].some((v) => v && isKeyed(v))
  );
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

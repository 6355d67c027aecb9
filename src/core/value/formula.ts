import { LRUCache } from 'lru-cache';
import { isCelError, isCelUint, parse, type CelInput } from '@bufbuild/cel';
import { ExprSchema, type Expr } from '@bufbuild/cel-spec/cel/expr/syntax_pb.js';
import { create } from '@bufbuild/protobuf';
import { isClock, type FieldValue, type Scalar } from '../board/values.ts';
import { planned, STEP, YES } from './cel.ts';
import { inPlainWords } from './formula-words.ts';

/**
 * Formulas are CEL, the Common Expression Language (github.com/google/cel-spec). Two things are eased for people at
 * work: whole and decimal numbers mix, and what is blank counts as 0 among numbers and as nothing in texts. Each run has
 * a budget (`cel.ts`), and patterns are matched in linear time.
 */
export interface Formula {
  /** The keys of all fields that it asks for, with the places in the text where each is named first, counted from 0. */
  fields: ReadonlyMap<string, number>;
  /** The formula's content; throws an Error with one sentence when it cannot be worked out. */
  run(field: (key: string) => FieldValue): Scalar;
}

/** A formula that is none: why, and where in the text, counted from 0. */
export interface FormulaProblem {
  problem: string;
  at: number;
}

/** The function that asks for a field whose key is no plain name: `field("home.shots-on-goal")`. */
const FIELD = 'field';

/** A field's key as it is written in a formula. */
export function keyInFormula(key: string): string {
  return /^[A-Za-z_]\w*(\.[A-Za-z_]\w*)*$/.test(key) ? key : `${FIELD}(${JSON.stringify(key)})`;
}

/** Where a blank field counts as no. */
const CONDITIONS = new Set(['_&&_', '_||_', '!_']);

/** A field's name in the tree: none that the engine's own objects have (`constructor`). */
const nameOf = (key: string) => `f:${key}`;
const ident = (id: bigint, key: string) =>
  create(ExprSchema, { id, exprKind: { case: 'identExpr', value: { name: nameOf(key) } } });
const call = (id: bigint, name: string, args: Expr[]) =>
  create(ExprSchema, { id, exprKind: { case: 'callExpr', value: { function: name, args } } });
const NOTHING = create(ExprSchema, {
  exprKind: { case: 'constExpr', value: { constantKind: { case: 'nullValue', value: 0 } } },
});

/** A name chain such as home.score in the syntax tree, of names that the formula does not make itself; else null. */
function chainOf({ exprKind }: Expr, own: ReadonlySet<string>): string | null {
  if (exprKind.case === 'identExpr') return own.has(exprKind.value.name) ? null : exprKind.value.name;
  if (exprKind.case !== 'selectExpr' || exprKind.value.testOnly) return null;
  const { operand, field } = exprKind.value;
  const head = operand && chainOf(operand, own);
  return head ? `${head}.${field}` : null;
}

/** The key that `field("home.shots-on-goal")` asks for; null for any other expression. */
function askedFor({ exprKind }: Expr): string | null {
  if (exprKind.case !== 'callExpr' || exprKind.value.function !== FIELD) return null;
  const [key] = exprKind.value.args;
  const known = key?.exprKind.case === 'constExpr' ? key.exprKind.value.constantKind : null;
  return known?.case === 'stringValue' ? known.value : null;
}

/**
 * The tree made ready: a field is one name, `has(home.score)` asks whether it is not blank, and each turn of a loop
 * counts. Notes each field with the expression that names it first.
 */
function prepared(at: Expr, own: ReadonlySet<string>, fields: Map<string, bigint>): Expr {
  const key = askedFor(at) ?? chainOf(at, own);
  if (key !== null) {
    if (!fields.has(key)) fields.set(key, at.id);
    return ident(at.id, key);
  }
  const inside = (e: Expr | undefined, names = own) => e && prepared(e, names, fields);
  const { exprKind } = at;
  switch (exprKind.case) {
    case 'selectExpr': {
      const { operand, field, testOnly } = exprKind.value;
      const tested =
        testOnly &&
        chainOf(create(ExprSchema, { exprKind: { case: 'selectExpr', value: { operand, field } } }), own);
      if (tested) {
        if (!fields.has(tested)) fields.set(tested, at.id);
        return call(at.id, '!_', [call(at.id, '_==_', [ident(at.id, tested), NOTHING])]);
      }
      exprKind.value.operand = inside(operand);
      return at;
    }
    case 'callExpr': {
      const { value } = exprKind;
      value.target = inside(value.target);
      value.args = value.args.map((arg, i) => {
        const field = (askedFor(arg) ?? chainOf(arg, own)) !== null;
        const done = inside(arg)!;
        return field && (CONDITIONS.has(value.function) || (value.function === '_?_:_' && i === 0))
          ? call(arg.id, YES, [done])
          : done;
      });
      return at;
    }
    case 'listExpr':
      exprKind.value.elements = exprKind.value.elements.map((e) => inside(e)!);
      return at;
    case 'structExpr':
      for (const entry of exprKind.value.entries) {
        if (entry.keyKind.case === 'mapKey') entry.keyKind.value = inside(entry.keyKind.value)!;
        entry.value = inside(entry.value);
      }
      return at;
    case 'comprehensionExpr': {
      const loop = exprKind.value;
      loop.iterRange = inside(loop.iterRange);
      loop.accuInit = inside(loop.accuInit);
      const names = new Set([...own, loop.iterVar, loop.iterVar2, loop.accuVar]);
      loop.loopCondition = call(at.id, STEP, [inside(loop.loopCondition, names)!]);
      loop.loopStep = inside(loop.loopStep, names);
      loop.result = inside(loop.result, names);
      return at;
    }
    default:
      return at;
  }
}

const known = new LRUCache<string, Formula | FormulaProblem>({ max: 2000 });

/** Reads a formula, or says why it is none and where. The same text is read once. */
export function readFormula(text: string): Formula | FormulaProblem {
  let found = known.get(text);
  if (found) return found;
  found = compile(text);
  known.set(text, found);
  return found;
}

function compile(text: string): Formula | FormulaProblem {
  try {
    const { expr, sourceInfo } = parse(text);
    const asked = new Map<string, bigint>();
    const program = planned(prepared(expr!, new Set(), asked));
    const place = (id: bigint) => Number(sourceInfo?.positions[String(id)] ?? 0);
    const fields = new Map([...asked].map(([key, id]) => [key, startOf(text, key, place(id))]));
    const run = (field: (key: string) => FieldValue): Scalar => {
      const names: Record<string, CelInput> = {};
      for (const key of fields.keys()) names[nameOf(key)] = plain(field(key));
      try {
        return scalarOf(program(names));
      } catch (error) {
        throw new Error(inPlainWords(error), { cause: error });
      }
    };
    return { fields, run };
  } catch (error) {
    const { offset } = (error as { location?: { start?: { offset?: number } } }).location?.start ?? {};
    return { problem: inPlainWords(error, text), at: offset ?? 0 };
  }
}

/** Where a name begins: the tree places a chain at one of its dots. */
function startOf(text: string, key: string, near: number): number {
  const at = text.lastIndexOf(key, near);
  return at < 0 ? Math.max(0, text.indexOf(key)) : at;
}

/** A clock stands in a formula as its milliseconds. */
const plain = (value: FieldValue) => (isClock(value) ? value.value : value);

function scalarOf(value: unknown): Scalar {
  if (typeof value === 'bigint') return Number(value);
  if (typeof value === 'number') return Number.isFinite(value) ? value : null;
  if (typeof value === 'string' || typeof value === 'boolean') return value;
  if (isCelUint(value)) return Number(value.value);
  if (value === null || value === undefined) return null;
  if (isCelError(value)) throw value;
  throw new Error('A formula gives a text, a number, or yes or no; this gives a list or a map.');
}

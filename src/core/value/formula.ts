import { Environment, ParseError, type ASTNode } from '@marcbachmann/cel-js';
import { isClock, type FieldValue, type Scalar } from '../board/values.ts';

/**
 * Formulas are CEL, the Common Expression Language (github.com/google/cel-spec). Two things are eased for people at
 * work: whole and decimal numbers mix, and what is blank counts as 0 in sums and as nothing in texts.
 */
export interface Formula {
  /** The keys of all fields that it asks for. */
  fields: Set<string>;
  /** The formula's content; throws an Error with one sentence when it cannot be worked out. */
  run(field: (key: string) => FieldValue): Scalar;
}

/** A formula that is none: why, and where in the text, counted from 0. */
export interface FormulaProblem {
  problem: string;
  at: number;
}

const env = new Environment({ unlistedVariablesAreDyn: true, homogeneousAggregateLiterals: false });
const NUMBERS: Record<string, (a: number, b: number) => number | boolean> = {
  '+': (a, b) => a + b,
  '-': (a, b) => a - b,
  '*': (a, b) => a * b,
  '/': (a, b) => a / b,
  '%': (a, b) => a % b,
  '<': (a, b) => a < b,
  '<=': (a, b) => a <= b,
  '>': (a, b) => a > b,
  '>=': (a, b) => a >= b,
};
const MIXED = ['double int', 'int double', 'null int', 'null double', 'int null', 'double null', 'null null'];
for (const [sign, work] of Object.entries(NUMBERS)) {
  for (const pair of [...MIXED, 'double double']) {
    const [left, right] = pair.split(' ');
    // The standard compares decimals with whole numbers already, and adds decimals.
    if (!pair.includes('null') && (sign.startsWith('<') || sign.startsWith('>'))) continue;
    if (pair === 'double double' && sign !== '%') continue;
    env.registerOperator(`${left} ${sign} ${right}`, (a: unknown, b: unknown) => work(Number(a), Number(b)));
  }
}
for (const other of ['double', 'int', 'null', 'bool']) {
  const join = (a: unknown, b: unknown) => `${plainText(a)}${plainText(b)}`;
  env.registerOperator(`string + ${other}`, join);
  env.registerOperator(`${other} + string`, join);
}
env.registerFunction('string(null): string', () => '');
const plainText = (x: unknown) => (x === null ? '' : String(x));

/** A name chain such as home.score in the syntax tree; null for anything else. */
function chainOf(at: ASTNode): string | null {
  if (at.op === 'id') return at.args as string;
  if (at.op !== '.') return null;
  const [from, name] = at.args as [ASTNode, string];
  const head = chainOf(from);
  return head === null ? null : `${head}.${name}`;
}

function chainsIn(at: unknown, into: Set<string>): void {
  if (Array.isArray(at)) return at.forEach((x) => chainsIn(x, into));
  if (typeof at !== 'object' || at === null || !('op' in at)) return;
  const chain = chainOf(at as ASTNode);
  if (chain !== null) into.add(chain);
  else chainsIn((at as ASTNode).args, into);
}

const known = new Map<string, Formula | FormulaProblem>();
const MOST = 2000;

/** Reads a formula, or says why it is none and where. The same text is read once. */
export function readFormula(text: string): Formula | FormulaProblem {
  let found = known.get(text);
  if (found) return found;
  found = compile(text);
  if (known.size >= MOST) known.clear();
  known.set(text, found);
  return found;
}

function compile(text: string): Formula | FormulaProblem {
  try {
    const program = env.parse(text);
    const fields = new Set<string>();
    chainsIn(program.ast, fields);
    const run = (field: (key: string) => FieldValue): Scalar => {
      const context: Record<string, unknown> = {};
      for (const key of fields) place(context, key.split('.'), plain(field(key)));
      try {
        return scalarOf(program(context));
      } catch (error) {
        throw new Error(sentence(error), { cause: error });
      }
    };
    return { fields, run };
  } catch (error) {
    const range = error instanceof ParseError ? error.range : undefined;
    return { problem: sentence(error), at: range?.start ?? 0 };
  }
}

/** A clock stands in a formula as its milliseconds. */
const plain = (value: FieldValue) => (isClock(value) ? value.value : value);

function place(into: Record<string, unknown>, [head, ...rest]: string[], value: Scalar): void {
  if (head === undefined) return;
  if (rest.length === 0) {
    if (typeof into[head] !== 'object') into[head] = value;
    return;
  }
  const inner = into[head];
  const next = typeof inner === 'object' && inner !== null ? inner : {};
  into[head] = next;
  place(next as Record<string, unknown>, rest, value);
}

function scalarOf(value: unknown): Scalar {
  if (typeof value === 'bigint') return Number(value);
  if (typeof value === 'number') return Number.isFinite(value) ? value : null;
  if (typeof value === 'string' || typeof value === 'boolean') return value;
  if (value === null || value === undefined) return null;
  throw new Error('A formula gives a text, a number, or yes or no; this gives a list or a map.');
}

const sentence = (error: unknown) => (error instanceof Error ? error.message.split('\n')[0]! : String(error));

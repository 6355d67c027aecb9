import {
  CelScalar,
  celEnv,
  celFunc,
  isCelError,
  isCelList,
  isCelUint,
  plan,
  type CelEnv,
  type CelInput,
  type CelValue,
} from '@bufbuild/cel';
import type { Expr } from '@bufbuild/cel-spec/cel/expr/syntax_pb.js';

/** What one run of a formula may cost: a step is one call, one turn of a loop, or 64 characters or members looked at. */
export const MOST_STEPS = 5_000;
/** The longest text that a formula may make, in characters. */
export const MOST_TEXT = 10_000;
/** The longest list that a formula may make. */
export const MOST_LIST = 1000;

/** Raised when a formula costs more than one may. It is no CEL error: `||` and `&&` must not swallow it. */
export class TooCostly extends Error {}

const { DYN, INT, UINT, DOUBLE, NULL, STRING, BOOL } = CelScalar;
const NUMBERS = [INT, UINT, DOUBLE, NULL] as const;
const TEXTLESS = [INT, UINT, DOUBLE, NULL, BOOL] as const;
/** The loop's turn, and a field that is a condition, as they are written into a syntax tree. */
export const STEP = '@step';
export const YES = '@yes';

const ARITHMETIC: Record<string, (a: number, b: number) => number> = {
  '_+_': (a, b) => a + b,
  '_-_': (a, b) => a - b,
  '_*_': (a, b) => a * b,
  '_/_': (a, b) => a / b,
  '_%_': (a, b) => a % b,
};
const ORDER: Record<string, (a: number, b: number) => boolean> = {
  '_<_': (a, b) => a < b,
  '_<=_': (a, b) => a <= b,
  '_>_': (a, b) => a > b,
  '_>=_': (a, b) => a >= b,
};

/** A number of any of CEL's kinds as one of JavaScript's; blank is 0. */
const number = (x: unknown) => Number(isCelUint(x) ? x.value : x);
const text = (x: unknown) => (x === null ? '' : String(isCelUint(x) ? x.value : x));

const standardEquals = celEnv().funcs.find('_==_')!;

/** Equality as the standard has it, but that a blank equals what it counts as: 0, the empty text, no. */
function equal(a: CelValue, b: CelValue): boolean {
  if ((a === null) === (b === null)) return standardEquals.call(0, undefined, [a, b]) as boolean;
  const other = a ?? b;
  return other === '' || other === false || other === 0 || other === 0n || (isCelUint(other) && !other.value);
}

/**
 * What is eased for people at work: whole and decimal numbers mix; blank counts as 0 among numbers, as nothing in texts,
 * as no in conditions.
 */
function easings() {
  const pairs = NUMBERS.flatMap((a) => NUMBERS.map((b) => [a, b] as const));
  return [
    ...Object.entries(ARITHMETIC).flatMap(([sign, work]) =>
      pairs
        // What is of one kind is the standard's own, but that it has no remainder of decimals.
        .filter(([a, b]) => a !== b || a === NULL || (a === DOUBLE && sign === '_%_'))
        .map(([a, b]) => celFunc(sign, [a, b], DOUBLE, (x, y) => work(number(x), number(y)))),
    ),
    // The standard puts numbers of different kinds in order already, but no blanks.
    ...Object.entries(ORDER).flatMap(([sign, work]) =>
      pairs
        .filter(([a, b]) => a === NULL || b === NULL)
        .map(([a, b]) => celFunc(sign, [a, b], BOOL, (x, y) => work(number(x), number(y)))),
    ),
    celFunc('-_', [NULL], DOUBLE, () => 0),
    ...TEXTLESS.flatMap((other) => [
      celFunc('_+_', [STRING, other], STRING, (a, b) => a + text(b)),
      celFunc('_+_', [other, STRING], STRING, (a, b) => text(a) + b),
    ]),
    celFunc('string', [NULL], STRING, () => ''),
    celFunc('int', [NULL], INT, () => 0n),
    celFunc('double', [NULL], DOUBLE, () => 0),
    celFunc('_==_', [DYN, DYN], BOOL, equal),
    celFunc('_!=_', [DYN, DYN], BOOL, (a, b) => !equal(a, b)),
    celFunc('!_', [NULL], BOOL, () => true),
    celFunc(YES, [DYN], DYN, (x) => (x === null ? false : (x as CelInput))),
    celFunc(STEP, [DYN], DYN, (x) => x as CelInput),
  ];
}

interface Callable {
  call(id: number, target: CelValue | undefined, args: CelValue[]): unknown;
}

let left = MOST_STEPS;

function spend(steps: number): void {
  left -= steps;
  if (left < 0) throw new TooCostly('The formula takes too many steps; make it simpler.');
}

const sizeOf = (x: unknown) =>
  typeof x === 'string' ? x.length : isCelList(x) ? x.size : x instanceof Uint8Array ? x.length : 0;

function refuseLong(made: unknown): void {
  if (typeof made === 'string' && made.length > MOST_TEXT)
    throw new TooCostly(`The formula makes a text of more than ${MOST_TEXT} characters.`);
  if (isCelList(made) && made.size > MOST_LIST)
    throw new TooCostly(`The formula makes a list of more than ${MOST_LIST} members.`);
}

/** The function with its price. A pattern is run over its text, so it costs both together. */
function priced(name: string, func: Callable): Callable {
  return {
    call(id, target, args) {
      let size = sizeOf(target);
      for (let i = 0; i < args.length; i++) size += sizeOf(args[i]);
      if (name === 'matches') size *= 1 + (sizeOf(args[args.length - 1]) >> 1);
      spend(1 + (size >> 6));
      const made = func.call(id, target, args);
      refuseLong(made);
      return made;
    },
  };
}

const base = celEnv({ funcs: easings() });
const found = new Map<string, Callable | undefined>();
/** The standard environment, eased, each of whose functions has its price. */
const environment = {
  namespace: base.namespace,
  registry: base.registry,
  variables: base.variables,
  funcs: {
    find(name: string) {
      const func = base.funcs.find(name) as Callable | undefined;
      if (func && !found.has(name)) found.set(name, priced(name, func));
      return found.get(name);
    },
  },
} as unknown as CelEnv;

/** What is left for all runs of one larger piece of work. */
let leftInAll = Infinity;

/** Does work that runs formulas again and again, such as for each row of a table, with one budget for all of them. */
export function withSteps<T>(steps: number, work: () => T): T {
  const before = leftInAll;
  leftInAll = Math.min(before, steps);
  try {
    return work();
  } finally {
    leftInAll = before;
  }
}

/** Gives one run its budget. */
function within<T>(work: () => T): T {
  const budget = Math.min(MOST_STEPS, leftInAll);
  left = budget;
  try {
    return work();
  } finally {
    leftInAll -= budget - Math.max(0, left);
  }
}

/**
 * Makes a syntax tree of CEL ready to run, any number of times. A run gives what the formula gives, in CEL's kinds; it
 * throws an Error where the formula cannot be worked out, and a TooCostly where it costs more than one may.
 */
export function planned(expr: Expr): (names: Record<string, CelInput>) => CelValue {
  const program = within(() => plan(environment, expr));
  return (names) => {
    const result = within(() => program(names));
    if (!isCelError(result)) return result;
    throw result.cause instanceof TooCostly ? result.cause : result;
  };
}

import { getMetadataStorage, ValidationTypes, type ValidationArguments } from 'class-validator';
import { isRecord, setOwn } from '../board/own.ts';
import { parsed, type Parsed } from './problems.ts';

/** A class whose decorators say what an object of it may hold. Its fields' first values stand where nothing is said. */
export type DocumentClass<T extends object = object> = new () => T;

type Plain = Readonly<Record<string, unknown>>;

/** One of several classes, told by what the object says; or a plain value of which `leaf` says that it is one. */
export class Choice<T> {
  constructor(
    readonly of: (plain: Plain) => DocumentClass<T & object> | undefined,
    readonly refusal: string,
    readonly leaf: (value: unknown) => boolean = () => false,
    /** The property that tells, where it is one. */
    readonly by: string | null = null,
  ) {}
}

/** The class that `classes` has under the name of a property that the object has, such as `fixed` or `field`. */
export function byProperty<T>(
  classes: Record<string, DocumentClass<T & object>>,
  refusal: string,
  leaf?: (value: unknown) => boolean,
): Choice<T> {
  const names = Object.keys(classes);
  const of = (plain: Plain) => classes[names.find((name) => Object.hasOwn(plain, name)) ?? ''];
  return new Choice<T>(of, refusal, leaf);
}

/** The class that `classes` has under what the object's property `name` says, such as its `kind`. */
export function byWord<T>(name: string, classes: Record<string, DocumentClass<T & object>>): Choice<T> {
  const words = Object.keys(classes);
  const of = (plain: Plain) => classes[words.find((word) => word === plain[name]) ?? ''];
  return new Choice<T>(of, `must be one of ${words.join(', ')}`, undefined, name);
}

export type Of = DocumentClass | Choice<unknown>;
export interface Nested {
  of: () => Of;
  /** One object, a list of them, or a record of them under any names. */
  many: 'one' | 'list' | 'record';
}

const nestedIn = new WeakMap<object, Map<string, Nested>>();
const strict = new WeakSet<object>();

const nest = (of: () => Of, many: Nested['many']) => (target: object, property: string) => {
  const known = nestedIn.get(target) ?? new Map<string, Nested>();
  nestedIn.set(target, known.set(property, { of, many }));
};

/** The property is an object of this class, or of this choice of classes. Given as a function, so that classes may hold themselves. */
export const One = (of: () => Of) => nest(of, 'one');
/** The property is a list of such objects. */
export const Each = (of: () => Of) => nest(of, 'list');
/** The property is a record of such objects, under any names. */
export const EachIn = (of: () => Of) => nest(of, 'record');

/** What the class does not name is refused, where it would else be left out. */
export function Strict(Class: DocumentClass): void {
  strict.add(Class);
}

const rewritten = new WeakMap<object, (plain: Plain) => Plain>();

/** Objects of the class may be written in a shorter or older way too, which `rewrite` makes one of today's. */
export const AsWritten = (rewrite: (plain: Plain) => Plain) => (Class: DocumentClass) => {
  rewritten.set(Class, rewrite);
};

/** The properties of a class that are objects of other classes. */
export const nestedOf = (Class: DocumentClass): ReadonlyMap<string, Nested> => {
  const found = new Map<string, Nested>();
  for (let at = Class.prototype as object | null; at; at = Object.getPrototypeOf(at) as object | null)
    for (const [name, nested] of nestedIn.get(at) ?? []) if (!found.has(name)) found.set(name, nested);
  return found;
};

interface Rule {
  name: string;
  /** The checks hold only where all of these do. */
  when: ((object: object, value: unknown) => boolean)[];
  checks: { holds: (value: unknown) => boolean; message: (value: unknown) => string }[];
  nested: Nested | undefined;
}

const compiled = new WeakMap<DocumentClass, Map<string, Rule>>();

/** What a class's decorators (`rules.ts`) say, gathered once: a document has many objects of few classes. */
function rulesOf(Class: DocumentClass): Map<string, Rule> {
  const known = compiled.get(Class);
  if (known) return known;
  const rules = new Map<string, Rule>();
  const rule = (name: string) => {
    const there = rules.get(name) ?? { name, when: [], checks: [], nested: undefined };
    rules.set(name, there);
    return there;
  };
  const storage = getMetadataStorage();
  for (const meta of storage.getTargetValidationMetadatas(Class, '', false, false)) {
    const { when, checks } = rule(meta.propertyName);
    if (meta.type === ValidationTypes.CONDITIONAL_VALIDATION) {
      when.push(meta.constraints[0] as Rule['when'][number]);
      continue;
    }
    for (const { instance } of storage.getTargetValidatorConstraints(meta.constraintCls))
      checks.push({
        holds: (value) => instance.validate(value) === true,
        message: (value) => instance.defaultMessage?.({ value } as ValidationArguments) ?? 'is not allowed',
      });
  }
  for (const [name, nested] of nestedOf(Class)) rule(name).nested = nested;
  compiled.set(Class, rules);
  return rules;
}

/** No document of ours is nested so deep; what is came from somebody who means ill. */
const DEEPEST = 60;
/** Nor has one so many objects; reading more would hold everything else up. */
const MOST_OBJECTS = 40_000;
/** Nobody reads more than these. */
const MOST_PROBLEMS = 50;

const within = (at: string, name: string | number) => (at === '' ? String(name) : `${at}.${name}`);

/** Reads what came from outside by the decorators of classes; gathers what is wrong, each with its place. */
class Reading {
  readonly problems: string[] = [];
  private objects = 0;

  private problem(at: string, text: string): undefined {
    if (this.problems.length < MOST_PROBLEMS) this.problems.push(`${at || 'document'}: ${text}`);
  }

  /** One object, or a plain value where the choice allows it. */
  one(of: Of, input: unknown, at: string, depth: number): unknown {
    if (depth > DEEPEST) return this.problem(at, 'is nested too deeply');
    if (of instanceof Choice) {
      if (of.leaf(input)) return input;
      const Class = isRecord(input) ? of.of(input) : undefined;
      if (Class) return this.object(Class, input as Plain, at, depth);
      const told = of.by !== null && isRecord(input);
      return this.problem(
        told ? within(at, of.by!) : at,
        told || of.by === null ? of.refusal : 'is not an object',
      );
    }
    return isRecord(input) ? this.object(of, input, at, depth) : this.problem(at, 'is not an object');
  }

  object(Class: DocumentClass, written: Plain, at: string, depth: number): object {
    if (++this.objects === MOST_OBJECTS) this.problem('', `has more than ${MOST_OBJECTS} parts`);
    if (this.objects >= MOST_OBJECTS) return written;
    const input = rewritten.get(Class)?.(written) ?? written;
    const rules = rulesOf(Class);
    const made = new Class() as Record<string, unknown>;
    for (const name of Object.keys(input)) {
      if (!rules.has(name)) {
        if (strict.has(Class)) this.problem(within(at, name), 'is not known here');
      } else if (input[name] !== undefined) made[name] = input[name];
    }
    for (const rule of rules.values()) {
      const value = made[rule.name];
      if (!rule.when.every((holds) => holds(made, value))) continue;
      const place = within(at, rule.name);
      if (value === undefined) this.problem(place, 'is missing');
      else if (this.holds(rule, value, place) && rule.nested)
        made[rule.name] = this.nested(rule.nested, value, place, depth + 1);
    }
    return made;
  }

  private holds({ checks }: Rule, value: unknown, at: string): boolean {
    const broken = checks.find((check) => !check.holds(value));
    if (broken) this.problem(at, broken.message(value));
    return !broken;
  }

  private nested({ of, many }: Nested, value: unknown, at: string, depth: number): unknown {
    if (many === 'one') return this.one(of(), value, at, depth);
    if (many === 'list') {
      if (!Array.isArray(value)) return this.problem(at, 'is not a list');
      return value.map((item, i) => this.one(of(), item, within(at, i), depth));
    }
    if (!isRecord(value)) return this.problem(at, 'is not an object');
    const record = {};
    for (const name of Object.keys(value))
      setOwn(record, name, this.one(of(), value[name], within(at, name), depth));
    return record;
  }
}

/**
 * Reads `input` as an object of this class, or of this choice of classes, by the decorators of class-validator; then by
 * `also`, which may name further problems of a well-formed one. What is left out has the class's first values. Never throws;
 * each problem is a sentence that begins with its place, such as `zones.0.width: must be a whole number from 1 to 20000`.
 */
export function readAs<T>(
  of: DocumentClass<T & object> | Choice<T>,
  input: unknown,
  also: (value: T) => string[] = () => [],
): Parsed<T> {
  const reading = new Reading();
  const value = reading.one(of as Of, input, '', 0) as T;
  return parsed(value, reading.problems.length ? reading.problems : also(value));
}

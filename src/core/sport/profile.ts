import { DERIVED, type Derived } from '../derive/derived.ts';
import { Each, One } from '../document/check.ts';
import { isRecord } from '../board/own.ts';
import { readDocument, renamedKeys, type Step } from '../document/upgrade.ts';
import { Count, Is, Key, Name, Whole } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import { withCommon } from './common.ts';
import { FIELD, Ms, type FieldDef } from './field.ts';

/** How many periods there are and how long, in ms; what one is called, and what follows them when the game is level. */
class Periods {
  @Whole(1, 20) count!: number;
  @Ms() length!: number;
  @Name() word = 'period';
  @Name() overtime!: string;
  @Ms() overtimeLength = 0;
}

/** A data file: the fields, clocks, periods and limits of one sport. Times in ms. */
export class SportProfile {
  @Is(2) schema!: 2;
  @Key() key!: string;
  @Name() name!: string;
  @One(() => Periods) periods!: Periods;
  /** What is worked out of these fields: "3rd & 4", "power play 5 on 4". */
  @Count(0, 200) @Each(() => DERIVED) derived: Derived[] = [];
  @Count(1, 5000) @Each(() => FIELD) fields!: FieldDef[];
}

export type { FieldDef } from './field.ts';

/** From version 1 to 2: a field's `default` was called `first`. */
const fieldsByDefault: Step = (doc) => {
  const { fields } = doc;
  if (!Array.isArray(fields)) return doc;
  return {
    ...doc,
    fields: fields.map((field: unknown) =>
      isRecord(field) ? renamedKeys(field, { first: 'default' }) : field,
    ),
  };
};

/** Reads a sport profile; refuses one with a field twice, or with a number that can have no value. What every game has is there whether it is said or not. */
export function parseProfile(input: unknown): Parsed<SportProfile> {
  const read = readDocument(SportProfile, [fieldsByDefault], input, (profile) => {
    const seen = new Set<string>();
    return profile.fields.flatMap((field, at) => {
      const { key } = field;
      const problems = seen.has(key) ? [`fields: "${key}" is there twice`] : [];
      seen.add(key);
      if (field.kind === 'integer' && field.min > field.max)
        problems.push(`fields.${at}: from ${field.min} to ${field.max} leaves nothing.`);
      return problems;
    });
  });
  return read.ok ? { ok: true, value: { ...read.value, fields: withCommon(read.value.fields) } } : read;
}

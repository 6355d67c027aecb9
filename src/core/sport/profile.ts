import * as v from 'valibot';
import { derivedSchema } from '../derive/derived.ts';
import { withCommon } from './common.ts';
import { fieldSchema, ms } from './field.ts';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';

const profileSchema = v.object({
  schema: v.literal(1),
  key: keySchema,
  name: nameSchema,
  /** How many there are and how long; what one is called, and what follows them when the game is level. */
  periods: v.object({
    count: wholeNumber(1, 20),
    length: ms,
    word: v.optional(nameSchema, 'period'),
    overtime: nameSchema,
    overtimeLength: v.optional(ms, 0),
  }),
  /** What is worked out of these fields: "3rd & 4", "power play 5 on 4". */
  derived: v.optional(v.pipe(v.array(derivedSchema), v.maxLength(200)), []),
  fields: v.pipe(v.array(fieldSchema), v.minLength(1), v.maxLength(5000)),
});

export type { FieldDef } from './field.ts';
/** A data file: the fields, clocks, periods and limits of one sport. Times in ms. */
export type SportProfile = v.InferOutput<typeof profileSchema>;

/** Reads a sport profile; refuses one with a field twice, or with a number that can have no value. What every game has is there whether it is said or not. */
export function parseProfile(input: unknown): Parsed<SportProfile> {
  const read = parseDocument(profileSchema, input, (profile) => {
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

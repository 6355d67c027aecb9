import * as v from 'valibot';
import { keySchema, nameSchema, wholeNumber } from '../document/problems.ts';

const base = {
  key: keySchema,
  label: nameSchema,
  group: v.picklist(['clocks', 'home', 'away', 'situation', 'game', 'derived']),
  /** What it is when a game begins, a clock in ms; what its kind suggests where it is not said (`firstValue`). */
  first: v.optional(v.nullable(v.union([v.string(), v.pipe(v.number(), v.finite()), v.boolean()]))),
};
/** A time in ms. */
export const ms = wholeNumber(0, 60_000_000);

/** Reads one field of a profile. */
export const fieldSchema = v.variant('kind', [
  v.object({ ...base, kind: v.literal('text'), maxLength: v.optional(wholeNumber(1, 500), 120) }),
  v.object({ ...base, kind: v.literal('choice'), choices: v.pipe(v.array(v.string()), v.minLength(1)) }),
  v.object({ ...base, kind: v.literal('integer'), min: v.number(), max: v.number() }),
  v.object({ ...base, kind: v.literal('flag') }),
  v.object({ ...base, kind: v.literal('colour') }),
  v.object({ ...base, kind: v.literal('picture') }),
  /** Worked out of other fields: whatever comes of it. */
  v.object({ ...base, kind: v.literal('derived') }),
  v.object({
    ...base,
    kind: v.literal('clock'),
    /** The longest time it can show, in ms. */
    max: ms,
    direction: v.picklist(['down', 'up']),
    form: v.optional(v.picklist(['m:ss', 's']), 'm:ss'),
    tenthsBelow: v.optional(ms, 0),
    /** `whistle`: it stands while play does; `runs on`: it goes through stoppages. */
    stops: v.optional(v.picklist(['whistle', 'runs on']), 'whistle'),
    /** The clock that it starts and stops with. */
    with: v.optional(keySchema),
  }),
]);

/** One field of the board as a sport profile declares it. */
export type FieldDef = v.InferOutput<typeof fieldSchema>;

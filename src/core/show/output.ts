import * as v from 'valibot';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';
import type { Output } from './show.ts';

const px = wholeNumber(-20_000, 20_000);
const size = wholeNumber(1, 20_000);

const outputSchema: v.GenericSchema<unknown, Output> = v.object({
  schema: v.literal(1),
  key: keySchema,
  name: nameSchema,
  width: size,
  height: size,
  zones: v.pipe(
    v.array(v.object({ key: keySchema, name: nameSchema, x: px, y: px, width: size, height: size })),
    v.minLength(1, 'an output needs at least one zone'),
  ),
});

/** Reads an output; refuses one with two zones of one key. */
export function parseOutput(input: unknown): Parsed<Output> {
  return parseDocument(outputSchema, input, ({ zones }) => {
    const keys = new Set(zones.map((z) => z.key));
    return keys.size === zones.length ? [] : ['zones: two zones have the same key'];
  });
}

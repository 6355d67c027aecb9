import * as v from 'valibot';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';

const sourceSchema = v.object({
  schema: v.literal(1),
  key: keySchema,
  name: nameSchema,
  transport: v.object({
    kind: v.literal('tcp'),
    host: v.pipe(v.string(), v.minLength(1)),
    port: wholeNumber(1, 65535),
  }),
  frameMap: keySchema,
  /** Silence in ms after which it is late, and lost. */
  limits: v.object({ late: wholeNumber(100, 600_000), lost: wholeNumber(100, 600_000) }),
});

/** One connected input: where it is reached, which frame map reads it, how long it may be silent. */
export type SourceDoc = v.InferOutput<typeof sourceSchema>;

/** Reads a source document; refuses one that would be lost before it is late. */
export function parseSource(input: unknown): Parsed<SourceDoc> {
  return parseDocument(sourceSchema, input, (s) =>
    s.limits.lost > s.limits.late ? [] : ['limits: a source is lost later than it is late'],
  );
}

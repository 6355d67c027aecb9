import * as v from 'valibot';
import type { BoardMemory } from '../board/board.ts';
import type { ArbiterMemory } from '../patch/arbiter.ts';
import { keySchema } from '../document/problems.ts';

const scalar = v.union([v.string(), v.pipe(v.number(), v.finite()), v.boolean(), v.null()]);
const time = v.pipe(v.number(), v.finite());

const clock = v.object({
  value: time,
  running: v.boolean(),
  direction: v.picklist(['down', 'up']),
  anchor: time,
  until: time,
});

/** A field's value as it stands in a tape. */
export const fieldValueSchema = v.union([scalar, clock]);

const quality = v.picklist(['ok', 'late', 'lost', 'none']);
const health = v.picklist(['live', 'late', 'lost', 'off']);
const said = v.object({ key: keySchema, value: fieldValueSchema, origin: keySchema });

const table = v.object({
  key: keySchema,
  name: v.string(),
  columns: v.array(v.string()),
  rows: v.array(v.tuple([v.string(), v.record(v.string(), scalar)])),
  origin: v.string(),
  at: time,
  quality,
});

const source = v.object({
  lastWord: v.nullable(time),
  health,
  /** Bytes of a frame or a line that has only begun, as base64. */
  held: v.optional(v.pipe(v.string(), v.base64()), ''),
  clocks: v.optional(v.array(v.object({ field: keySchema, state: clock, said: time })), []),
  /** For a pad: the fields whose newest word is its own. */
  words: v.optional(v.array(keySchema), []),
});

export type SourceMemory = v.InferOutput<typeof source>;

/** What is known of a source that holds nothing back: its last word, counted from `zero`, and its health. */
export const sourceMemory = (
  lastWord: number | null,
  health: SourceMemory['health'],
  zero: number,
): SourceMemory => ({
  lastWord: lastWord === null ? null : lastWord - zero,
  health,
  held: '',
  clocks: [],
  words: [],
});

/** All that Foothill knows of its sources and by them at one moment. Times count from that moment, in ms. */
export interface IntakeMemory {
  board: BoardMemory;
  arbiter: ArbiterMemory;
  sources: Record<string, SourceMemory>;
}

/** Reads what was known. */
export const memorySchema: v.GenericSchema<unknown, IntakeMemory> = v.object({
  board: v.object({
    fields: v.array(v.object({ ...said.entries, at: v.nullable(time), quality })),
    tables: v.array(table),
  }),
  arbiter: v.object({
    live: v.record(v.string(), time),
    latest: v.array(said),
    holders: v.record(v.string(), v.string()),
    lost: v.record(v.string(), v.array(v.string())),
  }),
  sources: v.record(v.string(), source),
});

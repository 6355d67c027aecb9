import * as v from 'valibot';
import type { Change } from '../board/board.ts';
import { isClock, shifted, type ClockState, type FieldValue, type Scalar } from '../board/values.ts';
import { followClock, stoppedClock, type ClockReading } from '../clock/clock.ts';
import { isClockReading, type Reading } from '../decode/reading.ts';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';
import type { FieldDef } from '../sport/profile.ts';
import { evaluate, valueSchema } from '../value/value.ts';

const patchSchema = v.object({
  schema: v.literal(1),
  key: keySchema,
  /** The source whose readings these are. */
  source: keySchema,
  links: v.array(
    v.object({
      reading: nameSchema,
      field: keySchema,
      /** For a clock: the reading that says whether it runs. Without one it is stopped at each reading. */
      running: v.optional(nameSchema),
      /** The conversion: a Value that finds the reading as its input `reading`. */
      as: v.optional(valueSchema),
      /** Its place among the sources that feed this field; 1, the default, comes first. */
      priority: v.optional(wholeNumber(1, 9)),
    }),
  ),
});

/** Which reading feeds which field, with its conversion. */
export type PatchDoc = v.InferOutput<typeof patchSchema>;
export type PatchLink = PatchDoc['links'][number];

/** What a patch knows of its clocks, as plain data. */
export type PatchMemory = { field: string; state: ClockState; said: number }[];

/** Reads a patch; refuses one that feeds a field twice. */
export function parsePatch(input: unknown): Parsed<PatchDoc> {
  return parseDocument(patchSchema, input, (doc) => {
    const seen = new Set<string>();
    return doc.links.flatMap(({ field }) => {
      const twice = seen.has(field);
      seen.add(field);
      return twice ? [`links: the field "${field}" is fed twice`] : [];
    });
  });
}

/** One source's readings on their way to the board. It remembers what each clock last said for certain. */
export class Patch {
  private readonly clocks = new Map<string, { state: ClockState; said: number }>();

  constructor(
    private readonly doc: PatchDoc,
    private readonly defOf: (key: string) => FieldDef | undefined,
  ) {}

  /**
   * The field changes that one frame's readings make, at server time `now`, and the readings that could not
   * be used, each with a sentence. Readings with a problem of their own change nothing.
   */
  changes(readings: readonly Reading[], now: number): { changes: Change[]; problems: string[] } {
    const byName = new Map(readings.map((r) => [r.name, r]));
    const changes: Change[] = [];
    const problems = readings.flatMap((r) => (r.problem ? [`${r.name}: ${r.problem}`] : []));
    for (const link of this.doc.links) {
      const reading = byName.get(link.reading);
      if (!reading || reading.problem || reading.value === undefined) continue;
      const value = this.valueOf(link, reading.value, byName.get(link.running ?? '')?.value === true, now);
      if (value === undefined)
        problems.push(`${link.reading}: "${reading.raw}" is not a clock, and ${link.field} is one`);
      else changes.push({ key: link.field, value, origin: this.doc.source });
    }
    return { changes, problems };
  }

  /** Takes over what another patch of the same source knows of its clocks, so that none stands for a moment. */
  inherit(from: Patch): void {
    for (const [field, clock] of from.clocks) if (this.linkTo(field)) this.clocks.set(field, clock);
  }

  /** What each clock last said for certain, with times counted from server time `zero`. */
  remember(zero: number): PatchMemory {
    return [...this.clocks].map(([field, { state, said }]) => ({
      field,
      state: shifted(state, -zero),
      said,
    }));
  }

  /** Knows what it knew at a moment that now counts as `zero`. */
  recall(memory: PatchMemory, zero: number): void {
    this.clocks.clear();
    for (const { field, state, said } of memory)
      if (this.linkTo(field)) this.clocks.set(field, { state: shifted(state, zero), said });
  }

  /** The changes that stop every running clock at the last value that its source said, when it fell silent. */
  hold(now: number): Change[] {
    const changes: Change[] = [];
    for (const [key, clock] of this.clocks) {
      if (!clock.state.running) continue;
      clock.state = stoppedClock(clock.said, clock.state.direction, now);
      changes.push({ key, value: clock.state, origin: this.doc.source });
    }
    return changes;
  }

  /** The link that feeds a field, if one does. */
  linkTo(field: string): PatchLink | undefined {
    return this.doc.links.find((l) => l.field === field);
  }

  private valueOf(
    link: PatchLink,
    value: Scalar | ClockReading,
    running: boolean,
    now: number,
  ): FieldValue | undefined {
    const def = this.defOf(link.field);
    if (def?.kind === 'clock') {
      if (value === null) {
        this.clocks.delete(link.field);
        return null;
      }
      if (!isClockReading(value)) return undefined;
      const before = this.clocks.get(link.field)?.state ?? null;
      const state = followClock(before, value, running, def.direction, now);
      this.clocks.set(link.field, { state, said: value.ms });
      return state;
    }
    const plain: Scalar = isClockReading(value) ? value.ms : value;
    if (!link.as) return plain;
    // The reading is the one thing that a conversion knows: as an input, and by its name in a formula.
    const reading = (key: string) => (key === 'reading' ? plain : null);
    const converted = evaluate(link.as, { field: reading, input: reading });
    return isClock(converted) ? null : converted;
  }
}

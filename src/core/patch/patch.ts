import type { Change } from '../board/board.ts';
import { isClock, shifted, type ClockState, type FieldValue, type Scalar } from '../board/values.ts';
import { followClock, parseClock, stoppedClock, type ClockReading } from '../clock/clock.ts';
import { isClockReading, type Reading } from '../decode/reading.ts';
import { yesOrNo } from '../board/yes.ts';
import type { FieldDef } from '../sport/profile.ts';
import { refuseValue } from '../sport/typed.ts';
import { compiled, type Work } from '../value/value.ts';
import type { PatchDoc, PatchLink } from './patch-doc.ts';

export type { PatchDoc, PatchLink } from './patch-doc.ts';

/** What a patch knows of its clocks, as plain data. */
export type PatchMemory = { field: string; state: ClockState; said: number }[];

/** One source's readings on their way to the board. It remembers what each clock last said for certain. */
export class Patch {
  private readonly clocks = new Map<string, { state: ClockState; said: number }>();
  /** By the fields that get what they make. */
  private readonly conversions = new Map<string, Work>();

  /** The links with their readings by the names that they are delivered under. */
  private readonly links: readonly PatchLink[];

  /** `nameOf` gives the name of the reading that has an id; without it each is known by its name. */
  constructor(
    private readonly doc: PatchDoc,
    private readonly defOf: (key: string) => FieldDef | undefined,
    nameOf: (id: string) => string = (id) => id,
  ) {
    this.links = doc.links.map((l) => ({
      ...l,
      reading: nameOf(l.reading),
      ...(l.running === undefined ? {} : { running: nameOf(l.running) }),
    }));
    for (const { field, as } of doc.links) if (as) this.conversions.set(field, compiled(as));
  }

  /**
   * The field changes that one frame's readings make, at server time `now`, and the readings that could not
   * be used, each with a sentence. Readings with a problem of their own change nothing; what feeds a field that the
   * sport does not have waits for a sport that has it.
   */
  changes(readings: readonly Reading[], now: number): { changes: Change[]; problems: string[] } {
    const byName = new Map(readings.map((r) => [r.name, r]));
    const changes: Change[] = [];
    const problems = readings.flatMap((r) => (r.problem ? [`${r.name}: ${r.problem}`] : []));
    for (const link of this.links) {
      const reading = byName.get(link.reading);
      if (!reading || reading.problem || reading.value === undefined || !this.defOf(link.field)) continue;
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
      if (!clock.state.running || !this.defOf(key)) continue;
      clock.state = stoppedClock(clock.said, clock.state.direction, now);
      changes.push({ key, value: clock.state, origin: this.doc.source });
    }
    return changes;
  }

  /** The link that feeds a field, with its readings by name, if one does. */
  linkTo(field: string): PatchLink | undefined {
    return this.links.find((l) => l.field === field);
  }

  private valueOf(
    link: PatchLink,
    value: Scalar | ClockReading,
    running: boolean,
    now: number,
  ): FieldValue | undefined {
    const def = this.defOf(link.field);
    const as = this.conversions.get(link.field);
    const said = as ? converted(as, isClockReading(value) ? value.ms : value) : value;
    if (def?.kind !== 'clock') return plainFor(def, said);
    if (said === null) {
      this.clocks.delete(link.field);
      return null;
    }
    const clock = asClock(said);
    if (!clock) return undefined;
    const before = this.clocks.get(link.field)?.state ?? null;
    const state = followClock(before, clock, running, def.direction, now);
    this.clocks.set(link.field, { state, said: clock.ms });
    return state;
  }
}

/** What was said, as a field that is no clock takes it. */
function plainFor(def: FieldDef | undefined, said: Scalar | ClockReading): Scalar {
  if (isClockReading(said)) return said.ms;
  return def?.kind === 'flag' ? (yesOrNo(said) ?? said) : said;
}

/**
 * What a field gets of a reading that was converted so: just what the board will have, or why it will refuse it. A clock
 * is given stopped.
 */
export function fedBy(def: FieldDef, said: Scalar): { value: FieldValue } | { problem: string } {
  if (def.kind !== 'clock') {
    const value = plainFor(def, said);
    const problem = refuseValue(def, value);
    return problem ? { problem } : { value };
  }
  if (said === null) return { value: null };
  const clock = asClock(said);
  if (!clock) return { problem: `${def.label} is a clock, and "${said}" is none` };
  const value = stoppedClock(clock.ms, def.direction, 0);
  const problem = refuseValue(def, value);
  return problem ? { problem } : { value };
}

/** What a conversion makes of a reading, which is the one thing that it knows: as an input, and by name in a formula. */
function converted(as: Work, reading: Scalar): Scalar {
  const read = (key: string) => (key === 'reading' ? reading : null);
  const made = as({ field: read, input: read });
  return isClock(made) ? null : made;
}

/** A clock's time out of what was said: a number is seconds, a text is read as a clock is written; else none. */
function asClock(said: Scalar | ClockReading): ClockReading | null {
  if (isClockReading(said)) return said;
  if (typeof said === 'string') return parseClock(said);
  if (typeof said !== 'number' || !Number.isFinite(said) || said < 0) return null;
  return { ms: Math.floor(said * 10 + 1e-6) * 100, step: Number.isInteger(said) ? 1000 : 100 };
}

import { One, Strict } from '../document/check.ts';
import type { Parsed } from '../document/problems.ts';
import type { FieldValue } from '../board/values.ts';
import { Is, Key, Name, Num, OneOf, OrNull, Text, YesNo } from '../document/rules.ts';
import { readDocument } from '../document/upgrade.ts';
import { isBlank, truthOf, VALUE, type Value } from '../value/value.ts';

/** What a value must do for a trigger: become true, become larger, or become another. */
export const EDGES = ['true', 'rise', 'change'] as const;
export type Edge = (typeof EDGES)[number];

/** No trigger waits for longer, in s. */
export const LONGEST_WAIT = 600;

/** An item that is taken by itself when a value does something. */
@Strict
export class Trigger {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @Name() name!: string;
  /** Switched on. */
  @YesNo() on = true;
  @One(() => VALUE) when!: Value;
  @OneOf(...EDGES) edge: Edge = 'true';
  /** The item that is taken, in all of its zones. */
  @Text(1, 80) item!: string;
  /** How long after that, in s. */
  @Num(0, LONGEST_WAIT) wait = 0;
  /** It is switched off once it was taken. */
  @YesNo() once = false;
  /** It is taken only while this is true; null: always. */
  @OrNull() @One(() => VALUE) only: Value | null = null;
}

/** Reads a trigger. */
export const parseTrigger = (input: unknown): Parsed<Trigger> => readDocument(Trigger, [], input);

/** Whether a value that said one thing and says another now did what a trigger waits for. */
export function edgeIn(edge: Edge, before: FieldValue, now: FieldValue): boolean {
  if (edge === 'true') return truthOf(before) !== true && truthOf(now) === true;
  if (edge === 'rise') return typeof before === 'number' && typeof now === 'number' && now > before;
  return !isBlank(before) && !isBlank(now) && JSON.stringify(before) !== JSON.stringify(now);
}

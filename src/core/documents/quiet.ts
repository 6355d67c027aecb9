import { Strict, One } from '../document/check.ts';
import type { Parsed } from '../document/problems.ts';
import { Is, Key, OrNull, YesNo } from '../document/rules.ts';
import { readDocument } from '../document/upgrade.ts';
import { QUIET } from '../show/quiet.ts';
import { VALUE, type Value } from '../value/value.ts';

/** When nothing on the boards of the venue moves: switched on by hand, or while a rule holds. */
@Strict
export class Quiet {
  @Is(1) schema!: 1;
  @Key() key!: string;
  /** Switched on by hand. */
  @YesNo() on = false;
  /** It is quiet while this is true; null for no rule. */
  @OrNull() @One(() => VALUE) rule: Value | null = null;
}

/** Reads when it is quiet. */
export const parseQuiet = (input: unknown): Parsed<Quiet> =>
  readDocument(Quiet, [], input, ({ key }) => (key === QUIET ? [] : [`key: there is one, "${QUIET}"`]));

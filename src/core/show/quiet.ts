import { Strict, One } from '../document/check.ts';
import type { Parsed } from '../document/problems.ts';
import { Is, Key, OrNull, YesNo } from '../document/rules.ts';
import { readDocument } from '../document/upgrade.ts';
import { VALUE, type Value } from '../value/value.ts';
import type { Output, WhyQuiet } from './show.ts';

/** The one document that says when it is quiet. */
export const QUIET = 'quiet';

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

/** Never quiet, as long as nobody says otherwise. */
export const neverQuiet = (): Quiet => Object.assign(new Quiet(), { schema: 1 as const, key: QUIET });

/** What stands behind what was done where it was shortened: on which boards it changed without motion; blank where none was. */
export function shortened(
  quiet: WhyQuiet | null,
  outputs: ReadonlyMap<string, Pick<Output, 'name' | 'venue'>>,
  changed: Iterable<string>,
): string {
  if (quiet === null) return '';
  const names = [...new Set(changed)].flatMap((key) => {
    const output = outputs.get(key);
    return output?.venue ? [output.name] : [];
  });
  return names.length ? `, without motion on ${names.join(' and ')} (quiet)` : '';
}

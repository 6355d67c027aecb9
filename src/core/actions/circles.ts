import type { Derivations } from '../derive/derivations.ts';
import { editsOf, type Change } from './change.ts';
import { refuse } from './refuse.ts';

/** Refuses a change, whatever action makes it, after which something derived would depend on itself. */
export function refuseCircles(derivations: Pick<Derivations, 'refuse'>, change: Change): void {
  const edits = editsOf(change, 'derived');
  const others = new Map(edits.map((e) => [e.key, e.is?.derived ?? null]));
  for (const { is } of edits) {
    const refused = is && derivations.refuse(is.derived, others);
    if (refused) refuse(refused);
  }
}

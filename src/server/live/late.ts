import { Refusal } from '../../core/show/show.ts';

/** Refuses what whoever asked for it has given up by now: it must not happen behind their back. */
export function refuseLate(until: number | undefined, now: number): void {
  if (until !== undefined && now > until)
    throw new Refusal('It came too late, after its answer was given up, so nothing was changed.');
}

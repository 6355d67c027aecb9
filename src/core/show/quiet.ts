import type { Output, WhyQuiet } from './show.ts';

/** The one document that says when it is quiet. */
export const QUIET = 'quiet';

/** Never quiet, as long as nobody says otherwise. */
export const neverQuiet = () => ({ schema: 1 as const, key: QUIET, on: false, rule: null });

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

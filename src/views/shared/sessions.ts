/** What of a version says when and by whom it was saved. */
interface SavedAt {
  at: number;
  who: string;
  text: string;
  /** What stood before anything was saved here. */
  before?: boolean;
}

/** Saves of one person that follow each other within this time are one sitting, in ms. */
const SITTING = 5 * 60_000;

/**
 * The versions that people look for: what a sitting at a document ended with, and each that was given a name. `saves` says how many
 * there were in the sitting.
 * @param versions the newest first
 */
export function sittingsOf<V extends SavedAt>(versions: readonly V[]): (V & { saves: number })[] {
  const kept: (V & { saves: number })[] = [];
  let last: V | null = null;
  for (const version of versions) {
    const same = last !== null && last.who === version.who && last.at - version.at <= SITTING;
    if (same && !isNamed(version) && !version.before) kept.at(-1)!.saves++;
    else kept.push({ ...version, saves: 1 });
    last = version;
  }
  return kept;
}

/** True for a version that somebody gave a name. */
const isNamed = ({ text }: SavedAt): boolean => text.startsWith('Named ');

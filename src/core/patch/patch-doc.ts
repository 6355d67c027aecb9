import { Each, One } from '../document/check.ts';
import { readDocument } from '../document/upgrade.ts';
import { Is, Key, Maybe, Name, Whole } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';
import { VALUE, type Value } from '../value/value.ts';

export class PatchLink {
  /** The id of the reading; of a hand, the field's key. */
  @Name() reading!: string;
  @Key() field!: string;
  /** For a clock: the id of the reading that says whether it runs. Without one it is stopped at each reading. */
  @Maybe() @Name() running?: string;
  /** The conversion: a Value that finds the reading as its input `reading`. What feeds a clock gives seconds. */
  @Maybe() @One(() => VALUE) as?: Value;
  /** Its place among the sources that feed this field; 1, the default, comes first. */
  @Maybe() @Whole(1, 9) priority?: number;
}

/** Which reading feeds which field, with its conversion. */
export class PatchDoc {
  @Is(1) schema!: 1;
  @Key() key!: string;
  /** The source whose readings these are. */
  @Key() source!: string;
  @Each(() => PatchLink) links!: PatchLink[];
}

/** Reads a patch; refuses one that feeds a field twice. */
export function parsePatch(input: unknown): Parsed<PatchDoc> {
  return readDocument(PatchDoc, [], input, (doc) => {
    const seen = new Set<string>();
    return doc.links.flatMap(({ field }) => {
      const twice = seen.has(field);
      seen.add(field);
      return twice ? [`links: the field "${field}" is fed twice`] : [];
    });
  });
}

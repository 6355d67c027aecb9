import { suggestField } from '../../core/patch/suggest.ts';
import { readingName, readingsOf, type SourceBundle } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';

/** One reading of one source, and what it feeds. */
export interface ReadingLine {
  source: string;
  id: string;
  name: string;
  feeds: string[];
  /** It says whether a clock runs. */
  runs: boolean;
}

/** One source that feeds a field, in its place. */
export interface Feeder {
  source: string;
  sourceName: string;
  /** Its name. */
  reading: string;
  place: number;
  enabled: boolean;
}

export interface FieldLine {
  def: FieldDef;
  feeders: Feeder[];
  /** The templates that show it. */
  neededBy: string[];
  trouble: 'unfed' | 'conflict' | null;
}

/** The readings of each source and whether anything uses them. */
export function readingLines(bundle: SourceBundle): ReadingLine[] {
  const links = bundle.patch?.links ?? [];
  return readingsOf(bundle).map(({ id, name }) => ({
    source: bundle.source.key,
    id,
    name,
    feeds: links.filter((l) => l.reading === id).map((l) => l.field),
    runs: links.some((l) => l.running === id),
  }));
}

/**
 * The fields that a device or a hand may feed, with who does, who needs them (`neededFields`), and what is wrong.
 */
export function fieldLines(
  defs: readonly FieldDef[],
  bundles: readonly SourceBundle[],
  needed: ReadonlyMap<string, ReadonlySet<string>>,
): FieldLine[] {
  return defs
    .filter((d) => d.group !== 'game' && d.group !== 'derived')
    .map((def) => {
      const feeders = bundles
        .flatMap(({ source, patch, ...maps }) =>
          (patch?.links ?? [])
            .filter((l) => l.field === def.key)
            .map((l) => ({
              source: source.key,
              sourceName: source.name,
              reading: readingName(maps, l.reading),
              place: l.priority ?? 1,
              enabled: source.enabled,
            })),
        )
        .sort((a, b) => a.place - b.place);
      const inUse = feeders.filter((f) => f.enabled);
      const conflict = inUse.some((f, i) => inUse.findIndex((g) => g.place === f.place) !== i);
      const neededBy = [...(needed.get(def.key) ?? [])];
      // Names, colours and marks come from the game.
      const fromGame = def.kind === 'text' || def.kind === 'colour' || def.kind === 'picture';
      const unfed = inUse.length === 0 && neededBy.length > 0 && !fromGame;
      return { def, feeders, neededBy, trouble: conflict ? 'conflict' : unfed ? 'unfed' : null };
    });
}

/** What likeness of names proposes for the readings of a source that feed nothing, each field once. */
export function proposals(
  bundle: SourceBundle,
  defs: readonly FieldDef[],
): { reading: string; name: string; field: FieldDef }[] {
  const taken = new Set((bundle.patch?.links ?? []).map((l) => l.field));
  return readingLines(bundle).flatMap(({ id, name, feeds, runs }) => {
    const field = feeds.length || runs ? null : suggestField(name, defs, taken);
    if (!field) return [];
    taken.add(field.key);
    return [{ reading: id, name, field }];
  });
}

import type { FieldValue } from '../board/values.ts';
import type { PatchDoc, PatchLink } from '../patch/patch.ts';
import type { FieldDef } from '../sport/profile.ts';
import type { IntakeMemory } from '../tape/memory.ts';
import type { Value } from '../value/value.ts';

/** What of a sport belongs to a side. */
export interface Sides {
  /** Fields that change places: each with its other side's. */
  other: ReadonlyMap<string, string>;
  /** Fields that say which side it is: possession, say. */
  names: ReadonlySet<string>;
}

/**
 * What belongs to a side by the sport's profile: every field of the home group that the away group has too, of the same
 * kind, and every choice between home and away.
 */
export function sidesOf(fields: readonly FieldDef[]): Sides {
  const all = new Map(fields.map((f) => [f.key, f]));
  const other = new Map<string, string>();
  for (const home of fields) {
    const away = home.key.startsWith('home.') ? all.get(`away.${home.key.slice(5)}`) : undefined;
    if (home.group !== 'home' || away?.group !== 'away' || away.kind !== home.kind) continue;
    other.set(home.key, away.key);
    other.set(away.key, home.key);
  }
  const names = fields.filter(
    (f) => f.kind === 'choice' && f.choices.includes('home') && f.choices.includes('away'),
  );
  return { other, names: new Set(names.map((f) => f.key)) };
}

/** The field that a field's value goes to. */
export const placeOfField = ({ other }: Sides, key: string): string => other.get(key) ?? key;

/** The value that a field's value becomes. */
export function valueOfField({ names }: Sides, key: string, value: FieldValue): FieldValue {
  if (!names.has(key)) return value;
  return value === 'home' ? 'away' : value === 'away' ? 'home' : value;
}

/** All that is known of the sources and by them, with the sides exchanged. */
export function swapMemory(sides: Sides, memory: IntakeMemory): IntakeMemory {
  const at = (key: string) => placeOfField(sides, key);
  const moved = <T extends { key: string; value: FieldValue }>(said: T): T => ({
    ...said,
    key: at(said.key),
    value: valueOfField(sides, said.key, said.value),
  });
  const keyed = <T>(record: Record<string, T>): Record<string, T> =>
    Object.fromEntries(Object.entries(record).map(([key, value]) => [at(key), value]));
  return {
    board: { ...memory.board, fields: memory.board.fields.map(moved) },
    arbiter: {
      live: memory.arbiter.live,
      latest: memory.arbiter.latest.map(moved),
      holders: keyed(memory.arbiter.holders),
      lost: keyed(memory.arbiter.lost),
    },
    sources: Object.fromEntries(
      Object.entries(memory.sources).map(([key, source]) => [
        key,
        {
          ...source,
          clocks: source.clocks.map((c) => ({ ...c, field: at(c.field) })),
          words: source.words.map(at),
        },
      ]),
    ),
  };
}

/** A conversion that gives the other side's name. */
function otherName(of: Value): Value {
  const fixed = (name: string): Value => ({ fixed: name });
  return {
    choose: of,
    cases: [
      { is: ['home'], then: fixed('away') },
      { is: ['away'], then: fixed('home') },
    ],
    otherwise: of,
  };
}

const READING: Value = { input: 'reading' };
const sameValue = (a: Value, b: Value) => JSON.stringify(a) === JSON.stringify(b);

/** The link with the sides exchanged; twice is as it was. */
function swapLink(sides: Sides, link: PatchLink): PatchLink {
  const field = placeOfField(sides, link.field);
  if (!sides.names.has(field)) return { ...link, field };
  const { as, ...rest } = link;
  if (as && 'choose' in as && sameValue(as, otherName(as.choose)))
    return sameValue(as.choose, READING) ? { ...rest, field } : { ...rest, field, as: as.choose };
  return { ...rest, field, as: otherName(as ?? READING) };
}

/** A patch that feeds each side's fields with what fed the other's. */
export function swapPatch(sides: Sides, patch: PatchDoc): PatchDoc {
  return { ...patch, links: patch.links.map((link) => swapLink(sides, link)) };
}

/** True for a patch that feeds something of a side. */
export const feedsSides = ({ other, names }: Sides, patch: PatchDoc | null): boolean =>
  patch?.links.some(({ field }) => other.has(field) || names.has(field)) ?? false;

/** One thing that an exchange of sides changes, as it reads now: of the home side, of the away side or of neither. */
export interface SwapLine {
  label: string;
  home: FieldValue;
  away: FieldValue;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** What an exchange of sides changes on the board: each pair that differs, each name of a side. */
export function swapLines(
  fields: readonly FieldDef[],
  read: (key: string) => FieldValue,
): { pairs: SwapLine[]; names: { label: string; was: FieldValue; will: FieldValue }[] } {
  const sides = sidesOf(fields);
  const pairs = fields.flatMap((f): SwapLine[] => {
    const away = f.group === 'home' ? sides.other.get(f.key) : undefined;
    if (away === undefined) return [];
    const [now, then] = [read(f.key), read(away)];
    if (JSON.stringify(now) === JSON.stringify(then)) return [];
    return [{ label: capital(f.label.replace(/^Home /, '')), home: now, away: then }];
  });
  const names = fields.flatMap((f) => {
    const was = read(f.key);
    const will = valueOfField(sides, f.key, was);
    return was === will ? [] : [{ label: f.label, was, will }];
  });
  return { pairs, names };
}

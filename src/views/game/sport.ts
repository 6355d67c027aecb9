import { errorSentences, errorsOf } from '../shared/problems.ts';
import { own } from '../../core/board/own.ts';
import { COMMON_FIELDS } from '../../core/sport/common.ts';
import { parseProfile, type FieldDef, type SportProfile } from '../../core/sport/profile.ts';
import type { DeskSnapshot, TemplatesIn } from '../../core/wire/wire.ts';
import { neededFields } from '../patch/needed.ts';
import { fieldLines } from '../patch/overview.ts';
import { freshKey } from '../../core/text/keys.ts';

export type FieldKind = FieldDef['kind'];

/** The kinds of field that a sport can have of its own, as they are named on the page. */
export const FIELD_KINDS: Partial<Record<FieldKind, string>> = {
  integer: 'whole number',
  clock: 'clock',
  flag: 'yes or no',
  choice: 'choice',
  text: 'text',
  colour: 'colour',
  picture: 'picture',
};

/** The groups that it can stand in, with what its key begins with there. */
export const GROUPS: Partial<Record<FieldDef['group'], string>> = {
  clocks: 'clock',
  situation: 'situation',
  home: 'home',
  away: 'away',
  game: 'game',
};

/** The fields that are the sport's own: those of every game are not shown to be edited. */
export function ownFields(profile: SportProfile): FieldDef[] {
  const common = new Map(COMMON_FIELDS.map((f) => [f.key, JSON.stringify(f)]));
  return profile.fields.filter((f) => common.get(f.key) !== JSON.stringify(f));
}

/** The same field as another kind, with limits that make sense to begin with. */
export function fieldOfKind(kind: FieldKind, { key, label, group }: FieldDef): FieldDef {
  const base = { key, label, group };
  switch (kind) {
    case 'integer':
      return { ...base, kind, min: 0, max: 99 };
    case 'clock':
      return {
        ...base,
        kind,
        max: 20 * 60_000,
        direction: 'down',
        form: 'm:ss',
        tenthsBelow: 0,
        stops: 'whistle',
      };
    case 'choice':
      return { ...base, kind, choices: ['home', 'away'] };
    case 'text':
      return { ...base, kind, maxLength: 60 };
    default:
      return { ...base, kind };
  }
}

/** The key that a field with this name gets in its group, unlike those taken: Home hits is `home.hits`. */
function keyFor(label: string, group: FieldDef['group'], taken: readonly string[]): string {
  const start = `${own(GROUPS, group) ?? group}.`;
  const bare = label.replace(/^(home|away)\b\s*/i, '');
  return `${start}${freshKey(
    bare,
    taken.flatMap((k) => (k.startsWith(start) ? [k.slice(start.length)] : [])),
    'field',
  )}`;
}

/** A new field of its group: a clock among the clocks, else a whole number. */
export function newField(label: string, group: FieldDef['group'], taken: readonly string[]): FieldDef {
  const side = group === 'home' || group === 'away' ? `${group[0]!.toUpperCase()}${group.slice(1)} ` : '';
  const place = {
    key: keyFor(label, group, taken),
    label: side ? `${side}${label.toLowerCase()}` : label,
    group,
  };
  return fieldOfKind(group === 'clocks' ? 'clock' : 'integer', place as FieldDef);
}

/** The field under another name. The key of a new one follows it as long as it is the key that its name gave. */
export function renamed(
  field: FieldDef,
  label: string,
  keys: readonly string[],
  wasThere: boolean,
): FieldDef {
  const others = keys.filter((k) => k !== field.key);
  const follows = !wasThere && field.key === keyFor(field.label, field.group, others);
  return { ...field, label, ...(follows ? { key: keyFor(label, field.group, others) } : {}) };
}

const SIDES = { home: 'away', away: 'home' } as const;
const isSide = (group: string): group is keyof typeof SIDES => group in SIDES;

/** A name as a field of a side has it: `Left` and `Away left` are `Home left` for the home side. */
export function namedForSide(label: string, side: keyof typeof SIDES): string {
  const bare = label.replace(/^(home|away)\b\s*/i, '');
  const word = `${side[0]!.toUpperCase()}${side.slice(1)}`;
  return bare === ''
    ? word
    : `${word} ${/^\p{Lu}\p{Ll}/u.test(bare) ? bare[0]!.toLowerCase() + bare.slice(1) : bare}`;
}

/** The same field of the other side, of a pair that was made together and is still called alike; undefined for none. */
export function partnerOf(
  field: FieldDef,
  fields: readonly FieldDef[],
  isNew: (key: string) => boolean,
): FieldDef | undefined {
  if (!isSide(field.group) || !isNew(field.key)) return undefined;
  const other = SIDES[field.group];
  const key = field.key.replace(/^(home|away)\./, `${other}.`);
  const label = namedForSide(field.label, other);
  return fields.find((f) => f.group === other && f.key === key && isNew(key) && f.label === label);
}

/** The fields with one under another name; the other side's of a new pair is called alike, so that both are named at once. */
export function withRenamed(
  fields: readonly FieldDef[],
  field: FieldDef,
  label: string,
  { keys, isNew }: { keys: readonly string[]; isNew: (key: string) => boolean },
): FieldDef[] {
  const partner = partnerOf(field, fields, isNew);
  return fields.map((f) => {
    if (f === field) return renamed(field, label, keys, !isNew(field.key));
    if (f !== partner) return f;
    return renamed(f, namedForSide(label, f.group as keyof typeof SIDES), keys, false);
  });
}

/** What keeps a profile from being saved, in sentences that name the field. */
export function problemsOf(profile: SportProfile): string[] {
  const read = parseProfile(profile);
  if (read.ok) return [];
  return read.problems.map((text) => {
    const at = /^fields\.(\d+)\.?([a-z]*)[^:]*: (.*)$/s.exec(text);
    const field = at && profile.fields[Number(at[1])];
    return field
      ? `${field.label || field.key || 'A field without a name'}: ${at[2] ? `${at[2]}, ` : ''}${at[3]}`
      : errorSentences(errorsOf([text])).join();
  });
}

/** What loses a field with this change: each that goes, with the sources that feed it and the templates that show it. */
export function losses(
  was: SportProfile,
  next: SportProfile,
  { bundles, documents }: Pick<DeskSnapshot, 'bundles'> & TemplatesIn,
): string[] {
  const kept = new Set(next.fields.map((f) => f.key));
  const gone = was.fields.filter((f) => !kept.has(f.key));
  return fieldLines(gone, bundles, neededFields(documents.template)).map(({ def, feeders, neededBy }) => {
    const users = [
      ...feeders.map((f) => `fed by ${f.sourceName}`),
      ...neededBy.map((t) => `shown by the template ${t}`),
    ];
    return users.length ? `${def.label} (${users.join(', ')})` : def.label;
  });
}

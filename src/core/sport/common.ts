import type { FieldDef } from './field.ts';

type Base = { label: string; kind: 'text' | 'colour' | 'picture' };
const TEAM: Record<string, Base> = {
  name: { label: 'name', kind: 'text' },
  short: { label: 'short name', kind: 'text' },
  abbr: { label: 'abbreviation', kind: 'text' },
  nickname: { label: 'nickname', kind: 'text' },
  colour: { label: 'colour', kind: 'colour' },
  second: { label: 'second colour', kind: 'colour' },
  mark: { label: 'mark', kind: 'picture' },
};
const GAME: Record<string, string> = {
  competition: 'Competition',
  venue: 'Venue',
  date: 'Date',
  sport: 'Sport of the game',
};

const defOf = (key: string, label: string, group: FieldDef['group'], kind: Base['kind']): FieldDef =>
  kind === 'text' ? { key, label, group, kind, maxLength: 120 } : { key, label, group, kind };

/** The fields that every game has, whatever the sport: the teams' names, colours and marks, competition, venue, date, which sport. */
export const COMMON_FIELDS: readonly FieldDef[] = [
  ...(['home', 'away'] as const).flatMap((side) =>
    Object.entries(TEAM).map(([part, { label, kind }]) =>
      defOf(`${side}.${part}`, `${side === 'home' ? 'Home' : 'Away'} ${label}`, side, kind),
    ),
  ),
  ...Object.entries(GAME).map(([part, label]) => defOf(`game.${part}`, label, 'game', 'text')),
];

/** A profile's own fields, and those of every game that it does not declare itself. */
export function withCommon(fields: readonly FieldDef[]): FieldDef[] {
  const own = new Set(fields.map((f) => f.key));
  return [...fields, ...COMMON_FIELDS.filter((f) => !own.has(f.key))];
}

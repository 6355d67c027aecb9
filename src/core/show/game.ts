import * as v from 'valibot';
import type { Change } from '../board/board.ts';
import type { NewTable, Row } from '../board/tables.ts';
import { keySchema, nameSchema, parseDocument, type Parsed } from '../document/problems.ts';

const short = v.pipe(v.string(), v.maxLength(80));
const path = v.pipe(v.string(), v.maxLength(300));
const colour = v.pipe(v.string(), v.regex(/^#[0-9a-f]{6}$/i, 'a colour is written #rrggbb'));

const player = v.object({
  /** As it is worn: 7 and 07 are two numbers. */
  number: v.pipe(v.string(), v.regex(/^\d{0,3}$/, 'a number has three digits at most')),
  first: v.optional(short, ''),
  last: v.optional(short, ''),
  position: v.optional(short, ''),
  /** Class or role: rookie, captain, senior. */
  class: v.optional(short, ''),
  headshot: v.optional(path, ''),
});
const person = v.object({ name: nameSchema, role: v.optional(short, '') });
const kit = v.object({ name: nameSchema, colour, second: v.optional(colour) });

const team = v.object({
  name: nameSchema,
  short: nameSchema,
  abbr: v.pipe(v.string(), v.minLength(1), v.maxLength(5)),
  nickname: v.optional(short, ''),
  colour,
  second: v.optional(colour, '#ffffff'),
  /** The alternate kit's colours, and whether it is worn. */
  alternate: v.optional(v.nullable(kit), null),
  wearsAlternate: v.optional(v.boolean(), false),
  mark: path,
  players: v.optional(v.pipe(v.array(player), v.maxLength(200)), []),
  staff: v.optional(v.pipe(v.array(person), v.maxLength(60)), []),
});

const gameSchema = v.object({
  schema: v.literal(1),
  key: keySchema,
  competition: nameSchema,
  venue: nameSchema,
  /** ISO 8601, such as 2026-11-28; blank where it is not known. */
  date: v.optional(v.pipe(v.string(), v.regex(/^(\d{4}-\d\d-\d\d)?$/, 'a date is written 2026-11-28')), ''),
  profile: keySchema,
  home: team,
  away: team,
  officials: v.optional(v.pipe(v.array(person), v.maxLength(30)), []),
  commentators: v.optional(
    v.pipe(v.array(v.object({ name: nameSchema, handle: v.optional(short, '') })), v.maxLength(20)),
    [],
  ),
});

/** The game being played: who, where, when, under which sport profile. */
export type Game = v.InferOutput<typeof gameSchema>;
export type Team = Game['home'];
export type Player = Team['players'][number];
export type Side = 'home' | 'away';
const SIDES: readonly Side[] = ['home', 'away'];

/** Reads a game document; refuses a team with one number twice. */
export function parseGame(input: unknown): Parsed<Game> {
  return parseDocument(gameSchema, input, (game) =>
    SIDES.flatMap((side) => {
      const numbers = game[side].players.map((p) => p.number).filter((n) => n !== '');
      return numbers
        .filter((n, i) => numbers.indexOf(n) !== i)
        .map((n) => `${side}.players: the number ${n} is there twice`);
    }),
  );
}

/** A game with home and away exchanged: teams with all that belongs to them. */
export function swapSides(game: Game): Game {
  return { ...game, home: game.away, away: game.home };
}

/** What the game says of the board's fields, with origin `game`: names, colours, marks, venue and date. */
export function gameChanges(game: Game): Change[] {
  const sides = SIDES.flatMap((side) => {
    const { alternate, wearsAlternate, ...t } = game[side];
    const worn = wearsAlternate && alternate ? alternate : t;
    const said = {
      name: t.name,
      short: t.short,
      abbr: t.abbr,
      nickname: t.nickname,
      mark: t.mark,
      colour: worn.colour,
      second: worn.second ?? t.second,
    };
    return Object.entries(said).map(([part, value]) => ({ key: `${side}.${part}`, value, origin: 'game' }));
  });
  const { competition, venue, date } = game;
  const whole = Object.entries({ competition, venue, date }).map(([part, value]) => ({
    key: `game.${part}`,
    value,
    origin: 'game',
  }));
  return [...sides, ...whole];
}

/** The game's people as tables of the board: players of each side by number, staff, officials, commentators. */
export function gameTables(game: Game): NewTable[] {
  const rowsOf = (people: readonly Row[], key: string): [string, Row][] => {
    const rows = new Map<string, Row>();
    people.forEach((p, i) => {
      const wanted = String(p[key] ?? '') || `row ${i + 1}`;
      if (!rows.has(wanted)) rows.set(wanted, p);
    });
    return [...rows];
  };
  const players = (side: Side): NewTable => ({
    key: `${side}.players`,
    name: `${side === 'home' ? 'Home' : 'Away'} players`,
    columns: ['number', 'first', 'last', 'name', 'position', 'class', 'headshot'],
    rows: rowsOf(
      game[side].players.map((p) => ({ ...p, name: `${p.first} ${p.last}`.trim() })),
      'number',
    ),
  });
  const people = (key: string, name: string, list: readonly Row[], second: string): NewTable => ({
    key,
    name,
    columns: ['name', second],
    rows: rowsOf(list, 'name'),
  });
  return [
    players('home'),
    players('away'),
    people('home.staff', 'Home staff', game.home.staff, 'role'),
    people('away.staff', 'Away staff', game.away.staff, 'role'),
    people('officials', 'Officials', game.officials, 'role'),
    people('commentators', 'Commentators', game.commentators, 'handle'),
  ];
}

import type { Change } from '../board/board.ts';
import type { NewTable, Row } from '../board/tables.ts';
import type { Game } from './game-doc.ts';

export type { Game, Player, Team } from './game-doc.ts';
export type Side = 'home' | 'away';
const SIDES: readonly Side[] = ['home', 'away'];

/** A game with home and away exchanged: teams with all that belongs to them. */
export function swapSides(game: Game): Game {
  return { ...game, home: game.away, away: game.home };
}

/** What the game says of the board's fields, with origin `game`: names, colours, marks, venue, date and sport. */
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
  const { competition, venue, date, profile: sport } = game;
  const whole = Object.entries({ competition, venue, date, sport }).map(([part, value]) => ({
    key: `game.${part}`,
    value,
    origin: 'game',
  }));
  return [...sides, ...whole];
}

/** The new number of each player who has another since, for the table of each side: by the number before. */
export function renumbered(was: Game, is: Game): Map<string, Map<string, string>> {
  const changed = (side: Side) => {
    // Another team has other players, though their ids be the same.
    if (was[side].name !== is[side].name) return [];
    const before = new Map(was[side].players.map((p) => [p.id, p.number]));
    return is[side].players.flatMap(({ id, number }): [string, string][] => {
      const old = before.get(id);
      return old && number !== '' && old !== number ? [[old, number]] : [];
    });
  };
  return new Map(SIDES.map((side) => [playersOf(side), new Map(changed(side))]));
}

/** The key of the table of a side's players. */
const playersOf = (side: Side) => `${side}.players`;

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
    key: playersOf(side),
    name: `${side === 'home' ? 'Home' : 'Away'} players`,
    columns: ['number', 'first', 'last', 'name', 'position', 'class', 'headshot'],
    rows: rowsOf(
      game[side].players.map(({ id: _, ...p }) => ({ ...p, name: `${p.first} ${p.last}`.trim() })),
      'number',
    ),
  });
  const people = (
    key: string,
    name: string,
    list: Game['officials'] | Game['commentators'],
    second: string,
  ): NewTable => ({
    key,
    name,
    columns: ['name', second],
    rows: rowsOf(
      list.map((person) => ({ ...person })),
      'name',
    ),
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

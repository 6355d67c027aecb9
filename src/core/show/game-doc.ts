import { unlike } from '../text/words.ts';
import { AsWritten, Each, One } from '../document/check.ts';
import { isRecord } from '../board/own.ts';
import { readDocument } from '../document/upgrade.ts';
import { Colour, Count, Form, Is, Key, Maybe, Name, OrNull, Text, YesNo } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';

export class Player {
  /** What a player is known by, whatever number or name; one who has none gets it when the game is read. */
  @Maybe() @Name() id?: string;
  /** As it is worn: 7 and 07 are two numbers. */
  @Form(/^\d{0,3}$/, 'a number has three digits at most') number!: string;
  @Text(0, 80) first = '';
  @Text(0, 80) last = '';
  @Text(0, 80) position = '';
  /** Class or role: rookie, captain, senior. */
  @Text(0, 80) class = '';
  @Text(0, 300) headshot = '';
}
/** Players with an id each: the number that they have when they are first seen, or their place. */
function known(players: readonly unknown[]): unknown[] {
  const idOf = (p: unknown) => (isRecord(p) && typeof p['id'] === 'string' ? p['id'] : undefined);
  const taken = new Set(players.map(idOf));
  return players.map((player, i) => {
    if (!isRecord(player) || idOf(player) !== undefined) return player;
    const { number } = player;
    const first = typeof number === 'string' && number !== '' ? number : `row ${i + 1}`;
    const id = unlike(
      first,
      (free) => taken.has(free),
      (n) => `${first} (${n})`,
    );
    taken.add(id);
    return { ...player, id };
  });
}

class Person {
  @Name() name!: string;
  @Text(0, 80) role = '';
}
class Commentator {
  @Name() name!: string;
  @Text(0, 80) handle = '';
}
class Kit {
  @Name() name!: string;
  @Colour() colour!: string;
  @Maybe() @Colour() second?: string;
}

@AsWritten((plain) =>
  Array.isArray(plain['players']) ? { ...plain, players: known(plain['players']) } : plain,
)
export class Team {
  @Name() name!: string;
  @Name() short!: string;
  @Text(1, 5) abbr!: string;
  @Text(0, 80) nickname = '';
  @Colour() colour!: string;
  @Colour() second = '#ffffff';
  /** The alternate kit's colours, and whether it is worn. */
  @OrNull() @One(() => Kit) alternate: Kit | null = null;
  @YesNo() wearsAlternate = false;
  @Text(0, 300) mark!: string;
  @Count(0, 200) @Each(() => Player) players: Player[] = [];
  @Count(0, 60) @Each(() => Person) staff: Person[] = [];
}

/** The game being played: who, where, when, under which sport profile. */
export class Game {
  @Is(1) schema!: 1;
  @Key() key!: string;
  @Name() competition!: string;
  @Name() venue!: string;
  /** ISO 8601, such as 2026-11-28; blank where it is not known. */
  @Form(/^(\d{4}-\d\d-\d\d)?$/, 'a date is written 2026-11-28') date = '';
  @Key() profile!: string;
  @One(() => Team) home!: Team;
  @One(() => Team) away!: Team;
  @Count(0, 30) @Each(() => Person) officials: Person[] = [];
  @Count(0, 20) @Each(() => Commentator) commentators: Commentator[] = [];
}

/** Reads a game document; refuses a team with one number or one id twice. */
export function parseGame(input: unknown): Parsed<Game> {
  return readDocument(Game, [], input, (game) =>
    (['home', 'away'] as const).flatMap((side) => {
      const twice = (all: readonly string[]) => all.filter((n, i) => n !== '' && all.indexOf(n) !== i);
      const { players } = game[side];
      return [
        ...twice(players.map((p) => p.number)).map((n) => `${side}.players: the number ${n} is there twice`),
        ...twice(players.map((p) => p.id!)).map((id) => `${side}.players: two have the id "${id}"`),
      ];
    }),
  );
}

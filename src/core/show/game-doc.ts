import { Each, One } from '../document/check.ts';
import { readDocument } from '../document/upgrade.ts';
import { Count, Form, Is, Key, Maybe, Name, OrNull, Text, YesNo } from '../document/rules.ts';
import type { Parsed } from '../document/problems.ts';

const Colour = () => Form(/^#[0-9a-f]{6}$/i, 'a colour is written #rrggbb');

export class Player {
  /** As it is worn: 7 and 07 are two numbers. */
  @Form(/^\d{0,3}$/, 'a number has three digits at most') number!: string;
  @Text(0, 80) first = '';
  @Text(0, 80) last = '';
  @Text(0, 80) position = '';
  /** Class or role: rookie, captain, senior. */
  @Text(0, 80) class = '';
  @Text(0, 300) headshot = '';
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

/** Reads a game document; refuses a team with one number twice. */
export function parseGame(input: unknown): Parsed<Game> {
  return readDocument(Game, [], input, (game) =>
    (['home', 'away'] as const).flatMap((side) => {
      const numbers = game[side].players.map((p) => p.number).filter((n) => n !== '');
      return numbers
        .filter((n, i) => numbers.indexOf(n) !== i)
        .map((n) => `${side}.players: the number ${n} is there twice`);
    }),
  );
}

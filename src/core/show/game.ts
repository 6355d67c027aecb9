import * as v from 'valibot';
import type { Change } from '../board/board.ts';
import { keySchema, nameSchema, parseDocument, type Parsed } from '../document/problems.ts';

const team = v.object({
  name: nameSchema,
  short: nameSchema,
  abbr: v.pipe(v.string(), v.minLength(1), v.maxLength(5)),
  colour: v.string(),
  mark: v.string(),
});

const gameSchema = v.object({
  schema: v.literal(1),
  key: keySchema,
  competition: nameSchema,
  venue: nameSchema,
  profile: keySchema,
  home: team,
  away: team,
});

/** The game being played: who, where, under which sport profile. */
export type Game = v.InferOutput<typeof gameSchema>;

/** Reads a game document. */
export function parseGame(input: unknown): Parsed<Game> {
  return parseDocument(gameSchema, input);
}

/** What the game says of the board's fields: the teams' names, colours and marks, with origin `game`. */
export function gameChanges(game: Game): Change[] {
  return (['home', 'away'] as const).flatMap((side) =>
    (['name', 'short', 'abbr', 'colour', 'mark'] as const).map((part) => ({
      key: `${side}.${part}`,
      value: game[side][part],
      origin: 'game',
    })),
  );
}

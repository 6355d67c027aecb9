import { describe, expect, it } from 'vitest';
import { parseGame } from './game-doc.ts';
import { gameChanges, gameTables, renumbered, swapSides, type Game } from './game.ts';
import { game } from '../../../tests/support/prepared.ts';

describe('the game', () => {
  it('says the same of exchanged sides, crosswise', () => {
    const said = (g: Game) => Object.fromEntries(gameChanges(g).map((c) => [c.key, 'value' in c && c.value]));
    const [a, b] = [said(game), said(swapSides(game))];
    expect(b['home.name']).toBe(a['away.name']);
    expect(b['away.colour']).toBe(a['home.colour']);
    expect(b['game.venue']).toBe(a['game.venue']);
    const rows = (g: Game, key: string) => gameTables(g).find((t) => t.key === key)!.rows;
    expect(rows(swapSides(game), 'home.players')).toEqual(rows(game, 'away.players'));
  });
  it('wears the alternate kit when it is worn', () => {
    const alternate = { name: 'White', colour: '#eeeeee', second: '#111111' };
    const worn = { ...game, home: { ...game.home, alternate, wearsAlternate: true } };
    const said = gameChanges(worn).find((c) => c.key === 'home.colour');
    expect(said).toMatchObject({ value: '#eeeeee' });
  });
  it('knows a player by an id that outlives the number', () => {
    const [first, second] = game.home.players;
    const players = [{ ...first!, number: '88' }, second!, { ...second!, id: undefined, number: '89' }];
    const before = { ...first!, id: undefined };
    const read = (list: object[]) => {
      const parsed = parseGame({ ...game, home: { ...game.home, players: list } });
      if (!parsed.ok) throw new Error(parsed.problems.join());
      return parsed.value;
    };
    const ids = (g: Game) => g.home.players.map((p) => p.id);
    expect(ids(read([before, { ...before, number: '' }]))).toEqual([first!.number, 'row 2']);
    // One who has the number that another began with is somebody else.
    const later = read([...players, { ...second!, id: undefined, number: first!.number }]);
    expect(ids(later)).toEqual([first!.id, second!.id, '89', `${first!.number} (2)`]);
    expect(renumbered(game, later).get('home.players')).toEqual(new Map([[first!.number, '88']]));
    expect(renumbered(game, swapSides(later)).get('home.players')).toEqual(new Map());
  });
  it.each([
    [{ home: { ...game.home, players: [{ number: '7' }, { number: '7' }] } }, 'the number 7 is there twice'],
    [{ home: { ...game.home, players: [{ number: 'seven' }] } }, 'three digits'],
    [
      {
        home: {
          ...game.home,
          players: [
            { id: 'a', number: '1' },
            { id: 'a', number: '2' },
          ],
        },
      },
      'home.players: two have the id "a"',
    ],
    [{ date: 'Saturday' }, 'a date is written'],
    [{ away: { ...game.away, colour: 'teal' } }, '#rrggbb'],
  ])('refuses %#', (part, problem) => {
    const result = parseGame({ ...game, ...part });
    expect(result.ok || result.problems.join()).toContain(problem);
  });
});

import { describe, expect, it } from 'vitest';
import { parseGame } from './game-doc.ts';
import { gameChanges, gameTables, swapSides, type Game } from './game.ts';
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
  it.each([
    [{ home: { ...game.home, players: [{ number: '7' }, { number: '7' }] } }, 'the number 7 is there twice'],
    [{ home: { ...game.home, players: [{ number: 'seven' }] } }, 'three digits'],
    [{ date: 'Saturday' }, 'a date is written'],
    [{ away: { ...game.away, colour: 'teal' } }, '#rrggbb'],
  ])('refuses %#', (part, problem) => {
    const result = parseGame({ ...game, ...part });
    expect(result.ok || result.problems.join()).toContain(problem);
  });
});

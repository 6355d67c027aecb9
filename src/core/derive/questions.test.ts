import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { Board } from '../board/board.ts';
import type { Row } from '../board/tables.ts';
import type { Change } from '../board/board.ts';
import { parseProfile } from '../sport/profile.ts';
import { Derivations } from './derivations.ts';
import { readAs } from '../document/check.ts';
import { must } from '../document/problems.ts';
import { DERIVED } from './derived.ts';

const read = parseProfile(
  JSON.parse(readFileSync(new URL('../../../data/basic/profile/baseball.json', import.meta.url), 'utf8')),
);
if (!read.ok) throw new Error(read.problems.join());
const profile = read.value;

/** A baseball board with what the sport derives, tables as they come in, and what is made of them. */
function setUp(tables: Record<string, [string, Row][]>, made: object[]) {
  const board = new Board(profile.fields);
  const all = new Derivations(board);
  for (const derived of profile.derived) all.put(derived, 0);
  const rows = (key: string, list: [string, Row][]) =>
    all.react(
      board.tables.put({ key, name: key, columns: Object.keys(list[0]?.[1] ?? {}), rows: list }, 'stats', 0),
      0,
    );
  for (const [key, list] of Object.entries(tables)) rows(key, list);
  for (const derived of made) {
    const doc = must(readAs(DERIVED, derived));
    expect(all.refuse(doc)).toBeNull();
    all.put(doc, 0);
  }
  const say = (values: Record<string, string | number>) => {
    const changes = Object.entries(values).map(([key, value]): Change => ({ key, value, origin: 'stats' }));
    const applied = board.apply(changes, 0);
    expect(applied.refused).toEqual([]);
    all.react(applied.changed, 0);
  };
  const cells = (table: string, ...columns: string[]) =>
    [...(board.tables.get(table)?.rows.values() ?? [])].map((r) => columns.map((c) => r[c]));
  return { board, all, rows, say, cells };
}

describe('what a broadcast asks of its data', () => {
  it('who is due next for the side that does not bat, whichever side that is', () => {
    const order = (side: string) =>
      Array.from({ length: 9 }, (_, i): [string, Row] => [
        `${side} ${i + 1}`,
        { side, place: i + 1, name: `${side} batter ${i + 1}`, average: `.${310 - i}` },
      ]);
    const { board, say, cells } = setUp(
      {
        lineup: [...order('home'), ...order('away')],
        // Where each order stands: the batter who came last.
        last: [
          ['home', { place: 8 }],
          ['away', { place: 2 }],
        ],
      },
      [
        {
          what: 'table',
          key: 'due',
          name: 'Due next for the side in the field',
          from: ['lineup'],
          where: 'side == derived.fielding',
          compute: [
            {
              name: 'last',
              value: { lookup: { table: 'last', key: { field: 'side' }, column: 'place' } },
            },
            { name: 'turn', formula: '(place - last + 8) % 9' },
          ],
          sort: [{ by: 'turn' }],
          limit: 3,
        },
        { what: 'pick', key: 'due.next', name: 'Due next', table: 'due', how: { by: 'rank', rank: 1 } },
      ],
    );
    say({ 'situation.inning': 7, 'situation.half': 'top' });
    expect(cells('due', 'name', 'average')).toEqual([
      ['home batter 9', '.302'],
      ['home batter 1', '.310'],
      ['home batter 2', '.309'],
    ]);
    expect(board.read('due.next')).toBe('home 9');
    say({ 'situation.half': 'bottom' });
    expect(cells('due', 'name')).toEqual([['away batter 3'], ['away batter 4'], ['away batter 5']]);
    expect(board.read('due.next')).toBe('away 3');
  });

  it('the last five results of each side, newest first, with a word for each', () => {
    const results = Array.from({ length: 8 }, (_, i): [string, Row] => [
      `g${i}`,
      { date: `2026-0${i + 1}-14`, ours: i, theirs: 3, against: `Club ${i}` },
    ]);
    const { cells, rows } = setUp({ results }, [
      {
        what: 'table',
        key: 'form',
        name: 'Last five',
        from: ['results'],
        compute: [
          {
            name: 'word',
            value: {
              choose: { formula: 'ours - theirs' },
              cases: [
                { min: 1, then: { fixed: 'W' } },
                { is: [0], then: { fixed: 'D' } },
              ],
              otherwise: { fixed: 'L' },
            },
          },
          {
            name: 'line',
            value: {
              pieces: [
                { field: 'word' },
                { fixed: ' ' },
                { field: 'ours' },
                { fixed: '–' },
                { field: 'theirs' },
                { fixed: ' v ' },
                { field: 'against' },
              ],
            },
          },
        ],
        sort: [{ by: 'date', descending: true }],
        limit: 5,
      },
    ]);
    expect(cells('form', 'word').flat().join('')).toBe('WWWWD');
    expect(cells('form', 'line')[4]).toEqual(['D 3–3 v Club 3']);
    rows('results', [...results, ['g8', { date: '2026-09-14', ours: 0, theirs: 3, against: 'Club 8' }]]);
    expect(cells('form', 'word').flat().join('')).toBe('LWWWW');
  });

  it('two teams beside each other, of the players’ lines, and the lead in words', () => {
    const players = [
      ['home', 2, 7],
      ['home', 1, 3],
      ['away', 3, 12],
    ].map(([side, goals, shots], i): [string, Row] => [
      `p${i}`,
      { side: side!, goals: goals!, shots: shots! },
    ]);
    const cell = (side: string, column: string, format?: object) => ({
      lookup: { table: 'teams', key: { fixed: side }, column },
      ...format,
    });
    const { board, cells } = setUp({ players }, [
      {
        what: 'table',
        key: 'teams',
        name: 'Teams',
        from: ['players'],
        group: {
          by: ['side'],
          totals: [
            { name: 'goals', of: 'goals', how: 'sum' },
            { name: 'shots', of: 'shots', how: 'sum' },
            { name: 'scorers', of: 'goals', how: 'count' },
          ],
        },
      },
      {
        what: 'field',
        key: 'compare.shots',
        name: 'Shots compared',
        value: { pieces: [cell('home', 'shots'), { fixed: ' shots ' }, cell('away', 'shots')] },
      },
    ]);
    expect(cells('teams', 'side', 'goals', 'shots', 'scorers')).toEqual([
      ['home', 3, 10, 2],
      ['away', 3, 12, 1],
    ]);
    expect(board.read('compare.shots')).toBe('10 shots 12');
  });
});

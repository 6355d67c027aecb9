import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Board } from '../board/board.ts';
import { orderToken, rowToken, type Row } from '../board/tables.ts';
import type { Scalar } from '../board/values.ts';
import { Derivations } from './derivations.ts';
import { readAs } from '../document/check.ts';
import { must } from '../document/problems.ts';
import { DERIVED, parseDerived, type Derived } from './derived.ts';
import { compareScalars, TableMaker } from './table.ts';

const derived = (input: unknown): Derived => must(readAs(DERIVED, input));
const players: [string, Row][] = [
  ['h7', { side: 'home', name: 'Orrell', goals: 3, shots: 9, average: '.333' }],
  ['h9', { side: 'home', name: 'Keel', goals: 5, shots: 10, average: '.500' }],
  ['a3', { side: 'away', name: 'Bram', goals: 3, shots: 4, average: '.750' }],
  ['a8', { side: 'away', name: 'Ivo', goals: 0, shots: 2, average: '.000' }],
];
const COLUMNS = ['side', 'name', 'goals', 'shots', 'average'];

function setUp(rows = players) {
  const board = new Board([
    { key: 'home.score', label: 'Home', kind: 'integer', group: 'home', min: 0, max: 99 },
    { key: 'away.score', label: 'Away', kind: 'integer', group: 'away', min: 0, max: 99 },
  ]);
  const all = new Derivations(board);
  const putRows = (next: [string, Row][], now = 1) =>
    all.react(
      board.tables.put({ key: 'players', name: 'Players', columns: COLUMNS, rows: next }, 's', now),
      now,
    );
  putRows(rows);
  return { board, all, putRows };
}

const leaders = derived({
  what: 'table',
  key: 'leaders',
  name: 'Leaders',
  from: ['players'],
  where: 'goals > 0',
  compute: [{ name: 'share', formula: 'goals / shots' }],
  sort: [{ by: 'goals', descending: true }],
  rank: { name: 'rank', ties: 'shared' },
});
const said = (board: Board, table: string, column: string) =>
  [...(board.tables.get(table)?.rows.values() ?? [])].map((r) => r[column]);

describe('derived tables', () => {
  it.each([
    ['shared', [1, 2, 2]],
    ['dense', [1, 2, 2]],
    ['order', [1, 2, 3]],
  ])('ranks ties %s', (ties, ranks) => {
    const { board, all } = setUp();
    all.put(derived({ ...leaders, rank: { name: 'rank', ties } }), 1);
    expect(said(board, 'leaders', 'name')).toEqual(['Keel', 'Orrell', 'Bram']);
    expect(said(board, 'leaders', 'rank')).toEqual(ranks);
    expect(said(board, 'leaders', 'share')).toEqual([0.5, 3 / 9, 0.75]);
  });

  it('leaves ranks out after shared ones, and not after dense ones', () => {
    const four: [string, Row][] = [4, 4, 2].map((goals, i) => [String(i), { goals }]);
    const ranks = (ties: string) => {
      const { board, all } = setUp(four);
      all.put(derived({ ...leaders, compute: [], rank: { name: 'rank', ties } }), 1);
      return said(board, 'leaders', 'rank');
    };
    expect(ranks('shared')).toEqual([1, 1, 3]);
    expect(ranks('dense')).toEqual([1, 1, 2]);
  });

  it('groups with totals, joins by key, puts several tables one after another, limits', () => {
    const { board, all } = setUp();
    board.tables.put(
      { key: 'clubs', name: 'Clubs', columns: ['town'], rows: [['home', { town: 'Thornmere' }]] },
      's',
      1,
    );
    all.put(
      derived({
        what: 'table',
        key: 'teams',
        name: 'Teams',
        from: ['players'],
        group: {
          by: ['side'],
          totals: [
            { name: 'goals', of: 'goals', how: 'sum' },
            { name: 'best', of: 'goals', how: 'most' },
            { name: 'mean', of: 'goals', how: 'average' },
            { name: 'men', of: 'name', how: 'count' },
          ],
        },
        sort: [{ by: 'goals', descending: true }],
      }),
      1,
    );
    all.put(
      derived({
        what: 'table',
        key: 'towns',
        name: 'Towns',
        from: ['teams'],
        join: [{ table: 'clubs', by: 'side' }],
        limit: 1,
      }),
      1,
    );
    expect([...board.tables.get('teams')!.rows]).toEqual([
      ['home', { side: 'home', goals: 8, best: 5, mean: 4, men: 2 }],
      ['away', { side: 'away', goals: 3, best: 3, mean: 1.5, men: 2 }],
    ]);
    expect([...board.tables.get('towns')!.rows.values()]).toEqual([
      { side: 'home', goals: 8, best: 5, mean: 4, men: 2, town: 'Thornmere' },
    ]);
    all.put(derived({ what: 'table', key: 'twice', name: 'Twice', from: ['players', 'players'] }), 1);
    expect(board.tables.get('twice')!.rows.size).toBe(8);
  });

  it('reads fields of the board in formulas, and works only on rows that changed', () => {
    const rows: [string, Row][] = Array.from({ length: 500 }, (_, i) => [
      String(i),
      { goals: i % 50, shots: 60 },
    ]);
    const maker = new TableMaker(
      derived({ ...leaders, where: 'goals > home.score', limit: 5 }) as Extract<Derived, { what: 'table' }>,
    );
    const { board } = setUp(rows);
    const from = {
      table: (k: string) => board.tables.get(k),
      row: () => undefined,
      ranked: () => undefined,
      keyAt: () => undefined,
      read: (f: string) => board.read(f),
    };
    maker.make(from);
    expect(maker.worked).toBe(500);
    rows[7] = ['7', { goals: 99, shots: 100 }];
    board.tables.put({ key: 'players', name: 'P', columns: ['goals', 'shots'], rows }, 's', 2);
    expect(maker.make(from).rows[0]).toEqual(['7', { rank: 1, goals: 99, shots: 100, share: 0.99 }]);
    expect(maker.worked).toBe(1);
    board.apply([{ key: 'home.score', value: 98, origin: 's' }], 2);
    expect(maker.make(from).rows).toHaveLength(1);
    expect(maker.worked).toBe(500);
  });

  it('computes columns by any Value: in a format, by cases, looked up; and again when that table changes', () => {
    const { board, all } = setUp();
    const clubs = (town: string) =>
      all.react(
        board.tables.put({ key: 'clubs', name: 'C', columns: ['town'], rows: [['home', { town }]] }, 's', 1),
        1,
      );
    clubs('Thornmere');
    const side = { field: 'side' };
    all.put(
      derived({
        ...leaders,
        compute: [
          { name: 'rate', value: { formula: 'goals / shots', format: 'average' } },
          { name: 'town', value: { lookup: { table: 'clubs', key: side, column: 'town' }, fallback: '?' } },
          {
            name: 'how',
            value: { choose: { field: 'goals' }, cases: [{ min: 5, then: { field: 'rate' } }] },
          },
        ],
      }),
      1,
    );
    expect(said(board, 'leaders', 'rate')).toEqual(['.500', '.333', '.750']);
    expect(said(board, 'leaders', 'how')).toEqual(['.500', null, null]);
    expect(said(board, 'leaders', 'town')).toEqual(['Thornmere', 'Thornmere', '?']);
    clubs('Fellgate');
    expect(said(board, 'leaders', 'town')).toEqual(['Fellgate', 'Fellgate', '?']);
    expect(all.refuse(derived({ what: 'table', key: 'clubs', name: 'C', from: ['leaders'] }))).toBe(
      'C would depend on itself: clubs → leaders → clubs.',
    );
  });

  it('agrees with working all anew, whatever changes', () => {
    const row = fc.record({ goals: fc.integer({ min: 0, max: 4 }), shots: fc.constant(5) });
    const state = fc.dictionary(fc.constantFrom(...'abcdefgh'), row);
    fc.assert(
      fc.property(fc.array(state, { minLength: 1, maxLength: 6 }), (states) => {
        const live = setUp([]);
        live.all.put(leaders, 1);
        for (const s of states) {
          live.putRows(Object.entries(s));
          const anew = setUp(Object.entries(s));
          anew.all.put(leaders, 1);
          const sorted = (b: Board) =>
            [...b.tables.get('leaders')!.rows].sort(([a], [c]) => (a < c ? -1 : 1));
          expect(sorted(live.board)).toEqual(sorted(anew.board));
          expect(said(live.board, 'leaders', 'goals')).toEqual(said(anew.board, 'leaders', 'goals'));
        }
      }),
    );
  });

  it.each<[Scalar, Scalar, number]>([
    [2, 10, -1],
    ['2', '10', -1],
    ['.317', '.250', 1],
    ['Åse', 'Zoe', -1],
    [null, 1, 1],
    ['', null, 0],
    ['x', 'X', 0],
  ])('%j stands beside %j as %i', (a, b, sign) => expect(Math.sign(compareScalars(a, b))).toBe(sign));
});

describe('Derivations', () => {
  const lead = derived({
    what: 'field',
    key: 'lead',
    name: 'Lead',
    value: { formula: 'home.score - away.score' },
  });

  it('follows chains of fields and tables, and a change reaches all that depends on it', () => {
    const { board, all, putRows } = setUp();
    all.put(lead, 1);
    all.put(
      derived({
        what: 'field',
        key: 'lead.text',
        name: 'In words',
        value: { field: 'lead', format: 'signed' },
      }),
      1,
    );
    all.put(leaders, 1);
    all.put(
      derived({
        what: 'field',
        key: 'top',
        name: 'Top',
        value: { lookup: { table: 'leaders', rank: { fixed: 1 }, column: 'name' } },
      }),
      1,
    );
    const { changed } = board.apply([{ key: 'home.score', value: 2, origin: 's' }], 2);
    expect(all.react(changed, 2).changed).toEqual(['lead', 'lead.text']);
    expect(board.read('lead.text')).toBe('+2');
    expect(board.read('top')).toBe('Keel');
    putRows([['x', { side: 'home', name: 'Una', goals: 9, shots: 9, average: '1.000' }]]);
    expect(board.read('top')).toBe('Una');
    expect(all.remove('lead', 3).changed).toContain('lead');
    expect(board.read('lead')).toBeNull();
  });

  it('refuses a circle and names its path, through tables too', () => {
    const { all } = setUp();
    all.put(derived({ what: 'field', key: 'a', name: 'A', value: { field: 'b' } }), 1);
    expect(all.refuse(derived({ what: 'field', key: 'a', name: 'A', value: { field: 'a' } }))).toBe(
      'A would depend on itself: a → a.',
    );
    all.put(derived({ what: 'table', key: 't', name: 'T', from: ['players'], where: 'goals > the.a' }), 1);
    expect(
      all.refuse(
        derived({
          what: 'field',
          key: 'the.a',
          name: 'TheA',
          value: { lookup: { table: 't', rank: { fixed: 1 }, column: 'name' } },
        }),
      ),
    ).toBe('TheA would depend on itself: the.a → t → the.a.');
    expect(
      all.refuse(derived({ what: 'field', key: 'b', name: 'B', value: { pieces: [{ field: 'a' }] } })),
    ).toContain('b → a → b');
  });

  it('keeps the last good value when a formula fails, and says where', () => {
    const { board, all, putRows } = setUp();
    all.put(
      derived({ what: 'field', key: 'share', name: 'Share', value: { formula: '10 / int(home.score)' } }),
      1,
    );
    const score = (value: number) =>
      all.react(board.apply([{ key: 'home.score', value, origin: 's' }], 1).changed, 1);
    score(5);
    expect(board.read('share')).toBe(2);
    score(0);
    expect(board.read('share')).toBe(2);
    expect(all.problems.get('share')).toContain('zero');
    score(2);
    expect([board.read('share'), all.problems.size]).toEqual([5, 0]);
    all.put(
      derived({ ...leaders, compute: [{ name: 'odd', formula: 'goals + nothing.there.filter(x, x)' }] }),
      1,
    );
    putRows(players);
    expect(all.problems.get('leaders')).toMatch(/^odd of row h7: /);
  });

  it('picks by key, by rank and in rotation', () => {
    const { board, all, putRows } = setUp();
    const pick = (how: object) =>
      all.put(derived({ what: 'pick', key: 'pick', name: 'Pick', table: 'players', how }), 1);
    pick({ by: 'key', is: 'a3' });
    expect(board.read('pick')).toBe('a3');
    pick({ by: 'key', is: ' bram' });
    expect(board.read('pick')).toBe('a3');
    pick({ by: 'key', is: 'HOME' });
    expect([board.read('pick'), all.problems.get('pick')]).toEqual([
      null,
      '"HOME" is said by 2 rows: h7, h9',
    ]);
    pick({ by: 'key', is: 'nobody' });
    expect(all.problems.size).toBe(0);
    expect(board.read('pick')).toBeNull();
    pick({ by: 'rank', rank: 2 });
    expect(board.read('pick')).toBe('h9');
    pick({ by: 'rotation', dwell: 1000 });
    const seen = [0, 999, 1001, 2002, 3003, 4004].map((t) => (all.tick(1 + t), board.read('pick')));
    expect(seen).toEqual(['h7', 'h7', 'h9', 'a3', 'a8', 'h7']);
    putRows([]);
    expect(board.read('pick')).toBeNull();
  });

  it('lets each row of a rotation stand as long as it says, and the others for the dwell', () => {
    const { board, all } = setUp();
    board.tables.put(
      {
        key: 'ads',
        name: 'Ads',
        columns: ['seconds'],
        rows: [
          ['a', { seconds: 3 }],
          ['b', { seconds: '' }],
          ['c', { seconds: '0.001' }],
          ['d', { seconds: 'soon' }],
        ],
      },
      'sheet',
      0,
    );
    const how = { by: 'rotation', dwell: 1000, seconds: 'seconds' };
    all.put(derived({ what: 'pick', key: 'ad', name: 'Ad', table: 'ads', how }), 0);
    const seen = [0, 2999, 3000, 3999, 4000, 4499, 4500, 5500].map((t) => (all.tick(t), board.read('ad')));
    expect(seen).toEqual(['a', 'a', 'b', 'b', 'c', 'c', 'd', 'a']);
  });

  it.each([
    [{ schema: 1, key: 'x', derived: { ...lead, key: 'y' } }, 'not the key'],
    [{ schema: 1, key: 'x', derived: { ...leaders, where: 'goals >' } }, 'is not a formula'],
  ])('refuses the document %j', (input, problem) => {
    const read = parseDerived(input);
    expect(read.ok || read.problems.join()).toContain(problem);
  });
});

describe('tables of the board', () => {
  it('tell which rows changed, and keep rows that say the same', () => {
    const { board } = setUp();
    const was = board.row('players', 'h7');
    const next: [string, Row][] = players.map(([k, r]) => [k, k === 'a8' ? { ...r, goals: 1 } : { ...r }]);
    const put = (rows: [string, Row][]) =>
      board.tables.put({ key: 'players', name: 'P', columns: COLUMNS, rows }, 's', 2);
    expect(put(next)).toEqual([rowToken('players', 'a8')]);
    expect(board.row('players', 'h7')).toBe(was);
    expect(put(next)).toEqual([]);
    expect(put([...next].reverse())).toEqual([orderToken('players')]);
    expect(board.ranked('players', 1)).toMatchObject({ name: 'Ivo' });
    expect(put(next.slice(1))).toEqual([rowToken('players', 'h7'), orderToken('players')]);
    expect(board.tables.mark('s', 'late')).toBe(true);
    expect(board.tables.remove('players')).toHaveLength(4);
    expect(board.tables.remove('players')).toEqual([]);
  });
});

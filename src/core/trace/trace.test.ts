import { describe, expect, it } from 'vitest';
import { Board } from '../board/board.ts';
import type { Row } from '../board/tables.ts';
import { Derivations } from '../derive/derivations.ts';
import { DERIVED } from '../derive/derived.ts';
import { readAs } from '../document/check.ts';
import { must } from '../document/problems.ts';
import type { Value } from '../value/value.ts';
import { readsOf } from './reads.ts';
import { readTraced } from './read-traced.ts';
import { tracedKey, type Traced } from './traced.ts';

const derived = (input: unknown) => must(readAs(DERIVED, input));

describe('what a cell was made of', () => {
  const cells = (...of: [string, string, string][]) =>
    of.map(([table, row, column]) => ({ table, row, column }));
  const board = new Board([
    { key: 'home.score', label: 'Home', kind: 'integer', group: 'home', min: 0, max: 99 },
  ]);
  const all = new Derivations(board);
  const players: [string, Row][] = [
    ['h7', { side: 'home', name: 'Orrell', goals: 3, shots: 9 }],
    ['h9', { side: 'home', name: 'Keel', goals: 5, shots: 10 }],
    ['a8', { side: 'away', name: 'Ivo', goals: 0, shots: 2 }],
  ];
  const columns = ['side', 'name', 'goals', 'shots'];
  board.tables.put({ key: 'players', name: 'Players', columns, rows: players }, 's', 1);
  board.tables.put(
    { key: 'clubs', name: 'Clubs', columns: ['town'], rows: [['home', { town: 'Thornmere' }]] },
    's',
    1,
  );
  const table = (rest: object) =>
    all.put(derived({ what: 'table', name: 'T', from: ['players'], ...rest }), 1);
  table({
    key: 'leaders',
    where: 'goals > 0',
    sort: [{ by: 'goals', descending: true }],
    rank: { name: 'rank', ties: 'shared' },
    join: [{ table: 'clubs', by: 'side' }],
    compute: [
      { name: 'share', formula: 'goals / shots' },
      { name: 'goals', formula: 'goals + home.score' },
      { name: 'all', formula: 'share + goals' },
    ],
  });
  table({ key: 'teams', group: { by: ['side'], totals: [{ name: 'sum', of: 'goals', how: 'sum' }] } });
  all.put(derived({ what: 'pictures', key: 'faces', name: 'F', from: ['players'], path: '"p/" + name' }), 1);
  const p = (column: string): [string, string, string] => ['players', 'h9', column];
  it.each<[[string, string, string], string, [string, string, string][], string[]]>([
    [['leaders', 'h9', 'name'], 'name', [p('name')], []],
    [['leaders', 'h9', 'town'], 'town', [['clubs', 'home', 'town']], []],
    [['leaders', 'h9', 'share'], 'goals / shots', [p('goals'), p('shots')], []],
    // A computed column takes the place of the one that it is made of; what was computed before it goes through.
    [['leaders', 'h9', 'goals'], 'goals + home.score', [p('goals')], ['home.score']],
    [['leaders', 'h9', 'all'], 'share + goals', [p('goals'), p('shots')], ['home.score']],
    [['leaders', 'h9', 'rank'], 'rank by goals', [['leaders', 'h9', 'goals']], []],
    [['teams', 'home', 'sum'], 'sum of goals over 2 rows', [['players', 'h7', 'goals'], p('goals')], []],
    [['teams', 'home', 'side'], 'what 2 rows share', [['players', 'h7', 'side'], p('side')], []],
    [['faces', 'h9', 'path'], '"p/" + name', [p('name')], []],
    [['faces', 'h9', 'found'], 'the picture at its path', [['faces', 'h9', 'path']], []],
  ])('%j: %s', ([of, row, column], how, from, fields) =>
    expect(all.behind({ table: of, row, column })).toEqual({ how, cells: cells(...from), fields }),
  );
  it.each([
    ['players', 'h9', 'name'],
    ['leaders', 'a8', 'nobody'],
    ['teams', 'both', 'sum'],
  ] as const)('knows nothing of %s %s %s', (of, row, column) => {
    const behind = all.behind({ table: of, row, column });
    // A row that the condition leaves out is known all the same.
    expect(of === 'leaders' ? behind?.cells : behind).toEqual(
      of === 'leaders' ? cells(['players', 'a8', 'nobody']) : null,
    );
  });

  it('tells what a Value reads now: only the case that holds', () => {
    const scope = {
      field: (key: string) => board.read(key),
      input: (key: string) => (key === 'side' ? 'home' : null),
      row: (t: string, key: string) => board.row(t, key),
      ranked: (t: string, rank: number) => board.ranked(t, rank),
    };
    const value: Value = {
      choose: { input: 'side' },
      cases: [
        { is: ['away'], then: { field: 'away.score' } },
        {
          is: ['home'],
          then: {
            pieces: [
              { lookup: { table: 'leaders', rank: { fixed: 1 }, column: 'name' } },
              { lookup: { table: 'clubs', key: { input: 'side' }, column: 'town' } },
              { lookup: { table: 'clubs', key: { fixed: 'gone' }, column: 'town' } },
              { formula: 'home.score + 1' },
            ],
          },
        },
      ],
    };
    expect(readsOf(value, scope, (t, rank) => board.tables.keyAt(t, rank))).toEqual({
      fields: ['home.score'],
      inputs: ['side'],
      cells: cells(['leaders', 'h9', 'name'], ['clubs', 'home', 'town']),
    });
  });

  it('reads what a page asks for, and nothing else', () => {
    const good = [{ field: 'home.score' }, { cell: { table: 't', row: 'r', column: 'c' } }];
    for (const of of good) expect(readTraced(structuredClone(of))).toEqual(of);
    for (const of of [null, 'home.score', {}, { field: '' }, { cell: { table: 't' } }, { field: 'a', x: 1 }])
      expect(readTraced(of)).toBeNull();
    const keys = [...good, { field: 'cell' }, { layer: { mount: 'r', name: 'c' } }].map((of) =>
      tracedKey(of as Traced),
    );
    expect(new Set(keys).size).toBe(4);
  });
});

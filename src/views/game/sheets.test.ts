import { describe, expect, it } from 'vitest';
import { matchColumns, planRoster } from '../../core/show/roster.ts';
import { rosterCsv, readSheet, rosterWorkbook } from './sheets.ts';
import { game } from '../../../tests/support/prepared.ts';

describe('rosters', () => {
  const [keel, bram] = game.home.players;
  it.each([
    [
      ['No.', 'Given name', 'Surname', 'Pos'],
      { number: 0, first: 1, last: 2, position: 3, class: -1, headshot: -1 },
    ],
    [['Name', '#', 'Photo'], { number: 1, first: -1, last: 0, position: -1, class: -1, headshot: 2 }],
    [['x', 'y'], { number: -1, first: -1, last: -1, position: -1, class: -1, headshot: -1 }],
  ])('the headings %j are matched', (headings, wanted) => expect(matchColumns(headings)).toEqual(wanted));

  it('plans what is new, changed, gone and refused, and touches no column that is not on the sheet', () => {
    const match = matchColumns(['number', 'position']);
    const rows = [
      [keel!.number, 'Bench'],
      ['88', 'Forward'],
      ['88', 'Again'],
      ['x1', 'Odd'],
      ['', ''],
    ];
    const plan = planRoster([keel!, bram!], rows, match, true);
    expect(plan.players).toEqual([
      { ...keel, position: 'Bench' },
      { number: '88', first: '', last: '', position: 'Forward', class: '', headshot: '' },
    ]);
    expect(plan.changes.map((c) => [c.kind, c.says])).toEqual([
      ['changed', `position: ${keel!.position} → Bench`],
      ['new', 'position: Forward'],
      ['refused', 'number 88 is on the sheet twice'],
      ['refused', '"x1" is no number of up to three digits'],
      ['gone', ''],
    ]);
    expect(planRoster([keel!, bram!], rows, match, false).players).toHaveLength(3);
  });

  it('reads a sheet as a federation writes it: a title, Last, First in one column, a role that is no class', async () => {
    const sheet = 'Fellside League 2026;;;\n;;;\nNo.;Player;Role;Pos\n7;Keel, Ada;captain;Forward\n';
    const { headings, rows } = await readSheet(new File([sheet], 'r.csv'));
    const plan = planRoster([], rows, matchColumns(headings), false);
    expect(plan.players).toEqual([
      { number: '7', first: 'Ada', last: 'Keel', position: 'Forward', class: '', headshot: '' },
    ]);
    expect(plan.changes[0]!.says).toBe('position: Forward');
  });

  it('goes out as CSV and as a workbook and comes back the same, 07 as 07', async () => {
    const players = [{ ...keel!, number: '07' }, bram!];
    const book = await rosterWorkbook(players);
    const files = [new File([rosterCsv(players)], 'r.csv'), new File([await book.arrayBuffer()], 'r.xlsx')];
    for (const file of files) {
      const { headings, rows } = await readSheet(file);
      expect(planRoster(players, rows, matchColumns(headings), true).changes).toEqual([]);
    }
    await expect(readSheet(new File(['PKx'], 'x.xlsx'))).rejects.toThrow('damaged workbook');
    await expect(readSheet(new File(['a,b\n'], 'x.csv'))).rejects.toThrow('no rows');
    await expect(readSheet(new File(['a\n"b\n'], 'x.csv'))).rejects.toThrow('neither CSV');
  });
});

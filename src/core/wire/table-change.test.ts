import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Tables, type Row } from '../board/tables.ts';
import { changedTable, tableChange, wholeTable } from './table-change.ts';

const row = fc.record({ goals: fc.integer({ min: 0, max: 2 }), name: fc.constantFrom('Orrell', 'Stonnick') });
const rows = fc.uniqueArray(fc.tuple(fc.constantFrom(...'abcdefgh'), row), {
  selector: ([key]) => key,
  maxLength: 8,
});
const put = (tables: Tables, list: readonly (readonly [string, Row])[], columns = ['goals', 'name']) => {
  tables.put({ key: 't', name: 'T', columns, rows: list }, 'stats', 1);
  return tables.get('t')!;
};

describe('what is told of a table that changed', () => {
  it('leads from any state to the next, and changes nothing when it comes twice', () => {
    fc.assert(
      fc.property(fc.array(rows, { minLength: 2, maxLength: 6 }), (states) => {
        const tables = new Tables();
        let was = put(tables, states[0]!);
        let seen = wholeTable(was);
        for (const state of states.slice(1)) {
          const now = put(tables, state);
          const change = tableChange(was, now);
          if (!('change' in change)) throw new Error('whole');
          seen = changedTable(seen, change);
          expect(seen).toEqual(wholeTable(now));
          expect(changedTable(seen, change)).toEqual(seen);
          was = now;
        }
      }),
    );
  });

  it('is one row where one cell changed, the order where that is another, all where columns are other', () => {
    const tables = new Tables();
    const list = Array.from({ length: 3000 }, (_, i): [string, Row] => [
      `p${i}`,
      { goals: i, name: 'Orrell' },
    ]);
    const first = put(tables, list);
    const second = put(tables, list.with(7, ['p7', { goals: 99, name: 'Orrell' }]));
    expect(tableChange(first, second)).toEqual({
      change: true,
      key: 't',
      name: 'T',
      origin: 'stats',
      at: 1,
      quality: 'ok',
      rows: [['p7', { goals: 99, name: 'Orrell' }]],
    });
    const turned = put(tables, [...second.rows].toReversed());
    expect(tableChange(second, turned)).toMatchObject({ rows: [], order: [...turned.rows.keys()] });
    const fewer = put(tables, [['p1', { goals: 1 }]], ['goals']);
    expect(tableChange(turned, fewer)).toEqual(wholeTable(fewer));
    expect(tableChange(undefined, first)).toEqual(wholeTable(first));
  });

  it('leaves out rows of an order that were never told', () => {
    const was = wholeTable(put(new Tables(), [['a', { goals: 1, name: 'Orrell' }]]));
    const { columns: _, ...rest } = was;
    expect(changedTable(was, { ...rest, change: true, rows: [], order: ['b', 'a'] }).rows).toEqual(was.rows);
  });
});

import { expect, it } from 'vitest';
import { TableRows } from './table-collection.ts';

const rows = new TableRows(
  [{ key: 'name' }, { key: 'goals' }],
  [
    ['a', { name: 'Ödd', goals: '1' }],
    ['b', { name: 'Oak', goals: '2' }],
  ],
  (row, column) => row[column as 'name'],
);

it('rows and cells are found by their keys and stand beside each other', () => {
  expect([...rows.getKeys()]).toEqual(['r:a', 'r:b']);
  expect([rows.getFirstKey(), rows.getLastKey(), rows.size]).toEqual(['r:a', 'r:b', 2]);
  expect([rows.getKeyBefore('r:b'), rows.getKeyAfter('r:b'), rows.getKeyBefore('r:a')]).toEqual([
    'r:a',
    null,
    null,
  ]);
  const cells = [...rows.getChildren('r:b')];
  expect(cells.map((c) => c.textValue)).toEqual(['Oak', '2']);
  expect(cells[0]).toMatchObject({ parentKey: 'r:b', prevKey: null, nextKey: cells[1]!.key, colIndex: 0 });
  // A cell is known by its key also where nobody asked for its row's before.
  expect(rows.getItem('r:a\u0000goals')).toMatchObject({ type: 'cell', textValue: '1', index: 1 });
  for (const none of ['r:c', 'r:a\u0000shots', 'r:c\u0000goals', '__proto__'])
    expect(rows.getItem(none)).toBeNull();
});

import { describe, expect, it } from 'vitest';
import { chosenOf, selectionOf, unitsOf, unitsWithin } from './ruler-units.ts';

const bytes = unitsOf(8, [], [{ from: 2, to: 4, name: 'clock' }]);
const fields = unitsOf(
  9,
  [
    { from: 1, to: 3, name: null },
    { from: 4, to: 4, name: null },
    { from: 5, to: 8, name: 'CLK' },
  ],
  [],
);

describe('the ruler', () => {
  it('has a unit for each byte, or for each field and what stands between', () => {
    expect(bytes.map((u) => u.name)).toEqual([
      'byte 0',
      'byte 1',
      'byte 2: clock',
      'byte 3: clock',
      'byte 4',
      'byte 5',
      'byte 6',
      'byte 7',
    ]);
    expect(bytes[2]!.bytes).toEqual([{ at: 2, named: true, first: true }]);
    expect(fields.map((u) => [u.name, u.off, u.bytes.length])).toEqual([
      ['byte 0', true, 1],
      ['field 1', false, 2],
      ['byte 3', true, 1],
      ['byte 4', true, 1],
      ['CLK', false, 3],
      ['byte 8', true, 1],
    ]);
  });

  it.each([
    [[], null],
    [[3], { offset: 3, length: 1 }],
    [unitsWithin(5, 3), { offset: 3, length: 3 }],
    // The order of places is the order of digits.
    [[5, 6, 2], { offset: 5, length: 2, more: [{ offset: 2, length: 1 }] }],
    [[3, 2], { offset: 3, length: 1, more: [{ offset: 2, length: 1 }] }],
  ])('bytes %o are %o, and back', (chosen, selection) => {
    expect(selectionOf(chosen, bytes)).toEqual(selection);
    expect(chosenOf(selection, bytes)).toEqual(chosen);
  });

  it('selects one whole field, the one chosen last', () => {
    expect(selectionOf([1, 4], fields)).toEqual({ offset: 5, length: 3, field: 'CLK' });
    expect(selectionOf([1], fields)).toEqual({ offset: 1, length: 2, field: 1 });
    expect(chosenOf({ offset: 5, length: 3, field: 'CLK' }, fields)).toEqual([4]);
  });
});

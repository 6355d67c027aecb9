import { expect, it } from 'vitest';
import { goneElsewhere } from './gone.ts';

const doc = (...names: string[]) => ({
  name: 'Whole',
  layouts: [{ key: 'wide', layers: names.map((n) => ({ id: n, name: n.toUpperCase(), layers: [] })) }],
});

it('what somebody else deleted is named where it is still worked at here', () => {
  expect(goneElsewhere(doc('a', 'b', 'c'), doc('b'), doc('a', 'b'))).toEqual(['A']);
  expect(goneElsewhere(doc('a'), doc('a', 'b'), doc('a'))).toEqual([]);
  expect(goneElsewhere(doc('a'), doc('b'), doc())).toEqual([]);
  const zones = (...keys: string[]) => ({ zones: keys.map((key) => ({ key, name: `Zone ${key}` })) });
  expect(goneElsewhere(zones('1', '2'), zones('2'), zones('1', '2'))).toEqual(['Zone 1']);
});

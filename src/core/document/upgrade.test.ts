import { expect, it } from 'vitest';
import { renamedKeys, upgraded, type Step } from './upgrade.ts';

const add =
  (name: string): Step =>
  (doc) => ({ ...doc, seen: [...((doc['seen'] as string[]) ?? []), name] });

it.each([
  [1, ['a', 'b']],
  [2, ['b']],
  [3, undefined],
])('from version %d it goes through each step that is left, in order', (schema, seen) =>
  expect(upgraded({ schema }, [add('a'), add('b')])).toEqual({
    ok: true,
    value: { schema: 3, ...(seen && { seen }) },
  }),
);

it.each([
  [4, 'version 4 is of a newer Foothill; this one reads up to 3'],
  [0, 'must be the number of its version'],
  [1.5, 'must be the number of its version'],
  ['2', 'must be the number of its version'],
])('version %j is refused', (schema, why) =>
  expect(upgraded({ schema }, [add('a'), add('b')])).toEqual({ ok: false, problems: [`schema: ${why}`] }),
);

it.each([null, [], 'x', 7])('%j is no document', (doc) => expect(upgraded(doc, []).ok).toBe(false));

it('keys are renamed in their places; names that every object has are data', () => {
  const doc = { a: 1, first: 2, constructor: 3 };
  expect(Object.entries(renamedKeys(doc, { first: 'default' }))).toEqual([
    ['a', 1],
    ['default', 2],
    ['constructor', 3],
  ]);
});

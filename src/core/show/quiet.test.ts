import { expect, it } from 'vitest';
import { parseQuiet } from '../documents/quiet.ts';
import { neverQuiet, QUIET, shortened } from './quiet.ts';

const outputs = new Map(
  [
    ['air', false],
    ['strip', true],
    ['wall', true],
  ].map(([key, venue]) => [key as string, { name: `The ${key as string}`, venue: venue as boolean }]),
);

it.each([
  [null, ['strip'], ''],
  ['rule', ['air'], ''],
  ['rule', [], ''],
  ['switch', ['gone'], ''],
  ['rule', ['air', 'strip', 'strip'], ', without motion on The strip (quiet)'],
  ['switch', ['wall', 'strip'], ', without motion on The wall and The strip (quiet)'],
] as const)('quiet by %s, %j changed: “%s”', (why, changed, words) =>
  expect(shortened(why, outputs, changed)).toBe(words),
);

it('what stands where nobody said anything is a document that can be read', () =>
  expect(parseQuiet(neverQuiet())).toEqual({
    ok: true,
    value: { schema: 1, key: QUIET, on: false, rule: null },
  }));

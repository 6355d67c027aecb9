import { expect, it } from 'vitest';
import { source } from '../../../tests/support/prepared.ts';
import { dependantsOf } from './dependants.ts';
import type { Derived } from './derived.ts';

const link = (field: string) => ({ reading: 'home score', field });
const table = (key: string, from: string): Derived =>
  ({ what: 'pick', key, name: key, table: from }) as never;
const template = (key: string, text: unknown) =>
  ({ key, layouts: [{ layers: [{ id: 'a', kind: 'text', name: 'a', text }] }] }) as never;

it('names what stands still without a source: fields, those that it alone feeds, what is made of its tables, however far', () => {
  const one = source('one', [link('home.score'), link('away.score')]);
  const other = source('two', [link('home.score')]);
  // The second is made of the first, and found before it.
  const derived = [table('far', 'near'), table('near', 't-one'), table('else', 't-two')];
  const templates = [
    template('shows', { lookup: { table: 'far', rank: { fixed: 1 }, column: 'n' } }),
    template('not', { field: 'home.score' }),
  ];
  const found = dependantsOf(one, [one, other], derived, templates);
  expect(found.fields).toEqual(['home.score', 'away.score']);
  expect(found.alone).toEqual(['away.score']);
  expect(found.derived.map((d) => d.key)).toEqual(['near', 'far']);
  expect(found.templates.map((t) => t.key)).toEqual(['shows']);
  // One that is switched off feeds nothing.
  const off = source('two', [link('home.score')], false);
  expect(dependantsOf(one, [one, off], [], []).alone).toEqual(['home.score', 'away.score']);
});

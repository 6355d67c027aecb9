import { describe, expect, it } from 'vitest';
import {
  completions,
  matching,
  readCondition,
  rowInWords,
  rowScope,
  sampleScope,
  writeCondition,
  type ValueContext,
} from './context.ts';
import { readAs } from '../../core/document/check.ts';
import { evaluate, VALUE, type Value } from '../../core/value/value.ts';
import { chipWords, offersFor, offersIn } from './chips.ts';
import { profile } from '../../../tests/support/prepared.ts';

describe('the Value editor', () => {
  const context: ValueContext = {
    defs: profile.fields,
    tables: [{ key: 't', name: 'T', columns: ['name'], rows: [], origin: 's', at: 0, quality: 'ok' }],
    inputs: { reading: 'x' },
    scope: { field: () => null, input: () => null },
    now: 'the board now',
  };
  it('says a chip as people read it', () => {
    const withNames = { ...context, inputNames: new Map([['reading', 'Reading']]) };
    for (const [value, words] of [
      [{ field: 'home.score' }, 'Home score'],
      [{ field: 'gone' }, 'gone'],
      [{ input: 'reading', format: 'upper' }, 'Reading in capitals'],
      [{ lookup: { table: 't', column: 'name', rank: { fixed: 2 } } }, 'name of 2nd in T'],
      [{ lookup: { table: 'x', column: 'name', key: { input: 'reading' } } }, 'name of Reading in x'],
      [{ choose: { field: 'home.score' }, cases: [] }, 'by Home score'],
      [{ formula: '1 + 1' }, '= 1 + 1'],
      [{ fixed: true }, 'yes'],
      [{ pieces: [{ fixed: '#' }, { field: 'home.score' }], format: { pad: 2 } }, '#Home score as 07'],
    ] as [Value, string][])
      expect(chipWords(value, withNames)).toBe(words);
  });
  it('offers all that can be put in, by any word of it, likeliest first', () => {
    const offers = offersIn({ ...context, columns: ['goals'] });
    const names = (typed: string) => offersFor(offers, typed).map((o) => o.name);
    expect(names('column')).toEqual(['goals']);
    expect(names('home score')).toEqual(['Home score']);
    expect(names('nam')[0]).toBe('name in T');
    expect(names('nothing like it')).toEqual([]);
    expect(offersFor(offers, '')).toHaveLength(offers.length);
    for (const { value } of offers) expect(readAs(VALUE, value).ok, JSON.stringify(value)).toBe(true);
  });
  it.each([
    ['home.sc', 7, ['home.score'], 0],
    ['1 + shots', 9, ['home.shots', 'away.shots'], 4],
    ['home.score ', 11, [], 11],
    ['1 + visit', 9, ['away.shots'], 4],
    ['', 0, [], 0],
  ])('completes %j at %i', (text, caret, found, from) => {
    const names = new Map([
      ['home.score', 'Home score'],
      ['home.shots', 'Home shots'],
      ['away.shots', 'Shots of the visitors'],
    ]);
    expect(completions(text, caret, names)).toEqual({ from, found });
  });
  it('tries a value on what is typed, by the kinds of its fields, and on any row of a table', () => {
    const scope = {
      ...context.scope,
      field: (key: string) => (key === 'away.score' ? 2 : null),
      ranked: () => ({ name: 'first' }),
    };
    const given = (value: Value, typed: Record<string, string>) => {
      const tried = sampleScope({ defs: context.defs, scope }, typed);
      return tried.problem ?? evaluate(value, tried.scope);
    };
    const sum: Value = { formula: 'home.score + away.score' };
    expect(given(sum, { 'home.score': '5' })).toBe(7);
    expect(given(sum, { 'home.score': 'many' })).toMatch(/^Home score is a whole number/);
    expect(given({ formula: 'clock.game / 1000' }, { 'clock.game': '1:05' })).toBe(65);
    expect(given({ input: 'reading', format: 'ordinal' }, { reading: '3' })).toBe('3rd');
    expect(given({ input: 'reading', fallback: 'none' }, { reading: ' ' })).toBe('none');
    const name: Value = { lookup: { table: 't', rank: { fixed: 1 }, column: 'name' } };
    const keyed: Value = { lookup: { table: 't', key: { fixed: '9' }, column: 'name' } };
    const other: Value = { lookup: { table: 'u', rank: { fixed: 1 }, column: 'name' } };
    const row = rowScope(scope, 't', { name: 'Keel' });
    expect([name, keyed, other].map((value) => evaluate(value, row))).toEqual(['Keel', 'Keel', 'first']);
    expect(rowInWords('home 07', { side: 'home', no: '07', name: 'Keel', at: null, goals: 0 })).toBe(
      'home 07 · Keel · 0',
    );
  });
  it('finds rows by a part of their key or content, those whose key begins so first', () => {
    const rows = [
      ['h12', { name: 'Orrell', line: 'no. 7' }],
      ['7', { name: 'Keel' }],
      ['17', { name: 'Sevenoak' }],
    ] as const;
    expect(matching(rows, ' 7').map(([k]) => k)).toEqual(['7', 'h12', '17']);
    expect(matching(rows, 'KEEL').map(([k]) => k)).toEqual(['7']);
    expect(matching(rows, '').map(([k]) => k)).toEqual(rows.map(([k]) => k));
  });
  it.each<[string, object]>([
    ['H, A', { is: ['H', 'A'] }],
    ['3 to 5', { min: 3, max: 5 }],
    ['from 5', { min: 5 }],
    ['to -3', { max: -3 }],
    ['blank', { blank: true }],
    ['not blank', { blank: false }],
    ['1, yes, 007', { is: [1, true, '007'] }],
  ])('the condition %j is read and written', (text, condition) => {
    expect(readCondition(text)).toEqual(condition);
    expect(writeCondition(condition)).toBe(text);
  });
});

import { describe, expect, it } from 'vitest';
import type { Scalar } from '../board/values.ts';
import { applyFormat, type Format } from './format.ts';
import { readFormula } from './formula.ts';
import { evaluate, troubleIn, valueInWords, type Value } from './value.ts';

describe('formulas', () => {
  const fields: Record<string, Scalar> = {
    'home.score': 3,
    'away.score': 1.5,
    'home.name': 'Herons',
    blank: null,
  };
  it.each<[string, Scalar]>([
    ['home.score + away.score', 4.5],
    ['home.score / 2', 1.5],
    ['home.score > away.score ? home.name + "!" : ""', 'Herons!'],
    ['blank + 1', 1],
    ['home.name + blank', 'Herons'],
    ['no.such.field', null],
    ['"score " + home.score', 'score 3'],
    ['string(home.score) + "-" + string(blank)', '3-'],
    ['home.name.size() > 3 && !(home.score == 4)', true],
    ['home.score % 2', 1],
    ['1.0 / 0.0', null],
  ])('%s is %j', (text, wanted) => {
    const formula = readFormula(text);
    if (!('run' in formula)) throw new Error(formula.problem);
    expect(formula.run((key) => fields[key] ?? null)).toBe(wanted);
  });
  it('says where a text is no formula, and why one cannot be worked out', () => {
    expect(readFormula('home.score + + 1')).toMatchObject({
      at: 13,
      problem: expect.stringContaining('PLUS') as string,
    });
    const scope = { field: (key: string) => fields[key] ?? null, input: () => null };
    const value: Value = { pieces: [{ formula: '[1, 2]' }] };
    expect(evaluate(value, scope)).toBe('');
    expect(troubleIn(value, scope)).toContain('list');
  });
});

describe('formats', () => {
  it.each<[Scalar, Format, Scalar]>([
    [0.3171, 'average', '.317'],
    [1, 'average', '1.000'],
    ['.250', 'average', '.250'],
    [0.456, 'percent', '46%'],
    [3.14159, { decimals: 1 }, '3.1'],
    [7, { pad: 2 }, '07'],
    [1, { plural: ['point', 'points'] }, '1 point'],
    [0, { plural: ['point', 'points'] }, '0 points'],
    ['Bram Hallowick', 'initials', 'BH'],
    ['HERONS', 'lower', 'herons'],
    [83_000, 'clock', '1:23'],
    ['2026-11-28', { date: 'long' }, '28 November 2026'],
    ['2026-11-28', { date: 'weekday' }, 'Saturday'],
    ['soon', { date: 'short' }, 'soon'],
    ['x', 'percent', 'x'],
    [null, 'percent', null],
  ])('%j as %j is %j', (value, format, wanted) => expect(applyFormat(value, format)).toBe(wanted));
});

describe('a value in words', () => {
  it.each<[Value, string]>([
    [{ pieces: [{ fixed: 'headshots/' }, { field: 'home.short' }] }, '"headshots/" + home.short'],
    [{ choose: { input: 'team' }, cases: [] }, 'chosen by input team'],
    [{ lookup: { table: 't', column: 'name', key: { field: 'pick' } } }, 'name of pick in t'],
    [{ lookup: { table: 't', column: 'name', rank: { fixed: 2 } } }, 'name of rank 2 in t'],
    [{ formula: '1 + 2', format: 'ordinal' }, '1 + 2'],
  ])('%j is %s', (value, words) => expect(valueInWords(value)).toBe(words));
});

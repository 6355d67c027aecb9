import { describe, expect, it } from 'vitest';
import type { Scalar } from '../board/values.ts';
import { applyFormat, type Format } from './format.ts';
import { readFormula, type Formula } from './formula.ts';
import { evaluate, troubleIn, valueInWords, type Value } from './value.ts';

describe('formulas', () => {
  const fields: Record<string, Scalar> = {
    'home.score': 3,
    'away.score': 1.5,
    'home.name': 'Herons',
    blank: null,
    'home.shots-on-goal': 12,
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
    ['double(home.score) == 3', true],
    ['1 == 1.0 && 2 > 1.5', true],
    ['home.score > 2 ? 1 : 0.5', 1],
    ['-away.score - -blank', -1.5],
    ['blank == 0 && blank == "" && blank == null && !blank', true],
    ['home.score == null', false],
    ['blank < 1 && blank >= 0', true],
    ['blank ? 1 : 2', 2],
    ['has(home.score) && !has(away.name)', true],
    ['field("home.shots-on-goal") + 1', 13],
    ['[1, 2, 3].exists(x, x == home.score)', true],
    ['[home.score, 2].map(x, x * 2)[1]', 4],
    ['home.name.matches("^[A-Z]er")', true],
    ['constructor', null],
    ['__proto__', null],
    ['{"__proto__": 1}["__proto__"]', 1],
  ])('%s is %j', (text, wanted) => {
    const formula = readFormula(text);
    if (!('run' in formula)) throw new Error(formula.problem);
    expect(formula.run((key) => (Object.hasOwn(fields, key) ? fields[key]! : null))).toBe(wanted);
  });
  const turns = (how: string, inner: string) =>
    'abcdef'.split('').reduceRight((body, name) => `[1,2,3,4,5,6,7,8,9,0].${how}(${name}, ${body})`, inner);
  it.each([
    ['a pattern that backtracks elsewhere', `"${'a'.repeat(500)}!".matches("^(a+)+$")`, null],
    ['lists of lists of texts', turns('map', '"0123456789"'), 'too many steps'],
    ['loops that call nothing', turns('all', 'true'), 'too many steps'],
    ['loops whose errors are swallowed', `true || ${turns('exists', '1/0 > 1')}`, null],
    [
      'a pattern over a long text, again and again',
      turns('exists', `"${'ab'.repeat(300)}".matches("(a|b)*c")`),
      'too many steps',
    ],
    ['deep brackets', `${'['.repeat(900)}1${']'.repeat(900)}`, 'nested too deep'],
    [
      'a long text made longer',
      `${Array.from({ length: 12 }, () => `"${'x'.repeat(900)}"`).join(' + ')}`,
      'more than 10000 characters',
    ],
  ])('%s: costs no more than one may', (_, text, problem) => {
    const formula = readFormula(text);
    const said = () => ('run' in formula ? formula.run(() => null) : formula.problem);
    if (problem === null) expect(typeof said()).toBe('boolean');
    else if ('run' in formula) expect(said).toThrow(problem);
    else expect(formula.problem).toContain(problem);
  });
  it.each([
    ['1 +', 'The formula ends too early.'],
    ['10 % "a"', '"%" does not work with a whole number and a text.'],
    ['foo(1)', 'There is no function "foo".'],
    ['1 / 0', 'It divides by zero.'],
    ['[1][5]', 'It asks for a member that the list does not have.'],
    ['"a".matches("(")', 'The pattern in it is not one.'],
  ])('%s: %s', (text, wanted) => {
    const formula = readFormula(text);
    if ('run' in formula) expect(() => formula.run(() => null)).toThrow(wanted);
    else expect(formula.problem).toBe(wanted);
  });
  it('tells where each field is named first, and leaves the names of its own loops out', () => {
    const formula = readFormula('[1].map(x, x + home.score)[0] + away.score') as Formula;
    expect([...formula.fields]).toEqual([
      ['home.score', 15],
      ['away.score', 32],
    ]);
  });
  it('says where a text is no formula, and why one cannot be worked out', () => {
    expect(readFormula('home.score + + 1')).toMatchObject({
      at: 11,
      problem: '"+" does not belong here.',
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

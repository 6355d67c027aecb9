import { expect, it } from 'vitest';
import { readAs, Strict } from './check.ts';
import {
  AnyScalar,
  Colour,
  Count,
  Form,
  Is,
  isKey,
  isScalar,
  Key,
  ListOf,
  Maybe,
  Name,
  Num,
  OneOf,
  OrNull,
  Text,
  Whole,
  YesNo,
} from './rules.ts';

@Strict
class Sheet {
  @Is('sheet') kind!: 'sheet';
  @Key() key!: string;
  @Name() name!: string;
  @OneOf('left', 'right') side!: string;
  @Text(1, 5) short!: string;
  @Form(/^\d+$/, 'digits only') digits!: string;
  @Colour() colour!: string;
  @YesNo() on!: boolean;
  @Num(0, 1) share!: number;
  @Whole(1, 9) period!: number;
  @Count(0, 2) @ListOf((v) => typeof v === 'string', 'must be texts') tags!: string[];
  @AnyScalar() value!: unknown;
  @OrNull() @Num() most!: number | null;
  @Maybe() @Whole(0, 3) more?: number;
}
const good = {
  kind: 'sheet',
  key: 'home.score',
  name: 'Øde’s sheet',
  side: 'left',
  short: 'abc',
  digits: '07',
  colour: '#00FFaa',
  on: false,
  share: 0.5,
  period: 9,
  tags: [],
  value: null,
  most: null,
};

it('reads what is as it must be, with and without what may be left out', () => {
  expect(readAs(Sheet, good)).toEqual({ ok: true, value: good });
  expect(readAs(Sheet, { ...good, more: 3, most: -1e9 }).ok).toBe(true);
});

it.each([
  ['kind', 'page'],
  ['key', 'Home Score'],
  ['key', 'a'.repeat(81)],
  ['key', '..'],
  ['name', ''],
  ['name', 'n'.repeat(81)],
  ['side', 'LEFT'],
  ['short', 'abcdef'],
  ['short', ''],
  ['short', 7],
  ['digits', '7a'],
  ['colour', 'red'],
  ['colour', '#fff'],
  ['on', 'yes'],
  ['share', 1.01],
  ['share', NaN],
  ['share', '0.5'],
  ['period', 0],
  ['period', 1.5],
  ['period', Infinity],
  ['tags', ['a', 'b', 'c']],
  ['tags', [1]],
  ['tags', 'ab'],
  ['value', {}],
  ['value', []],
  ['most', 'x'],
  ['more', 4],
  ['more', null],
  ['other', 1],
])('%s: %j is refused, and named', (name, value) => {
  const read = readAs(Sheet, { ...good, [name]: value });
  expect(read.ok).toBe(false);
  if (!read.ok) expect(read.problems.join(' ')).toContain(name);
});

it.each(Object.keys(good))('without %s it is refused', (name) => {
  const { [name as 'kind']: _, ...rest } = good;
  expect(readAs(Sheet, rest).ok).toBe(false);
});

it('a key is lower-case words joined by dots; a scalar has no parts', () => {
  expect(['a', 'home.score', 'a-b.c-2'].map(isKey)).toEqual([true, true, true]);
  expect(['', 'A', 'a b', 'a/b', null].map(isKey)).toEqual([false, false, false, false, false]);
  expect(['a', 1, true, null].map(isScalar)).toEqual([true, true, true, true]);
  expect([undefined, {}, [], NaN].map(isScalar)).toEqual([false, false, false, false]);
});

import { expect, it } from 'vitest';
import { inPlainWords } from './formula-words.ts';

const unread = (offset: number) =>
  Object.assign(new Error('parse error'), { location: { start: { offset } } });

it.each([
  [
    new Error("no matching overload for '_+_' applied to '(int, string)'"),
    '"+" does not work with a whole number and a text.',
  ],
  [new Error("no matching overload for 'size' applied to '(bool)'"), '"size" does not work with yes or no.'],
  [
    new Error("no matching overload for 'startsWith' applied to 'string.(int)'"),
    '"startsWith" does not work with a text and a whole number.',
  ],
  [new Error('unbound function: frob'), 'There is no function "frob".'],
  [new Error('unresolved attribute: x'), 'A name in it stands for nothing.'],
  [new Error('division by zero'), 'It divides by zero.'],
  [new Error('Maximum call stack size exceeded'), 'It is nested too deep; make it simpler.'],
  [new Error('error parsing regexp: missing closing )'), 'The pattern in it is not one.'],
  [new Error('It takes too long.'), 'It takes too long.'],
  [new Error('odd\nsecond line'), 'It cannot be worked out (odd).'],
  ['not an error', 'It cannot be worked out (not an error).'],
])('%s', (error, words) => expect(inPlainWords(error)).toBe(words));

it('names the sign at which reading stopped, or that it ends too early', () => {
  expect(inPlainWords(unread(2), '1 $ 2')).toBe('"$" does not belong here.');
  expect(inPlainWords(unread(3), '1 +')).toBe('The formula ends too early.');
});

import { describe, expect, it } from 'vitest';
import { freshId, freshKey, stemOf } from './keys.ts';

describe('a key made of a text', () => {
  it.each([
    ['Shot Clock!', 'shot-clock'],
    ['  9 lives', 'lives'],
    ['Weißer Mäusebär', 'weisser-mausebar'],
    ['Łódź øre Æsir', 'lodz-ore-aesir'],
    ['Ÿ İzmir ŉ', 'y-izmir-n'],
    ['Мяч в игре', 'myach-v-igre'],
    ['Ελλάς', 'ellas'],
    ['ქართული', 'qartuli'],
    ['***', 'field'],
    ['得点', 'field'],
    ['', 'field'],
  ])('of %j is %s', (text, key) => expect(freshKey(text, [], 'field')).toBe(key));

  it('is unlike those taken, said as a list or asked for', () => {
    expect(freshKey('Goal', ['goal', 'goal-2'], 'x')).toBe('goal-3');
    expect(freshKey('得点', (key) => key === 'x', 'x')).toBe('x-2');
    const taken = new Set(['home']);
    expect([freshId(taken, 'Home'), freshId(taken, 'Home'), freshId(taken, '—')]).toEqual([
      'home-2',
      'home-3',
      'layer',
    ]);
  });

  it('is no longer than it is read', () => expect(stemOf('Ж'.repeat(200))).toHaveLength(60));
});

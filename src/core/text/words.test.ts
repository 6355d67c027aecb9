import { describe, expect, it } from 'vitest';
import { unlike } from './words.ts';

describe('a text that none of those taken is', () => {
  it.each([
    ['goals', [], undefined, 'goals'],
    ['goals', ['goals', 'goals 2'], undefined, 'goals 3'],
    ['goals', ['goals'], (n: number) => `goals-${n}`, 'goals-2'],
  ] as const)('%j beside %j', (wanted, taken: readonly string[], nth, free) =>
    expect(unlike(wanted, (text) => taken.includes(text), nth)).toBe(free),
  );
});

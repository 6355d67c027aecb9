import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Rotation } from './rotation.ts';

describe('Rotation', () => {
  const list = fc.uniqueArray(fc.constantFrom(...'abcdef'), { minLength: 1, maxLength: 6 });
  it.each(['forwards', 'backwards'] as const)(
    'neither skips nor repeats nor stalls while the list grows and shrinks, %s',
    (order) => {
      fc.assert(
        fc.property(fc.array(list, { minLength: 2, maxLength: 12 }), (lists) => {
          const rotation = new Rotation();
          let shown: string | null = null;
          let were: string[] = [];
          lists.forEach((given, i) => {
            const keys = order === 'backwards' ? given.toReversed() : given;
            const before = shown;
            shown = rotation.at(given, 1000, i * 1000, order);
            // The next after it, or after the nearest before it that is still there; a list of one has no other.
            const behind = before === null ? [] : were.slice(0, were.indexOf(before) + 1);
            const last = behind.filter((k) => keys.includes(k)).at(-1);
            expect(shown).toBe(keys[last === undefined ? 0 : (keys.indexOf(last) + 1) % keys.length]);
            were = keys;
          });
        }),
      );
    },
  );
  it('shuffled, shows each once a round whatever comes and goes, never one twice in a row, and the same again', () => {
    fc.assert(
      fc.property(fc.array(list, { minLength: 2, maxLength: 30 }), (lists) => {
        const show = () => {
          const rotation = new Rotation();
          return lists.map((keys, i) => rotation.at(keys, 1000, i * 1000, 'shuffled')!);
        };
        const seen = show();
        expect(show()).toEqual(seen);
        seen.forEach((key, i) => {
          expect(lists[i]).toContain(key);
          if (lists[i]!.length > 1 && i > 0) expect(key).not.toBe(seen[i - 1]);
        });
      }),
    );
    const rotation = new Rotation();
    const rounds = Array.from({ length: 24 }, (_, i) => rotation.at([...'abcdef'], 10, i * 10, 'shuffled')!);
    for (let r = 0; r < 24; r += 6) expect(rounds.slice(r, r + 6).toSorted()).toEqual([...'abcdef']);
    expect(new Set([0, 6, 12, 18].map((r) => rounds.slice(r, r + 6).join(''))).size).toBeGreaterThan(1);
  });
  it('goes on with what took the place of one that is gone, and gives it its whole time', () => {
    const rotation = new Rotation();
    expect(rotation.at(['a', 'b', 'c'], 1000, 0)).toBe('a');
    expect(rotation.at(['a', 'b', 'c'], 1000, 1000)).toBe('b');
    expect(rotation.at(['a', 'c'], 1000, 1500)).toBe('c');
    expect(rotation.at(['a', 'c'], 1000, 2400)).toBe('c');
    expect(rotation.at(['a', 'c'], 1000, 2500)).toBe('a');
    expect(rotation.at([], 1000, 2600)).toBeNull();
    expect(rotation.at(['z'], 1000, 2700)).toBe('z');
    expect(rotation.at(['z', 'y'], 1000, 3699)).toBe('z');
    // Two that are gone at once skip nobody.
    const four = new Rotation();
    expect([0, 1, 2].map((i) => four.at([...'abcd'], 1, i))).toEqual(['a', 'b', 'c']);
    expect(four.at(['b', 'd'], 1, 3)).toBe('d');
  });
});

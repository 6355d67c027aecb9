import { expect, it } from 'vitest';
import { COMMON_FIELDS, withCommon } from './common.ts';

it('every game has the fields of both teams and its own, each once, as a profile declares them where it does', () => {
  const own = { key: 'home.name', label: 'Hosts', kind: 'text', group: 'home', maxLength: 10 } as const;
  const all = withCommon([own]);
  expect(all).toHaveLength(COMMON_FIELDS.length);
  expect(new Set(all.map((f) => f.key)).size).toBe(all.length);
  expect(all.find((f) => f.key === 'home.name')).toBe(own);
  const sides = (side: string) =>
    all.flatMap((f) => (f.key.startsWith(side) ? [f.key.slice(side.length)] : []));
  expect(sides('home.').sort()).toEqual(sides('away.').sort());
  expect(withCommon([])).toEqual(COMMON_FIELDS);
});

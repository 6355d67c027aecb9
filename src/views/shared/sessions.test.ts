import { expect, it } from 'vitest';
import { sittingsOf } from './sessions.ts';

const MINUTE = 60_000;
const at = (minute: number, who: string, text = 'Saved it') => ({
  at: minute * MINUTE,
  who,
  text,
  revision: minute,
});

it('a sitting is one version: what it ended with; what has a name stays by itself', () => {
  const versions = [
    at(60, 'Ada'),
    at(59, 'Ada'),
    at(55, 'Ada'),
    at(40, 'Ada'),
    at(39, 'Bo'),
    at(38, 'Ada'),
    at(37, 'Ada', 'Named the template T “for Saturday”'),
    at(36, 'Ada'),
    at(10, ''),
    at(9, ''),
    { ...at(8, ''), before: true },
  ];
  expect(sittingsOf(versions).map((v) => [v.revision, v.saves])).toEqual([
    [60, 3],
    [40, 1],
    [39, 1],
    [38, 1],
    [37, 2],
    [10, 2],
    [8, 1],
  ]);
  expect(sittingsOf([])).toEqual([]);
});

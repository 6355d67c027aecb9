import { describe, expect, it } from 'vitest';
import type { SourceBundle } from '../../core/source/source.ts';
import { neededFields } from './needed.ts';
import { fieldLines, proposals, readingLines } from './overview.ts';
import { profile, templates, source } from '../../../tests/support/prepared.ts';

describe('the patch at a glance', () => {
  const feeds = [{ reading: 'home score', field: 'home.score' }];
  const trouble = (bundles: SourceBundle[], field: string) =>
    fieldLines(profile.fields, bundles, neededFields(templates)).find((l) => l.def.key === field)?.trouble;

  it.each<[string, SourceBundle[], string, string | null]>([
    ['needed and not fed', [], 'home.score', 'unfed'],
    ['needed by nobody', [], 'home.shots', null],
    ['from the game', [], 'home.name', null],
    ['fed', [source('a', feeds)], 'home.score', null],
    ['fed by one that is off', [source('a', feeds, false)], 'home.score', 'unfed'],
    ['two at one place', [source('a', feeds), source('b', feeds)], 'home.score', 'conflict'],
    [
      'two at two places',
      [source('a', feeds), source('b', [{ ...feeds[0], priority: 2 }])],
      'home.score',
      null,
    ],
    ['two, one of them off', [source('a', feeds), source('b', feeds, false)], 'home.score', null],
  ])('%s', (_name, bundles, field, wanted) => expect(trouble(bundles, field)).toBe(wanted));

  it('lists feeders in their order, readings with what they feed, and proposes the rest', () => {
    const a = source('a', [{ reading: 'home score', field: 'home.score', priority: 3, running: 'running' }]);
    const b = source('b', feeds);
    const [line] = fieldLines(profile.fields, [a, b], neededFields(templates)).filter(
      (l) => l.def.key === 'home.score',
    );
    expect(line!.feeders.map((f) => [f.source, f.place])).toEqual([
      ['b', 1],
      ['a', 3],
    ]);
    expect(line!.neededBy).toEqual(['Scoreboard bar']);
    expect(readingLines(a)).toMatchObject([
      { name: 'home score', feeds: ['home.score'], runs: false },
      { name: 'running', feeds: [], runs: true },
      { name: 'period', feeds: [], runs: false },
    ]);
    expect(proposals(a, profile.fields).map((p) => [p.reading, p.field.key])).toEqual([
      ['period', 'situation.period'],
    ]);
  });
});

import { describe, expect, it } from 'vitest';
import type { Derived } from '../derive/derived.ts';
import type { Finding } from './finding.ts';
import { gathered, ofDerived, ofGroups, ofSides, ofTriggers, type OfData } from './findings-of-data.ts';

const FIELDS = ['home.score', 'shots', 'lead', 'round', 'clock', 'clock.running', 'alone'];
const values: Record<string, unknown> = {};
const board = {
  def: (key: string) =>
    FIELDS.includes(key) ? ({ key, label: key.toUpperCase(), kind: 'integer' } as never) : undefined,
  stateOf: (key: string) => ({ value: values[key] ?? null }) as never,
};
const derived = (more: object) => ({ doc: { name: 'X', ...more } as unknown as Derived });
const night: OfData = {
  documents: { trigger: [], rundown: [] },
  tables: [{ key: 'news' }] as never,
  bundles: [
    {
      source: { enabled: true },
      patch: { links: [{ field: 'home.score' }, { field: 'clock' }] },
      document: { tables: [{ key: 'news' }] },
    },
    { source: { enabled: false }, patch: { links: [{ field: 'shots' }] }, document: null },
  ] as never,
  derived: [
    derived({ what: 'field', key: 'lead', value: { field: 'home.score' } }),
    derived({ what: 'field', key: 'alone', value: { field: 'alone' } }),
    derived({ what: 'pick', key: 'round', table: 'news', how: { by: 'rotation' } }),
  ],
  problems: {},
};
const trigger = (when: object, more: object = {}) =>
  ({ key: 't', name: 'Goal', on: true, edge: 'true', when, item: 'i', ...more }) as never;

describe('what would embarrass of what is worked out', () => {
  it.each<[object, RegExp | null]>([
    [{ field: 'home.score' }, null],
    [{ field: 'clock.running' }, null],
    [{ field: 'lead' }, null],
    [{ field: 'round' }, null],
    [{ lookup: { table: 'news', rank: { fixed: 1 }, column: 'title' } }, null],
    [{ fixed: true }, /never changes/],
    [{ field: 'gone' }, /the field "gone", which is not there/],
    [{ field: 'shots' }, /waits for SHOTS, which no source says/],
    [{ field: 'alone' }, /waits for ALONE, which no source says/],
    [
      { lookup: { table: 'other', rank: { fixed: 1 }, column: 'x' } },
      /waits for other, which no source says/,
    ],
  ])('a trigger that waits for %j', (when, says) => {
    const found = ofTriggers({ ...night, documents: { trigger: [trigger(when)], rundown: [] } }, board);
    expect(found.length).toBe(says ? 1 : 0);
    if (says)
      expect(found[0]).toMatchObject({ subject: 'Goal', text: expect.stringMatching(says) as string });
    expect(
      ofTriggers({ ...night, documents: { trigger: [trigger(when, { on: false })], rundown: [] } }, board),
    ).toEqual([]);
  });

  it('a derivation that fails is named with its reason, and leads to it', () => {
    expect(
      ofDerived({ ...night, problems: { lead: 'There is no field "x"; it reads as blank.', gone: 'y' } }),
    ).toMatchObject([
      {
        key: 'derived lead',
        text: 'There is no field "x"; it reads as blank.',
        fix: { href: '/data?derived=lead' },
      },
    ]);
  });

  it.each([
    [{ 'home.mark': 'a', 'away.mark': 'b', 'home.colour': '#102030', 'away.colour': '#d04020' }, []],
    [{ 'home.mark': 'a', 'away.mark': 'a' }, ['They have the same mark.']],
    [{ 'home.mark': '', 'away.mark': '' }, []],
    [{ 'home.colour': '#102030', 'away.colour': '#102030' }, ['Their colours are the same.']],
    [{ 'home.colour': '#b01020', 'away.colour': '#c01830' }, ['Their colours are hardly different.']],
    [{ 'home.colour': '#ffffff', 'away.colour': '#e0e0e0' }, ['Their colours are hardly different.']],
    [{ 'home.colour': '#00a000', 'away.colour': '#a00000' }, []],
  ])('sides that say %j', (says, texts) => {
    for (const key of Object.keys(values)) delete values[key];
    Object.assign(values, says);
    expect(ofSides(board).map((f) => f.text)).toEqual(texts);
  });

  it('groups without items are named', () => {
    const groups = [
      { key: 'a', name: 'Break', items: [] },
      { key: 'b', name: 'Game', items: ['x'] },
    ];
    const found = ofGroups({ ...night, documents: { trigger: [], rundown: [{ groups }] as never } });
    expect(found.map((f) => f.subject)).toEqual(['Break']);
  });

  it('many that say the same are one line with a number, in the place of the first', () => {
    const one = (subject: string, text: string): Finding => ({
      ...{ key: subject, severity: 'look', subject, text },
      fix: { label: '', href: '' },
    });
    const lines = gathered([
      one('A', 'cut'),
      one('B', 'gone'),
      one('C', 'cut'),
      one('D', 'gone'),
      one('E', 'cut'),
    ]);
    expect(lines.map((l) => [l.subject, l.first.text, l.all.length])).toEqual([
      ['A and 2 others', 'cut', 3],
      ['B', 'gone', 1],
      ['D', 'gone', 1],
    ]);
  });
});

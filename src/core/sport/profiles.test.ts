import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { Board } from '../board/board.ts';
import type { FieldValue } from '../board/values.ts';
import { stoppedClock } from '../clock/clock.ts';
import { Derivations } from '../derive/derivations.ts';
import { parseProfile } from './profile.ts';

const folder = new URL('../../../data/basic/profile/', import.meta.url);

function boardOf(key: string, values: Record<string, FieldValue>) {
  const profile = parseProfile(JSON.parse(readFileSync(new URL(`${key}.json`, folder), 'utf8')));
  if (!profile.ok) throw new Error(profile.problems.join('\n'));
  const board = new Board(profile.value.fields);
  const derivations = new Derivations(board);
  for (const derived of profile.value.derived) {
    expect(derivations.refuse(derived)).toBeNull();
    derivations.put(derived, 0);
  }
  const changes = Object.entries(values).map(([field, value]) => ({ key: field, value, origin: 'test' }));
  const applied = board.apply(changes, 0);
  expect(applied.refused).toEqual([]);
  derivations.react(applied.changed, 0);
  expect([...derivations.problems]).toEqual([]);
  return board;
}

const box = stoppedClock(60_000, 'down', 0);

describe('sport profiles', () => {
  it('of version 1 keep what their fields begin with', () => {
    const now = JSON.parse(readFileSync(new URL('baseball.json', folder), 'utf8')) as Record<string, unknown>;
    const text = JSON.stringify({ ...now, schema: 1 }).replaceAll('"default":', '"first":');
    expect(text).toContain('"first":"top"');
    expect(parseProfile(JSON.parse(text))).toEqual(parseProfile(now));
    for (const fields of [undefined, 'none', [7]])
      expect(parseProfile({ ...now, schema: 1, fields }).ok).toBe(false);
  });
  it('ship for seven sports', () => expect(readdirSync(folder).length).toBeGreaterThanOrEqual(7));

  it.each<[string, Record<string, FieldValue>, Record<string, FieldValue>]>([
    [
      'baseball',
      { 'situation.inning': 7, 'situation.half': 'bottom' },
      { 'derived.half': 'bottom 7', 'derived.batting': 'home', 'derived.fielding': 'away' },
    ],
    [
      'baseball',
      {
        'situation.balls': 3,
        'situation.strikes': 2,
        'situation.outs': 1,
        'base.first': true,
        'base.third': true,
      },
      { 'derived.count': '3-2', 'derived.outs': '1 out', 'derived.bases': '1-3' },
    ],
    ['gridiron-football', { 'situation.down': 3, 'situation.distance': 4 }, { 'derived.down': '3rd & 4' }],
    [
      'gridiron-football',
      {
        'situation.down': 1,
        'situation.distance': 0,
        'situation.ball-side': 'away',
        'situation.ball-yard': 8,
        'away.abbr': 'CGF',
      },
      { 'derived.down': '1st & goal', 'derived.ball': 'CGF 8' },
    ],
    ['gridiron-football', {}, { 'derived.down': '', 'derived.ball': '' }],
    [
      'ice-hockey',
      { 'away.penalty1.clock': box, 'situation.period': 4 },
      { 'derived.strength': 'power play 5 on 4', 'derived.power-play': 'home', 'derived.period': 'OT' },
    ],
    [
      'ice-hockey',
      { 'home.penalty1.clock': box, 'away.penalty1.clock': box, 'situation.period': 3 },
      { 'derived.strength': '4 on 4', 'derived.period': '3rd' },
    ],
    [
      'ice-hockey',
      {
        'home.penalty1.clock': box,
        'home.penalty2.clock': box,
        'away.penalty1.clock': box,
        'situation.period': 5,
      },
      { 'derived.strength': 'power play 4 on 3', 'derived.power-play': 'away', 'derived.period': '2OT' },
    ],
    [
      'box-lacrosse',
      { 'home.penalty1.clock': box, 'home.score': 4, 'away.score': 7, 'away.short': 'Foxes' },
      { 'derived.strength': 'power play 5 on 4', 'derived.power-play': 'away', 'derived.lead': 'Foxes by 3' },
    ],
    [
      'basketball',
      { 'away.fouls': 5, 'home.fouls': 4 },
      { 'home.bonus': true, 'away.bonus': false, 'derived.lead': 'Level' },
    ],
    [
      'association-football',
      { 'situation.period': 2, 'situation.added': 3, 'away.red': 1 },
      { 'derived.period': '2nd half', 'derived.added': '+3', 'away.men': 10 },
    ],
    [
      'volleyball',
      { 'situation.set': 5, 'home.score': 14, 'away.score': 12, 'home.sets': 2, 'away.sets': 2 },
      { 'derived.set': 'Set 5', 'home.set-point': true, 'away.set-point': false, 'derived.sets': '2–2' },
    ],
  ])('%s with %j says %j', (sport, values, wanted) => {
    const board = boardOf(sport, values);
    expect(Object.fromEntries(Object.keys(wanted).map((key) => [key, board.read(key)]))).toEqual(wanted);
  });
});

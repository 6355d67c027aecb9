import { readFileSync } from 'node:fs';
import { SportsHost } from './sports-host.ts';
import { describe, expect, it } from 'vitest';
import { FrameDecoder } from '../core/decode/decoder.ts';
import { findCheck, findFraming } from '../core/decode/discover.ts';
import { parseFrameMap } from '../core/decode/frame-map.ts';
import { SportGame, SPORTS } from './sports.ts';

const MAPS: Record<string, string> = {
  baseball: 'simulated-baseball',
  'gridiron-football': 'simulated-gridiron',
  basketball: 'simulated-basketball',
  'ice-hockey': 'simulated-ice-hockey',
  'association-football': 'simulated-association-football',
  volleyball: 'simulated-volleyball',
};
const mapOf = (sport: string) => {
  const file = new URL(`../../data/basic/frame-map/${MAPS[sport]}.json`, import.meta.url);
  const map = parseFrameMap(JSON.parse(readFileSync(file, 'utf8')));
  if (!map.ok) throw new Error(map.problems.join('\n'));
  return map.value;
};
const game = (key: string) =>
  new SportGame(
    SPORTS.find((s) => s.key === key)!,
    false,
  );

describe('the controllers of other sports and the maps that ship for them', () => {
  it.each<[string, Record<string, number | boolean | string>, Record<string, unknown>]>([
    [
      'ice-hockey',
      { clock: 65_000, 'home.score': 3, 'away.shots': 28, 'home.penalty clock': 119_000, running: true },
      {
        'game clock': { ms: 65_000 },
        'home score': 3,
        'away shots': 28,
        'home penalty 1 clock': { ms: 119_000 },
        'away penalty 1 clock': null,
        'game running': true,
      },
    ],
    [
      'basketball',
      { clock: 72_400, 'home.score': 104, shot: 9000, 'away.fouls': 5 },
      {
        'game clock': { ms: 72_400, step: 100 },
        'home score': 104,
        'shot clock': { ms: 9000 },
        'away team fouls': 5,
        'possession arrow': '>',
      },
    ],
    [
      'gridiron-football',
      { clock: 754_000, play: 7000, down: 3, distance: 4, 'away.score': 21, flag: true },
      {
        'game clock': { ms: 754_000 },
        'play clock': { ms: 7000 },
        down: 3,
        'yards to go': 4,
        'away score': 21,
        'flag on the play': true,
        'home has the ball': true,
        'ball on the home side': true,
      },
    ],
    [
      'baseball',
      { inning: 7, half: 'B', balls: 3, first: true, third: true },
      {
        inning: 7,
        half: 'B',
        balls: 3,
        'runner on first': true,
        'runner on second': false,
        'runner on third': true,
      },
    ],
    [
      'association-football',
      { up: 5_405_000, 'home.score': 2, added: 4, running: true },
      { 'match clock': { ms: 5_405_000 }, 'home goals': 2, 'added minutes': 4, 'match running': true },
    ],
    [
      'volleyball',
      { 'home.score': 24, 'away.sets': 2 },
      { hall: 'Königsfähre', 'home points': 24, 'away sets won': 2, 'time-out clock': { ms: 0 } },
    ],
  ])('%s says %j', (sport, state, wanted) => {
    const one = game(sport);
    Object.assign(one.state, state);
    const decoder = new FrameDecoder(mapOf(sport));
    const [frame] = decoder.push(one.sport.encode(one.state));
    expect(decoder.counts).toMatchObject({ good: 1, badChecks: 0, skipped: 0 });
    const said = Object.fromEntries(frame!.readings.map((r) => [r.name, r.value]));
    expect(frame!.readings.filter((r) => r.problem)).toEqual([]);
    expect(said).toMatchObject(wanted);
  });

  it.each(SPORTS.map((s) => [s.key, s] as const))(
    '%s played for an hour stays within its frame, and its cut is found',
    (key, sport) => {
      const one = new SportGame(sport, true);
      const decoder = new FrameDecoder(mapOf(key));
      const stream: number[] = [];
      for (let t = 0; t < 4000; t++) {
        one.advance(900);
        const frame = sport.encode(one.state);
        if (t < 400) stream.push(...frame);
        expect(decoder.push(frame)).toHaveLength(1);
      }
      const bytes = Uint8Array.from(stream);
      const [found] = findFraming(bytes);
      expect(found!.frames[0]!.length).toBe(sport.encode(one.state).length);
      const checks = findCheck(found!.frames, found!.framing);
      const { check } = mapOf(key);
      if (check.kind !== 'none') expect(checks.map((c) => c.kind)).toContain(check.kind);
    },
  );

  it('is worked by its buttons', () => {
    for (const sport of SPORTS) {
      const one = new SportGame(sport, false);
      for (const { label } of sport.buttons) {
        const before = JSON.stringify(one.state);
        expect(one.press(label)).toBeNull();
        if (label !== 'First and ten') expect(JSON.stringify(one.state)).not.toBe(before);
      }
      expect(one.press('Nonsense')).toBe('There is no such button.');
    }
  });

  it('has a console page of its own, and one with all of them', () => {
    const host = new SportsHost();
    const sportsOn = (page: string | null) =>
      [...(page ?? '').matchAll(/data-sport="([\w-]+)"/g)].map((m) => m[1]);
    expect(sportsOn(host.page(null, 4330))).toHaveLength(SPORTS.length);
    const page = host.page('ice-hockey', 4330);
    expect(sportsOn(page)).toEqual(['ice-hockey']);
    expect(page).toContain('port 4333');
    expect(host.page('chess', 4330)).toBeNull();
    host.close();
  });
});

import { describe, expect, it } from 'vitest';
import profileDoc from '../../../data/basic/profile/box-lacrosse.json' with { type: 'json' };
import { stoppedClock } from '../../core/clock/clock.ts';
import { parseProfile } from '../../core/sport/profile.ts';
import { parseTyped, typedText } from '../../core/sport/typed.ts';
import { valueText } from '../shared/Digits.tsx';
import { ageText } from '../shared/time.ts';

const profile = parseProfile(profileDoc);
if (!profile.ok) throw new Error(profile.problems.join());
const def = (key: string) => profile.value.fields.find((f) => f.key === key)!;

describe('what the live view writes', () => {
  it.each([
    [-5, '0 s'],
    [59_999, '59 s'],
    [60_000, '1 min'],
    [3_600_000, '1 h'],
  ])('an age of %d ms is %s', (ms, text) => expect(ageText(ms)).toBe(text));

  it.each([
    ['home.score', 7, '7'],
    ['home.score', null, '–'],
    ['situation.horn', false, 'no'],
    ['clock.shot', stoppedClock(7900, 'down', 0), '7'],
    ['clock.game', stoppedClock(34_560, 'down', 0), '34.5'],
    ['home.mark', '/media/marks/herons.svg', 'herons.svg'],
  ])('%s of %o reads %s', (key, value, text) => expect(valueText(def(key), value, 0)).toBe(text));

  it.each([
    ['home.score', 7],
    ['home.score', null],
    ['situation.horn', true],
    ['situation.possession', 'away'],
    ['clock.game', stoppedClock(332_000, 'down', 5)],
    ['clock.game', stoppedClock(34_500, 'down', 5)],
    ['home.name', 'Thornmere Herons'],
  ])('%s as typed is read back as it was: %o', (key, value) => {
    expect(parseTyped(def(key), typedText(value), 5)).toEqual({ value });
  });
});

import { describe, expect, it } from 'vitest';
import { healthWord, Heartbeat, lampOf, lineHealth, type Health, type SilenceBy } from './health.ts';

const LEAST = { late: 1500, lost: 4000 };
const beating = (...gaps: number[]) => {
  const beat = new Heartbeat();
  let at = 0;
  beat.note(at);
  for (const gap of gaps) beat.note((at += gap));
  return beat;
};

describe('what silence is judged by', () => {
  const every10s = beating(...Array<number>(12).fill(10_000));
  // Bursts of twenty words each ten seconds: the gaps within them are no beat.
  const bursts = beating(...Array.from({ length: 60 }, (_, i) => (i % 20 === 19 ? 10_000 : 20)));
  // One outage is none either.
  const fast = beating(...Array<number>(40).fill(100), 30_000, 100);
  it.each<[string, SilenceBy | undefined, Heartbeat, number, boolean, string]>([
    ['time', undefined, every10s, 2000, true, 'late'],
    ['time', 'time', every10s, 5000, true, 'lost'],
    ['not at all', 'none', every10s, 3_600_000, true, 'live'],
    ['not at all, with the line down', 'none', every10s, 5000, false, 'lost'],
    ['its beat', 'beat', every10s, 24_000, true, 'live'],
    ['its beat', 'beat', every10s, 26_000, true, 'late'],
    ['its beat', 'beat', every10s, 51_000, true, 'lost'],
    ['the beat of its bursts', 'beat', bursts, 20_000, true, 'live'],
    ['a fast beat, never sooner than the limits', 'beat', fast, 1400, true, 'live'],
    ['a fast beat', 'beat', fast, 1600, true, 'late'],
    ['a beat that is not known yet', 'beat', beating(10_000, 10_000), 60_000, true, 'live'],
    ['its beat, with the line down', 'beat', every10s, 5000, false, 'lost'],
  ])('%s (%s)', (_name, by, beat, silence, connected, health) => {
    const now = 1_000_000;
    const line = { lastWord: now - silence, connected, beat };
    expect(lineHealth(line, now, { ...LEAST, by })).toBe(health);
    expect(lineHealth({ ...line, lastWord: null }, now, { ...LEAST, by })).toBe('lost');
  });
});

describe('the word for a source', () => {
  it.each<[Health, boolean, number | null | undefined, string, Health]>([
    ['live', true, undefined, 'live', 'live'],
    ['live', false, undefined, 'no connection', 'late'],
    ['live', false, null, 'no answer', 'late'],
    ['late', false, undefined, 'late', 'late'],
    ['lost', false, 1, 'lost', 'lost'],
    ['off', false, undefined, 'off', 'off'],
  ])('%s, connected: %s, changed: %s', (health, connected, changedAt, word, lamp) => {
    expect(healthWord({ health, connected, changedAt })).toBe(word);
    expect(lampOf({ health, connected, changedAt })).toBe(lamp);
  });
});

import { own } from '../board/own.ts';
import type { FieldDef } from '../sport/profile.ts';

/** Words that mean the same on devices and on boards. */
const SAME: Record<string, string> = {
  guest: 'away',
  visitor: 'away',
  visitors: 'away',
  host: 'home',
  points: 'score',
  goals: 'score',
  quarter: 'period',
  half: 'period',
  time: 'clock',
  timer: 'clock',
  timeouts: 'timeout',
  outs: 'out',
  shots: 'shot',
};

function words(text: string): Set<string> {
  const parts =
    text
      .toLowerCase()
      .replace(/time-outs?/g, 'timeout')
      .match(/[a-z]+|\d+/g) ?? [];
  return new Set(parts.map((w) => own(SAME, w) ?? w).filter((w) => w !== 'left'));
}

/** How alike a reading's name and a field are, 0 (nothing in common) to 1 (the same words). */
export function likeness(reading: string, field: Pick<FieldDef, 'key' | 'label'>): number {
  const [a, b] = [words(reading), words(field.label)];
  const shared = [...a].filter((w) => b.has(w)).length;
  return shared === 0 ? 0 : shared / (a.size + b.size - shared);
}

/** The field that a reading most likely feeds, out of those not yet fed; none when nothing is alike enough. */
export function suggestField(
  reading: string,
  fields: readonly FieldDef[],
  fed: ReadonlySet<string>,
): FieldDef | null {
  let best: FieldDef | null = null;
  let most = 0.45;
  for (const field of fields) {
    const score = fed.has(field.key) ? 0 : likeness(reading, field);
    if (score > most) [best, most] = [field, score];
  }
  return best;
}

/**
 * The flag that most likely says whether a clock's reading runs: of those whose name says that something runs, the one
 * that shares a word with the clock's name, else the only one. None where neither is so.
 */
export function suggestRunning(reading: string, flags: readonly string[]): string | null {
  const running = flags.filter((f) => /\b(running|runs)\b/i.test(f));
  const own = words(reading);
  own.delete('clock');
  const [shared, ...more] = running.filter((f) => [...words(f)].some((w) => own.has(w)));
  if (shared !== undefined) return more.length === 0 ? shared : null;
  return running.length === 1 ? running[0]! : null;
}

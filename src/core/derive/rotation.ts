import { ListOf, Num, OrNull, Text } from '../document/rules.ts';

/** Where a rotation stands, as plain data. */
export class RotationMemory {
  @OrNull() @Text(0, 2000) current!: string | null;
  @Num(0) round!: number;
  /** The keys that were shown in this round. */
  @ListOf((v) => typeof v === 'string', 'must be keys of rows') shown!: string[];
}

/** In which order a rotation goes through its list. */
export type RotationOrder = 'forwards' | 'backwards' | 'shuffled';

/**
 * Goes through the keys of a list, each for its dwell: it starts at the first and begins again after the last. When
 * the list grows or shrinks meanwhile none is skipped, repeated or waited for: the next is always the one that stands
 * after the present one now, and where the present one is gone, what stands after those that were before it.
 *
 * Shuffled, each round shows every key once, in an order that looks like chance but is the same for the same keys, so
 * that a tape played again shows the same; what comes in during a round is shown in it, and no key follows itself.
 */
export class Rotation {
  private current: string | null = null;
  private since = 0;
  /** The list as it stood when it was last looked at. */
  private before: readonly string[] = [];
  private round = 0;
  private shown = new Set<string>();

  /** The key to show at `now` (ms) with this list and each key's dwell (ms); null while the list is empty. */
  at(
    list: readonly string[],
    dwell: number | ((key: string) => number),
    now: number,
    order: RotationOrder = 'forwards',
  ): string | null {
    const keys = order === 'backwards' ? list.toReversed() : list;
    const here = this.current !== null && keys.includes(this.current);
    if (keys.length === 0) this.current = null;
    else if (!here || now - this.since >= (typeof dwell === 'number' ? dwell : dwell(this.current!))) {
      this.current = order === 'shuffled' ? this.drawn(keys) : this.after(keys, here);
      this.since = now;
    }
    this.before = keys;
    return this.current;
  }

  /** Where it stands: with what it shows, and for a shuffled one what this round has shown. */
  remember(): RotationMemory {
    return { current: this.current, round: this.round, shown: [...this.shown] };
  }

  /** Stands where it stood: what it showed then has its whole dwell again from `now` (ms) on. */
  recall({ current, round, shown }: RotationMemory, now: number): void {
    Object.assign(this, { current, round, shown: new Set(shown), since: now });
  }

  private after(keys: readonly string[], here: boolean): string {
    if (this.current === null) return keys[0]!;
    let place = here ? keys.indexOf(this.current) : -1;
    // Gone: it goes on after the nearest of those before it that is still there.
    for (let i = this.before.indexOf(this.current) - 1; i >= 0 && place < 0; i--)
      place = keys.indexOf(this.before[i]!);
    return keys[(place + 1) % keys.length]!;
  }

  private drawn(keys: readonly string[]): string {
    let left = keys.filter((k) => !this.shown.has(k));
    if (left.length === 0) {
      this.round++;
      this.shown.clear();
      left = keys.length > 1 ? keys.filter((k) => k !== this.current) : [...keys];
    }
    const next = left.reduce((a, b) => (hash(`${this.round} ${a}`) <= hash(`${this.round} ${b}`) ? a : b));
    this.shown.add(next);
    return next;
  }
}

/** FNV-1a, 32 bits (draft-eastlake-fnv), over the text's UTF-16 units, mixed once more so that near texts lie apart. */
function hash(text: string): number {
  let h = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) h = Math.imul(h ^ text.charCodeAt(i), 0x01000193);
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d);
  return (h ^ (h >>> 13)) >>> 0;
}

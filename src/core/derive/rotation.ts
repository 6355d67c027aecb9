/**
 * Goes through the keys of a list, each for its dwell: it starts at the first and begins again after the last. When
 * the list grows or shrinks meanwhile none is skipped, repeated or waited for: the next is always the one that stands
 * after the present one now, and where the present one is gone, the one that took its place.
 */
export class Rotation {
  private current: string | null = null;
  private index = 0;
  private since = 0;

  /** The key to show at `now` (ms) with this list; null while it is empty. */
  at(keys: readonly string[], dwell: number, now: number): string | null {
    if (keys.length === 0) {
      this.current = null;
      this.index = 0;
      return null;
    }
    const found = this.current === null ? -1 : keys.indexOf(this.current);
    if (found >= 0) this.index = found;
    if (this.current === null) this.show(keys, 0, now);
    // Gone: what stands in its place now is next, at once, and gets its own time.
    else if (found < 0) this.show(keys, this.index % keys.length, now);
    else if (now - this.since >= dwell) this.show(keys, (this.index + 1) % keys.length, now);
    return this.current;
  }

  /** How long until the next one is due, in ms. */
  due(dwell: number, now: number): number {
    return Math.max(0, this.since + dwell - now);
  }

  private show(keys: readonly string[], index: number, now: number): void {
    this.index = index;
    this.current = keys[index]!;
    this.since = now;
  }
}

/** A plain value; `null` is blank: known to hold nothing. */
export type Scalar = string | number | boolean | null;

/**
 * A clock as it travels: not as text ten times a second, but as what is needed to draw it.
 * Times are milliseconds; `anchor` is server time (ms since the epoch).
 */
export interface ClockState {
  /** What the clock stood at, at `anchor`. */
  value: number;
  running: boolean;
  direction: 'down' | 'up';
  anchor: number;
  /** How far it may run without a new word from its source: the end of the second that was confirmed. */
  until: number;
}

export type FieldValue = Scalar | ClockState;

/** True for a clock, false for text, number, flag and blank. */
export function isClock(value: FieldValue | undefined): value is ClockState {
  return typeof value === 'object' && value !== null;
}

/** True when two field values say the same. Clocks are equal when every part is. */
export function sameValue(a: FieldValue, b: FieldValue): boolean {
  if (a === b) return true;
  if (!isClock(a) || !isClock(b)) return false;
  return (
    a.value === b.value &&
    a.running === b.running &&
    a.anchor === b.anchor &&
    a.until === b.until &&
    a.direction === b.direction
  );
}

/** The same value as if everything had happened `by` ms later: a clock's anchor moves, all else stays. */
export function shifted<T extends FieldValue>(value: T, by: number): T {
  const known: FieldValue = value;
  return isClock(known) ? ({ ...known, anchor: known.anchor + by } as T) : value;
}

/** How far a field can be trusted: its source speaks, is late, or is lost; `none` where nothing was said yet. */
export type Quality = 'ok' | 'late' | 'lost' | 'none';

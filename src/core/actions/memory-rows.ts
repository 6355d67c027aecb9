import type { BoardMemory } from '../board/board.ts';
import { isClock, shifted, type FieldValue } from '../board/values.ts';
import { clockAt, stoppedClock } from '../clock/clock.ts';
import type { IntakeMemory } from '../tape/memory.ts';
import { edit, type BoardRow, type Edit, type Pin } from './change.ts';
import type { Situation } from './situation.ts';

/** A value as it is kept: clocks at rest. */
export const atRest = (value: FieldValue, now: number): FieldValue =>
  isClock(value) ? stoppedClock(clockAt(value, now), value.direction, now) : value;

/** Rows of the board as they are kept, of what a memory of it says. */
export const rowsOf = ({ fields }: BoardMemory, now: number): BoardRow[] =>
  fields.map(({ key, value, origin }) => ({
    field: key,
    value: atRest(shifted(value, now), now),
    origin,
    at: now,
  }));

/** Blank rows for fields that have one no more. */
export const blank = (keys: Iterable<string>, now: number): BoardRow[] =>
  [...keys].map((field) => ({ field, value: null, origin: '', at: now }));

/** The rows after a change: what the memory says, and blanks where only the one before it said something. */
export function rowsAfter(was: IntakeMemory, is: IntakeMemory, now: number): BoardRow[] {
  const kept = new Set(is.board.fields.map((f) => f.key));
  return [
    ...blank(
      was.board.fields.map((f) => f.key).filter((key) => !kept.has(key)),
      now,
    ),
    ...rowsOf(is.board, now),
  ];
}

/** Everything that is held by hand now, by its field. */
export const pinsNow = ({ board }: Pick<Situation, 'board'>): Map<string, Pin> =>
  new Map(
    [...board.fields].flatMap(({ key }) => {
      const pin = board.state(key)?.pin;
      return pin ? [[key, pin]] : [];
    }),
  );

/** The edits that make what is held by hand other. */
export const pinEdits = (were: ReadonlyMap<string, Pin>, are: ReadonlyMap<string, Pin>): Edit[] =>
  [...new Set([...were.keys(), ...are.keys()])].map((field) =>
    edit('pin', field, were.get(field) ?? null, are.get(field) ?? null),
  );

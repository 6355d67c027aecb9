import type { Logger } from 'pino';
import type { BoardRow } from '../../core/actions/change.ts';
import { isRecord } from '../../core/board/own.ts';
import type { FieldValue } from '../../core/board/values.ts';
import {
  AUTOMATIC,
  emptyLane,
  laneKey,
  type Automatic,
  type Lane,
  type OnAir,
} from '../../core/show/show.ts';
import { isFieldValue } from '../../core/tape/memory.ts';
import { parsedJson } from './board-memory.ts';
import type { BoardRow as BoardModel, LaneRow, PinRow } from './models.ts';

/** Something that is kept does not say what it should. */
class Unreadable extends Error {}

/**
 * What rows say, those left out that cannot be read, in any number: a start must not fail of them. They stay as they are, until
 * something else is written in their place.
 */
export const readable = <R, T>(
  rows: readonly R[],
  what: string,
  nameOf: (row: R) => string,
  read: (row: R) => T,
  log: Logger,
): T[] =>
  rows.flatMap((row) => {
    try {
      return [read(row)];
    } catch (error) {
      const problem = error instanceof Error ? error.message : String(error);
      log.error({ what, key: nameOf(row), problem }, 'what is kept cannot be read and is left out');
      return [];
    }
  });

/** What a text of a row says. Throws where it is not JSON. */
export function jsonOf(text: string | null): unknown {
  const value = parsedJson(text ?? 'null');
  if (value === undefined) throw new Unreadable('it is not JSON');
  return value;
}

/** What stands in a lane; in rows of before there were layouts it does not say which. */
function stoodIn(text: string | null): OnAir | null {
  const value = jsonOf(text);
  if (value === null) return null;
  const { item, takenAt, inputs } = isRecord(value) ? value : {};
  if (typeof item !== 'string' || typeof takenAt !== 'number' || !isRecord(inputs))
    throw new Unreadable('it does not say which item stands there');
  return value as unknown as OnAir;
}

function queueIn(text: string | null): string[] {
  const queue = jsonOf(text) ?? [];
  if (!Array.isArray(queue) || !queue.every((key) => typeof key === 'string'))
    throw new Unreadable('the queue is no list of items');
  return queue;
}

const valueIn = (text: string): FieldValue => {
  const value = jsonOf(text);
  if (!isFieldValue(value)) throw new Unreadable('it is not the value of a field');
  return value;
};

/** The lanes; one that cannot be read is empty. */
export const lanesOf = (rows: readonly LaneRow[], log: Logger): Lane[] =>
  readable(
    rows,
    'lane',
    laneKey,
    ({ output, zone, next, onAir, past, queue, off }) => ({
      ...emptyLane({ output, zone }),
      next,
      onAir: stoodIn(onAir),
      before: stoodIn(past),
      queue: queueIn(queue),
      off: (off?.split(' ') ?? []).filter((one): one is Automatic => AUTOMATIC.includes(one as Automatic)),
    }),
    log,
  );

/** What is pinned. */
export const pinsOf = (rows: readonly PinRow[], log: Logger) =>
  readable(
    rows,
    'pin',
    (r) => r.field,
    ({ field, value, at }) => ({ field, value: valueIn(value), at }),
    log,
  );

/** What the board said last. */
export const boardOf = (rows: readonly BoardModel[], log: Logger): BoardRow[] =>
  readable(
    rows,
    'board value',
    (r) => r.field,
    ({ field, value, origin, at }) => ({ field, value: valueIn(value), origin, at }),
    log,
  );

/** The object that a row's text says. Throws where it is none. */
export function recordIn(text: string): Record<string, unknown> {
  const value = jsonOf(text);
  if (!isRecord(value)) throw new Unreadable('it is no object');
  return value;
}

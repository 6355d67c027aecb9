import type { Row } from '../board/tables.ts';
import { evaluate, type Scope, type Value } from '../value/value.ts';
import type { CellAt } from './traced.ts';

/** What a Value read when it was worked out, each once, in the order of reading. */
export interface Reads {
  fields: string[];
  inputs: string[];
  cells: CellAt[];
}

/**
 * Works a Value out and tells what it read: only the case that holds counts, not all that it may ask for. `keyAt` gives
 * the key of the row at a rank, counted from 1.
 */
export function readsOf(
  value: Value,
  scope: Scope,
  keyAt: (table: string, rank: number) => string | undefined,
): Reads {
  const fields = new Set<string>();
  const inputs = new Set<string>();
  const cells = new Map<string, CellAt>();
  const watched = (table: string, key: string | undefined, row: Row | undefined): Row | undefined =>
    row &&
    new Proxy(row, {
      // Every cell is looked up as the row's own (`own`), so this is where it is read.
      getOwnPropertyDescriptor: (target, column) => {
        if (typeof column === 'string' && key !== undefined)
          cells.set(JSON.stringify([table, key, column]), { table, row: key, column });
        return Reflect.getOwnPropertyDescriptor(target, column);
      },
    });
  evaluate(value, {
    field: (key) => {
      fields.add(key);
      return scope.field(key);
    },
    input: (key) => {
      inputs.add(key);
      return scope.input(key);
    },
    row: (table, key) => watched(table, key, scope.row?.(table, key)),
    ranked: (table, rank) => watched(table, keyAt(table, rank), scope.ranked?.(table, rank)),
  });
  return { fields: [...fields], inputs: [...inputs], cells: [...cells.values()] };
}

import { own } from '../../core/board/own.ts';
import type { Scalar } from '../../core/board/values.ts';
import type { BoardReader } from '../../core/resolve/dependents.ts';
import type { Scope } from '../../core/value/value.ts';

/** What a Value reads in a page: a board, and what inputs hold. */
export const scopeOf = (board: BoardReader, inputs: Readonly<Record<string, Scalar>> = {}): Scope => ({
  field: (key) => board.read(key),
  input: (key) => own(inputs, key) ?? null,
  row: (table, key) => board.row(table, key),
  ranked: (table, rank) => board.ranked(table, rank),
});

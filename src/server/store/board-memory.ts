import type { Logger } from 'pino';
import type { BoardRow } from '../../core/actions/change.ts';
import type { TableMemory } from '../../core/board/tables.ts';
import { RotationMemory } from '../../core/derive/rotation.ts';
import { readAs, type DocumentClass } from '../../core/document/check.ts';
import { TableKnown } from '../../core/tape/memory.ts';
import { BoardRow as BoardModel, MemoryRow } from './models.ts';
import { deleteStatement, upsertStatement, type Statement } from './statements.ts';

/** What the board remembers over a restart beside its values: the rows that sources said last, and where rotations stood. */
export interface BoardMemory {
  tables: TableMemory[];
  rotations: Map<string, RotationMemory>;
}

/** A part of it; `body` is null where there is none any more. */
export type Memory = { key: string } & (
  | { kind: 'table'; body: TableMemory | null }
  | { kind: 'rotation'; body: RotationMemory | null }
);

/** What a text says; undefined where it is not JSON. */
export function parsedJson(text: string): unknown {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    return undefined;
  }
}

/** What is remembered, out of its rows. */
export const boardMemoryOf = (rows: readonly MemoryRow[], log: Logger): BoardMemory => ({
  tables: readRows(rows, 'table', TableKnown, log).map((m) => m.body),
  rotations: new Map(readRows(rows, 'rotation', RotationMemory, log).map(({ key, body }) => [key, body])),
});

/** What is remembered of a kind. What cannot be read is left out: sources say it again, a rotation begins anew. */
function readRows<T extends object>(
  rows: readonly MemoryRow[],
  kind: Memory['kind'],
  of: DocumentClass<T>,
  log: Logger,
): { key: string; body: T }[] {
  return rows
    .filter((row) => row.kind === kind)
    .flatMap(({ key, body }) => {
      const read = readAs(of, parsedJson(body));
      if (read.ok) return [{ key, body: read.value }];
      log.error({ kind, key, problems: read.problems.slice(0, 3) }, 'what was remembered cannot be read');
      return [];
    });
}

/** What writes it down, or away where there is none any more. */
export const memoryStatement = ({ kind, key, body }: Memory): Statement =>
  body
    ? upsertStatement(MemoryRow, { kind, key, body: JSON.stringify(body) })
    : deleteStatement(MemoryRow, { kind, key });

/** What writes values of the board down. */
export const boardStatements = (rows: readonly BoardRow[]): Statement[] =>
  rows.length
    ? [
        upsertStatement(
          BoardModel,
          ...rows.map(({ field, value, origin, at }) => ({
            field,
            value: JSON.stringify(value),
            origin,
            at,
          })),
        ),
      ]
    : [];

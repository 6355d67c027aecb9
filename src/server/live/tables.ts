import { XMLBuilder } from 'fast-xml-parser';
import Papa from 'papaparse';
import type { Board } from '../../core/board/board.ts';
import type { Table } from '../../core/board/tables.ts';
import type { DeskTable } from '../../core/wire/wire.ts';
import { readout, type Readout } from './readouts.ts';

/** Desks get this many rows of a table; the read-out has all. */
const SHOWN = 500;

/** Some of the board's tables as desks see them, and which of them are gone. */
export function deskTables(board: Board, keys: readonly string[]): { tables: DeskTable[]; gone: string[] } {
  const found = keys.flatMap((key) => board.tables.get(key) ?? []);
  return {
    tables: found.map(({ rows, ...table }) => ({
      ...table,
      rows: [...rows].slice(0, SHOWN),
      total: rows.size,
    })),
    gone: keys.filter((key) => !board.tables.get(key)),
  };
}

/** One table in an open format, all of its rows; null for a table or a format that is not there. */
export function tableReadout(board: Board, key: string, format: string): Readout | null {
  const table = board.tables.get(key);
  if (!table) return null;
  const rows = [...table.rows.values()];
  switch (format) {
    case 'json':
      return readout('application/json', JSON.stringify({ ...summary(table), rows }, null, 1));
    case 'csv':
      return readout('text/csv', `${Papa.unparse(rows, { columns: table.columns })}\r\n`);
    case 'xml': {
      const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: '@', format: true });
      const row = rows.map((r) => ({
        cell: table.columns.map((column) => ({ '@column': column, '#text': String(r[column] ?? '') })),
      }));
      return readout(
        'application/xml',
        `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build({ table: { '@key': key, row } })}`,
      );
    }
    default:
      return null;
  }
}

const summary = ({ key, name, columns, origin, quality }: Table) => ({ key, name, columns, origin, quality });

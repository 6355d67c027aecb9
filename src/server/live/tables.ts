import { own } from '../../core/board/own.ts';
import { XMLBuilder } from 'fast-xml-parser';
import Papa from 'papaparse';
import type { Board } from '../../core/board/board.ts';
import type { Table } from '../../core/board/tables.ts';
import { tableChange, wholeTable } from '../../core/wire/table-change.ts';
import type { DeskOp, DeskTable, TableChange } from '../../core/wire/wire.ts';
import { readout, type Readout } from './readouts.ts';

/** What the desks know of the board's tables, so that they are told what changed and no more. */
export class ToldTables {
  private readonly told = new Map<string, Readonly<Table>>();

  constructor(private readonly board: Board) {}

  /** Every table whole, for a page that comes. */
  whole(): DeskTable[] {
    return this.board.tables.list().map(wholeTable);
  }

  /** What changed in these tables since it was told last, and which of them are gone. */
  changes(keys: readonly string[]): Extract<DeskOp, { op: 'tables' }> {
    const tables: (DeskTable | TableChange)[] = [];
    const gone: string[] = [];
    for (const key of new Set(keys)) {
      const now = this.board.tables.get(key);
      if (now) {
        tables.push(tableChange(this.told.get(key), now));
        this.told.set(key, now);
      } else {
        gone.push(key);
        this.told.delete(key);
      }
    }
    return { op: 'tables', tables, gone };
  }
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
        cell: table.columns.map((column) => ({ '@column': column, '#text': String(own(r, column) ?? '') })),
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

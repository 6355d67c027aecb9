import Papa from 'papaparse';
import writeWorkbook from 'write-excel-file/node';

export const COLUMNS = ['slot', 'sponsor', 'line', 'seconds', 'on'] as const;
export type SheetRow = Record<(typeof COLUMNS)[number], string>;

const START: SheetRow[] = [
  { slot: '001', sponsor: 'Peat & Copper Kettles', line: 'Tea at both breaks', seconds: '8', on: 'yes' },
  { slot: '002', sponsor: 'Slatebank Savings', line: 'A steady hand since always', seconds: '10', on: 'yes' },
  { slot: '003', sponsor: 'Old Mill Boots', line: 'Dry feet, whatever falls', seconds: '6', on: 'no' },
  {
    slot: '004',
    sponsor: 'Larkrise Buses',
    line: 'The last bus waits for overtime',
    seconds: '8',
    on: 'yes',
  },
];

/** The sheet that the sponsor desk edits, served as CSV and as a workbook. */
export class Sheet {
  rows: SheetRow[] = structuredClone(START);
  private workbook: { of: SheetRow[]; made: Promise<Buffer> } | null = null;

  /** Replaces the rows; gives a sentence when they are none. */
  set(rows: unknown): string | null {
    if (!Array.isArray(rows) || rows.length > 200) return 'A sheet has 200 rows at most.';
    this.rows = rows.map((row) => {
      const given = typeof row === 'object' && row !== null ? (row as Record<string, unknown>) : {};
      return Object.fromEntries(COLUMNS.map((c) => [c, String(given[c] ?? '').slice(0, 200)])) as SheetRow;
    });
    return null;
  }

  csv(): string {
    return `${Papa.unparse(this.rows, { columns: [...COLUMNS] })}\r\n`;
  }

  /** The same bytes until the rows change: a workbook bears the time at which it was written. */
  xlsx(): Promise<Buffer> {
    if (this.workbook?.of !== this.rows) this.workbook = { of: this.rows, made: this.write() };
    return this.workbook.made;
  }

  private async write(): Promise<Buffer> {
    const heading = COLUMNS.map((value) => ({ value, fontWeight: 'bold' as const }));
    const rows = this.rows.map((r) =>
      COLUMNS.map((c) =>
        c === 'seconds' && r[c] !== '' && Number.isFinite(Number(r[c]))
          ? { value: Number(r[c]), type: Number }
          : { value: r[c], type: String },
      ),
    );
    return writeWorkbook([heading, ...rows], { sheet: 'sponsors' }).toBuffer();
  }
}

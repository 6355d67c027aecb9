import Papa from 'papaparse';
import { guessText } from '../../core/text/decode-text.ts';
import { headingRow } from '../../core/tree/sheet.ts';
import { ROSTER_PARTS, type RosterPart } from '../../core/show/roster.ts';
import type { Player } from '../../core/show/game.ts';

export const HEADINGS: Record<RosterPart, string> = {
  number: 'Number',
  first: 'First name',
  last: 'Last name',
  position: 'Position',
  class: 'Class',
  headshot: 'Headshot',
};

/** Reads a sheet (CSV or XLSX) as rows of texts, the first its headings. Throws an Error with one sentence. */
export async function readSheet(file: File): Promise<{ headings: string[]; rows: string[][] }> {
  const head = new Uint8Array(await file.slice(0, 2).arrayBuffer());
  const cells =
    head[0] === 0x50 && head[1] === 0x4b
      ? await readWorkbookRows(file)
      : readCsv(guessText(new Uint8Array(await file.arrayBuffer())), file.name);
  // Titles above the headings are passed over.
  const at = headingRow(cells.map((row) => row.map((shows) => ({ shows }))));
  const [headings, ...rows] = cells.slice(Math.max(0, at));
  if (!headings || rows.length === 0) throw new Error(`${file.name} has no rows below its headings.`);
  return { headings, rows };
}

function readCsv(text: string, name: string): string[][] {
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: 'greedy' });
  if (text.includes('\0') || errors.some((e) => e.type === 'Quotes'))
    throw new Error(`${name} is neither CSV nor a workbook.`);
  return data;
}

async function readWorkbookRows(file: File): Promise<string[][]> {
  const { default: read } = await import('read-excel-file/browser');
  try {
    const [sheet] = (await read(file)) as unknown as { data: unknown[][] }[];
    return (sheet?.data ?? []).map((row) => row.map((cell) => (cell === null ? '' : String(cell))));
  } catch {
    throw new Error(`${file.name} is a damaged workbook.`);
  }
}

const table = (players: readonly Player[]) => [
  ROSTER_PARTS.map((part) => HEADINGS[part]),
  ...players.map((p) => ROSTER_PARTS.map((part) => p[part])),
];

/** A roster as CSV. */
export const rosterCsv = (players: readonly Player[]) => `${Papa.unparse(table(players))}\r\n`;

/** A roster as a workbook: numbers stay texts, so that 07 stays 07. */
export async function rosterWorkbook(players: readonly Player[]): Promise<Blob> {
  const { default: write } = await import('write-excel-file/browser');
  const rows = table(players).map((row) => row.map((value) => ({ value, type: String })));
  return write(rows, { sheet: 'Players' }).toBlob();
}

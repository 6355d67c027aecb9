import { unzipSync } from 'fflate';
import { format as formatNumber, isDateFormat } from 'numfmt';
import { SaxesParser } from 'saxes';
import type { Scalar } from '../../../core/board/values.ts';
import { DocumentProblem, Measure, MOST_COLUMNS, MOST_ROWS } from './limits.ts';

/** The largest part of a workbook and all that are read of it, unpacked, in bytes. */
const LARGEST_PART = 100_000_000;
const LARGEST = 200_000_000;

/** A cell: what it shows, and the number behind that where it is another. */
export interface Cell {
  shows: Scalar;
  raw?: number;
}

export interface Sheet {
  name: string;
  /** Rows that have something in them, in order; cells by their column, with holes. */
  rows: (Cell | undefined)[][];
}

type Parts = Record<string, Uint8Array>;

/** The parts of the package that are read (ECMA-376, part 2); what their headers say is checked before it is unpacked. */
function unpacked(bytes: Uint8Array): Parts {
  let length = 0;
  return unzipSync(bytes, {
    filter: ({ name, originalSize }) => {
      if (
        !/^xl\/(workbook|sharedStrings|styles|_rels\/workbook\.xml|worksheets\/[^/]+)\.(xml|rels)$/.test(name)
      )
        return false;
      length += originalSize;
      if (originalSize > LARGEST_PART || length > LARGEST)
        throw new DocumentProblem(`The workbook unpacks to more than ${LARGEST_PART / 1e6} MB`);
      return true;
    },
  });
}

interface Handlers {
  open?(name: string, attributes: Record<string, string>): void;
  text?(text: string): void;
  close?(name: string): void;
}

/** Reads one part; names without their prefix. */
function readXml(bytes: Uint8Array | undefined, { open, text, close }: Handlers): void {
  if (!bytes) return;
  const parser = new SaxesParser({ xmlns: false, position: false });
  const local = (name: string) => name.slice(name.indexOf(':') + 1);
  parser.on('error', (error) => {
    throw error;
  });
  if (open) parser.on('opentag', (tag) => open(local(tag.name), tag.attributes as Record<string, string>));
  if (text) parser.on('text', text);
  if (close) parser.on('closetag', (tag) => close(local(tag.name)));
  const decoder = new TextDecoder();
  for (let at = 0; at < bytes.length; at += 1 << 20)
    parser.write(decoder.decode(bytes.subarray(at, at + (1 << 20)), { stream: true }));
  parser.close();
}

/** The texts that cells share; those of phonetic guides are none. */
function sharedTexts(bytes: Uint8Array | undefined, measure: Measure): string[] {
  const texts: string[] = [];
  let now: string | null = null;
  let inText = false;
  let phonetic = 0;
  readXml(bytes, {
    open: (name) => {
      if (name === 'si') now = '';
      else if (name === 'rPh') phonetic++;
      else if (name === 't') inText = phonetic === 0;
    },
    text: (part) => {
      if (inText && now !== null) now += part;
    },
    close: (name) => {
      if (name === 't') inText = false;
      else if (name === 'rPh') phonetic--;
      else if (name === 'si') {
        measure.add(1);
        texts.push(now ?? '');
        now = null;
      }
    },
  });
  return texts;
}

/** The number formats that the standard names without writing them out (ECMA-376, 18.8.30). */
const BUILT_IN = new Map<number, string>([
  [0, 'General'],
  [1, '0'],
  [2, '0.00'],
  [3, '#,##0'],
  [4, '#,##0.00'],
  [9, '0%'],
  [10, '0.00%'],
  [11, '0.00E+00'],
  [12, '# ?/?'],
  [13, '# ??/??'],
  [14, 'yyyy-mm-dd'],
  [15, 'd-mmm-yy'],
  [16, 'd-mmm'],
  [17, 'mmm-yy'],
  [18, 'h:mm AM/PM'],
  [19, 'h:mm:ss AM/PM'],
  [20, 'h:mm'],
  [21, 'h:mm:ss'],
  [22, 'yyyy-mm-dd h:mm'],
  [37, '#,##0;(#,##0)'],
  [38, '#,##0;(#,##0)'],
  [39, '#,##0.00;(#,##0.00)'],
  [40, '#,##0.00;(#,##0.00)'],
  [45, 'mm:ss'],
  [46, '[h]:mm:ss'],
  [47, 'mm:ss.0'],
  [48, '##0.0E+0'],
  [49, '@'],
]);

/** The format of each style that cells name. */
function formatsOf(bytes: Uint8Array | undefined): string[] {
  const own = new Map(BUILT_IN);
  const formats: string[] = [];
  let inCells = false;
  readXml(bytes, {
    open: (name, a) => {
      if (name === 'numFmt') own.set(Number(a['numFmtId']), a['formatCode'] ?? 'General');
      else if (name === 'cellXfs') inCells = true;
      else if (name === 'xf' && inCells) formats.push(own.get(Number(a['numFmtId'] ?? 0)) ?? 'General');
    },
    close: (name) => {
      if (name === 'cellXfs') inCells = false;
    },
  });
  return formats;
}

/** What a number shows under its format; a number as it is where that says nothing of how. */
function shown(value: number, pattern: string, date1904: boolean): Cell {
  if (pattern === 'General' || pattern === '@' || !Number.isFinite(value)) return { shows: value };
  try {
    // Days count from 1904 in some workbooks.
    const serial = date1904 && isDateFormat(pattern) ? value + 1462 : value;
    // A day alone is written by the standard that all formats read (ISO 8601).
    const day = isDateFormat(pattern) && /y/i.test(pattern) && !/h/i.test(pattern);
    const shows = formatNumber(day ? 'yyyy-mm-dd' : pattern, serial, { throws: true }).trim();
    return { shows, raw: value };
  } catch {
    return { shows: value };
  }
}

/** The column that a reference such as `XFD1048576` names, from 0; -1 for none. */
function columnOf(reference: string): number {
  let column = 0;
  for (const sign of /^[A-Z]{1,3}/.exec(reference)?.[0] ?? '') column = column * 26 + sign.charCodeAt(0) - 64;
  return column - 1;
}

function sheetOf(
  name: string,
  bytes: Uint8Array | undefined,
  {
    texts,
    formats,
    date1904,
    measure,
  }: { texts: string[]; formats: string[]; date1904: boolean; measure: Measure },
): Sheet {
  const rows: Sheet['rows'] = [];
  let row: (Cell | undefined)[] = [];
  let next = 0;
  let cell: { column: number; type: string; style: number; text: string } | null = null;
  let reading = false;
  const cellOf = ({ type, style, text }: NonNullable<typeof cell>): Cell | undefined => {
    if (text === '') return undefined;
    if (type === 's') return { shows: texts[Number(text)] ?? null };
    if (type === 'b') return { shows: text === '1' };
    if (type === 'str' || type === 'inlineStr' || type === 'd') return { shows: text };
    // An error (#N/A) is nothing that a board could say.
    if (type === 'e') return undefined;
    return shown(Number(text), formats[style] ?? 'General', date1904);
  };
  readXml(bytes, {
    open: (tag, a) => {
      if (tag === 'row') {
        row = [];
        next = 0;
      } else if (tag === 'c') {
        const column = a['r'] ? columnOf(a['r']) : next;
        next = column + 1;
        cell = { column, type: a['t'] ?? 'n', style: Number(a['s'] ?? 0), text: '' };
      } else if (tag === 'v' || tag === 't') reading = cell !== null;
      else if (tag === 'rPh') reading = false;
    },
    text: (part) => {
      if (reading && cell) cell.text += part;
    },
    close: (tag) => {
      if (tag === 'v' || tag === 't') reading = false;
      else if (tag === 'c' && cell) {
        const made = cellOf(cell);
        // What stands far to the right of everything is a slip, and costs what it is and not what lies between.
        if (made && cell.column >= 0 && cell.column < MOST_COLUMNS) {
          measure.add(1);
          row[cell.column] = made;
        }
        cell = null;
      } else if (tag === 'row' && row.length && rows.length < MOST_ROWS) rows.push(row);
    },
  });
  return { name, rows };
}

/**
 * Reads a workbook (Office Open XML, ECMA-376): its sheets in order, what each cell shows, and the number behind it.
 * Throws a DocumentProblem for what is none or too large.
 */
export function readWorkbook(bytes: Uint8Array, measure = new Measure()): Sheet[] {
  try {
    const parts = unpacked(bytes);
    const targets = new Map<string, string>();
    readXml(parts['xl/_rels/workbook.xml.rels'], {
      open: (name, a) => {
        if (name === 'Relationship') targets.set(a['Id'] ?? '', a['Target'] ?? '');
      },
    });
    const sheets: { name: string; part: string }[] = [];
    let date1904 = false;
    readXml(parts['xl/workbook.xml'], {
      open: (name, a) => {
        if (name === 'workbookPr') date1904 = /^(1|true)$/.test(a['date1904'] ?? '');
        if (name !== 'sheet') return;
        const id = Object.entries(a).find(([key]) => key.endsWith(':id'))?.[1] ?? '';
        const target = targets.get(id) ?? '';
        sheets.push({
          name: a['name'] ?? 'sheet',
          part: target.startsWith('/') ? target.slice(1) : `xl/${target}`,
        });
      },
    });
    if (sheets.length === 0) throw new Error('it has no sheets');
    const known = {
      texts: sharedTexts(parts['xl/sharedStrings.xml'], measure),
      formats: formatsOf(parts['xl/styles.xml']),
      date1904,
      measure,
    };
    return sheets.map(({ name, part }) => sheetOf(name, parts[part], known));
  } catch (error) {
    if (error instanceof DocumentProblem) throw error;
    throw new DocumentProblem(`The workbook is damaged or not one (${(error as Error).message})`);
  }
}

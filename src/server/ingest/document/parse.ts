import { parse as parseLossless } from 'lossless-json';
import Papa from 'papaparse';
import { SaxesParser } from 'saxes';
import { decodeText, guessText } from '../../../core/text/decode-text.ts';
import { fromJson } from '../../../core/tree/json.ts';
import { node, type TreeNode } from '../../../core/tree/node.ts';
import { sheetRows, type SheetRow } from '../../../core/tree/sheet.ts';
import { feedOf } from './feed.ts';
import { plainText } from './html.ts';
import { DEEPEST, DocumentProblem, Measure, MOST_ROWS } from './limits.ts';
import { readWorkbook } from './workbook.ts';

export { DocumentProblem } from './limits.ts';

export type Format = 'XML' | 'JSON' | 'CSV' | 'XLSX' | 'feed';

/** A document as it was understood. */
export interface Parsed {
  format: Format;
  root: TreeNode;
}

/** What is said of a document beside its bytes. */
export interface ParseOptions {
  /** In which row a sheet's headings stand, counted from 1, 0 for none; found where it is not said. */
  heading?: number | undefined;
}

const excerpt = (text: string, at = 0) => {
  const from = Math.max(0, at - 40);
  const cut = text
    .slice(from, from + 80)
    .replace(/\s+/g, ' ')
    .trim();
  return cut ? `: ${from > 0 ? '…' : ''}${cut}${from + 80 < text.length ? '…' : ''}` : '';
};

/** Bytes as text, in the encoding that the document or its sender names, else as it looks. */
function decoded(bytes: Uint8Array, type: string): string {
  const head = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(200, bytes.length)).toString('latin1');
  const wide =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? 'utf-16le'
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? 'utf-16be'
        : bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf
          ? 'utf-8'
          : null;
  const named =
    wide ??
    /charset="?([\w-]+)/i.exec(type)?.[1] ??
    /^<\?xml[^>]*encoding=["']([\w-]+)/.exec(head)?.[1] ??
    null;
  if (named === null) return guessText(bytes);
  try {
    return decodeText(bytes, named);
  } catch {
    // An encoding that nobody knows.
    return guessText(bytes);
  }
}

/** A web page in place of data: what its first element is, not what is written somewhere in it. */
const WEB_PAGE = /^\s*(?:<\?xml[^>]*>\s*)?(?:<!--[\s\S]*?-->\s*)*(?:<!doctype\s+html|<html[\s>])/i;

/**
 * Reads a document of any format that Foothill knows; what it is, its first bytes say. Throws a DocumentProblem for
 * what is half written, is a web page, is empty, is too large, or declares entities of its own (which could grow without
 * bound or point elsewhere).
 */
export function parseDocumentBytes(
  bytes: Uint8Array,
  type = '',
  { heading }: ParseOptions = {},
): Promise<Parsed> {
  return Promise.resolve().then(() => parse(bytes, type, heading));
}

function parse(bytes: Uint8Array, type: string, heading: number | undefined): Parsed {
  const measure = new Measure();
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) {
    const sheets = readWorkbook(bytes, measure).map(({ name, rows }) =>
      node(name, null, sheetRows(rows, heading)),
    );
    return { format: 'XLSX', root: node('workbook', null, sheets) };
  }
  const text = decoded(bytes, type).replace(/^\uFEFF/, '');
  const start = text.trimStart();
  if (start === '') throw new DocumentProblem('The document is empty');
  if (start.includes('\0')) throw new DocumentProblem('This is neither text nor a workbook');
  if (start.startsWith('{') || start.startsWith('[')) {
    const root = json(text, measure);
    const feed = feedOf(root);
    return feed ? { format: 'feed', root: feed } : { format: 'JSON', root };
  }
  if (start.startsWith('<')) {
    const root = xml(text, measure);
    const feed = feedOf(root);
    return feed ? { format: 'feed', root: feed } : { format: 'XML', root };
  }
  return { format: 'CSV', root: csv(text, measure, heading) };
}

/** A whole number that a computer's number cannot hold stays as it is written: it is an id, not a count. */
const exactly = (written: string): number | string => {
  const n = Number(written);
  return /^-?\d+$/.test(written) && !Number.isSafeInteger(n) ? written : n;
};

function json(text: string, measure: Measure): TreeNode {
  let value: unknown;
  try {
    value = /\d{16}/.test(text) ? parseLossless(text, null, exactly) : JSON.parse(text);
  } catch (error) {
    const at = Number(/position (\d+)/.exec((error as Error).message)?.[1] ?? text.length);
    throw new DocumentProblem(`The JSON breaks off or is wrong${excerpt(text, at)}`);
  }
  return fromJson(value, (nodes) => measure.add(nodes));
}

function xml(text: string, measure: Measure): TreeNode {
  if (WEB_PAGE.test(text.slice(0, 4000)))
    throw new DocumentProblem(`A web page came instead of data${excerpt(plainText(text.slice(0, 2000)))}`);
  const parser = new SaxesParser({ xmlns: false, position: true });
  const top = node('');
  const open: TreeNode[] = [top];
  // Marked-up text within an element (`type="xhtml"`) is one text, in its order.
  let prose: { of: TreeNode; text: string } | null = null;
  parser.on('doctype', (declared) => {
    if (/<!ENTITY/i.test(declared))
      throw new DocumentProblem('It declares entities of its own, which are not followed');
  });
  parser.on('error', (error) => {
    throw new DocumentProblem(
      `The XML breaks off or is wrong (${error.message})${excerpt(text, parser.position)}`,
    );
  });
  parser.on('opentag', ({ name, attributes }) => {
    if (open.length > DEEPEST) throw new DocumentProblem(`Its elements are nested more than ${DEEPEST} deep`);
    measure.add(1);
    const made: TreeNode = {
      name,
      value: null,
      attributes: attributes as Record<string, string>,
      children: [],
    };
    open.at(-1)!.children.push(made);
    open.push(made);
    if (made.attributes['type'] === 'xhtml') prose ??= { of: made, text: '' };
    else if (prose) prose.text += ' ';
  });
  const said = (part: string) => {
    const at = open.at(-1)!;
    at.value = at.value === null ? part : `${String(at.value)}${part}`;
    if (prose) prose.text += part;
  };
  parser.on('text', said);
  parser.on('cdata', said);
  parser.on('closetag', () => {
    const done = open.pop()!;
    done.value = typeof done.value === 'string' ? done.value.trim() || null : done.value;
    if (prose?.of !== done) return;
    done.value = prose.text.replace(/\s+/g, ' ').trim() || null;
    prose = null;
  });
  parser.write(text).close();
  const [root] = top.children;
  if (!root) throw new DocumentProblem(`There is no element in it${excerpt(text)}`);
  return root;
}

function csv(text: string, measure: Measure, heading: number | undefined): TreeNode {
  // What some spreadsheets write before all else, to tell each other.
  const told = /^sep=(.)\r?\n/i.exec(text);
  const rows: SheetRow[] = [];
  let torn: number | null = null;
  let wide: DocumentProblem | null = null;
  Papa.parse<string[]>(told ? text.slice(told[0].length) : text, {
    skipEmptyLines: 'greedy',
    ...(told ? { delimiter: told[1]! } : {}),
    step: ({ data, errors }, parser) => {
      if (errors.some((e) => e.type === 'Quotes')) torn ??= rows.length + 1;
      try {
        measure.columns(data.length);
        measure.add(data.length);
      } catch (error) {
        wide = error as DocumentProblem;
      }
      if (wide || rows.length >= MOST_ROWS) return parser.abort();
      rows.push(data.map((shows) => ({ shows: shows === '' ? null : shows })));
    },
  });
  if (wide) throw wide as DocumentProblem;
  if (torn !== null) throw new DocumentProblem(`A quotation mark in row ${torn as number} is not closed`);
  if (rows.length < 2 && (rows[0]?.length ?? 0) < 2)
    throw new DocumentProblem(`This is no table, and neither XML nor JSON${excerpt(text)}`);
  return node('table', null, sheetRows(rows, heading));
}

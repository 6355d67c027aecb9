import { decodeHTML } from 'entities';
import Papa from 'papaparse';
import { SaxesParser } from 'saxes';
import { fromJson, fromRows, node, type TreeNode } from '../../../core/tree/node.ts';
import { feedOf } from './feed.ts';

export type Format = 'XML' | 'JSON' | 'CSV' | 'XLSX' | 'feed';

/** A document as it was understood. */
export interface Parsed {
  format: Format;
  root: TreeNode;
}

/** Why a document could not be read: one sentence, with the excerpt that offended where there is one. */
export class DocumentProblem extends Error {}

const DEEPEST = 200;
const MOST_NODES = 1_500_000;
const MOST_ROWS = 100_000;

const excerpt = (text: string, at = 0) => {
  const from = Math.max(0, at - 40);
  const cut = text
    .slice(from, from + 80)
    .replace(/\s+/g, ' ')
    .trim();
  return cut ? `: ${from > 0 ? '…' : ''}${cut}${from + 80 < text.length ? '…' : ''}` : '';
};

/** Bytes as text, in the encoding that the document or its sender names, else UTF-8, else what spreadsheets write. */
function decoded(bytes: Uint8Array, type: string): string {
  const head = Buffer.from(bytes.buffer, bytes.byteOffset, Math.min(200, bytes.length)).toString('latin1');
  const wide =
    bytes[0] === 0xff && bytes[1] === 0xfe
      ? 'utf-16le'
      : bytes[0] === 0xfe && bytes[1] === 0xff
        ? 'utf-16be'
        : null;
  const named =
    wide ??
    /charset="?([\w-]+)/i.exec(type)?.[1] ??
    /^<\?xml[^>]*encoding=["']([\w-]+)/.exec(head)?.[1] ??
    'utf-8';
  try {
    return new TextDecoder(named, { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/**
 * Reads a document of any format that Foothill knows; what it is, its first bytes say. Throws a DocumentProblem for
 * what is half written, is a web page, is empty, or declares entities of its own (which could grow without bound
 * or point elsewhere).
 */
export async function parseDocumentBytes(bytes: Uint8Array, type = ''): Promise<Parsed> {
  if (bytes[0] === 0x50 && bytes[1] === 0x4b) return { format: 'XLSX', root: await workbook(bytes) };
  const text = decoded(bytes, type);
  const start = text.trimStart();
  if (start === '') throw new DocumentProblem('The document is empty');
  if (start.includes('\0')) throw new DocumentProblem('This is neither text nor a workbook');
  if (start.startsWith('{') || start.startsWith('[')) {
    const root = json(text);
    const feed = feedOf(root, plainText);
    return feed ? { format: 'feed', root: feed } : { format: 'JSON', root };
  }
  if (start.startsWith('<')) {
    const root = xml(text);
    const feed = feedOf(root, plainText);
    return feed ? { format: 'feed', root: feed } : { format: 'XML', root };
  }
  return { format: 'CSV', root: csv(text) };
}

function json(text: string): TreeNode {
  try {
    return fromJson(JSON.parse(text));
  } catch (error) {
    const at = Number(/position (\d+)/.exec((error as Error).message)?.[1] ?? text.length);
    throw new DocumentProblem(`The JSON breaks off or is wrong${excerpt(text, at)}`);
  }
}

function xml(text: string): TreeNode {
  const head = text.slice(0, 2000);
  if (/<!doctype\s+html|<html[\s>]/i.test(head))
    throw new DocumentProblem(`A web page came instead of data${excerpt(plainText(head))}`);
  const parser = new SaxesParser({ xmlns: false, position: true });
  const top = node('');
  const open: TreeNode[] = [top];
  let nodes = 0;
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
    if (++nodes > MOST_NODES) throw new DocumentProblem(`It has more than ${MOST_NODES} elements`);
    const made: TreeNode = {
      name,
      value: null,
      attributes: attributes as Record<string, string>,
      children: [],
    };
    open.at(-1)!.children.push(made);
    open.push(made);
  });
  const said = (part: string) => {
    const at = open.at(-1)!;
    at.value = at.value === null ? part : `${String(at.value)}${part}`;
  };
  parser.on('text', said);
  parser.on('cdata', said);
  parser.on('closetag', () => {
    const done = open.pop()!;
    done.value = typeof done.value === 'string' ? done.value.trim() || null : done.value;
  });
  parser.write(text).close();
  const [root] = top.children;
  if (!root) throw new DocumentProblem(`There is no element in it${excerpt(text)}`);
  return root;
}

function csv(text: string): TreeNode {
  const { data, errors } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), {
    skipEmptyLines: 'greedy',
    preview: MOST_ROWS,
  });
  const torn = errors.find((e) => e.type === 'Quotes');
  if (torn) throw new DocumentProblem(`A quotation mark in row ${(torn.row ?? 0) + 1} is not closed`);
  const [heading = [], ...rows] = data;
  if (heading.length < 2 && rows.length === 0)
    throw new DocumentProblem(`This is no table, and neither XML nor JSON${excerpt(text)}`);
  return node('table', null, fromRows(heading, rows));
}

async function workbook(bytes: Uint8Array): Promise<TreeNode> {
  // It takes half a second to load, and most venues never need it.
  const { default: readWorkbook } = await import('read-excel-file/node');
  try {
    const sheets = (await readWorkbook(Buffer.from(bytes))) as unknown as {
      sheet: string;
      data: unknown[][];
    }[];
    return node(
      'workbook',
      null,
      sheets.map(({ sheet, data }) => {
        const [heading = [], ...rows] = data.map((row) =>
          row.map((cell) =>
            cell instanceof Date
              ? cell.toISOString().replace('T00:00:00.000Z', '')
              : (cell as string | number | null),
          ),
        );
        return node(sheet, null, fromRows(heading, rows.slice(0, MOST_ROWS)));
      }),
    );
  } catch (error) {
    throw new DocumentProblem(`The workbook is damaged or not one (${(error as Error).message})`);
  }
}

/** What a piece of HTML says, without its marks. */
export function plainText(html: string): string {
  return decodeHTML(html.replace(/<(script|style)[\s\S]*?<\/\1>/gi, ' ').replace(/<[^>]*>/g, ' '))
    .replace(/\s+/g, ' ')
    .trim();
}

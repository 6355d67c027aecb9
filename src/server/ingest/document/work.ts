import { createHash } from 'node:crypto';
import type { DocMap } from '../../../core/tree/doc-map.ts';
import { pruned, type PrunedNode } from '../../../core/tree/node.ts';
import type { CellAt } from '../../../core/trace/traced.ts';
import { findCell, type Found } from '../../../core/tree/find.ts';
import { readDocument, type DocumentRead } from '../../../core/tree/read.ts';
import { parseDocumentBytes, type Format } from './parse.ts';

/** What is asked of the worker: read these bytes by this map; with `look`, give the tree to look at too. */
export interface ReadJob {
  bytes: Uint8Array;
  type: string;
  map: DocMap | null;
  /** How many of what repeats are looked at; none where nothing is. */
  look: number;
  /** A cell of one of the map's tables, to be found in the document; nothing else is read then. */
  find?: CellAt;
}

export interface ReadResult extends DocumentRead {
  format: Format;
  tree: PrunedNode | null;
  found?: Found | null;
}

const NOTHING: DocumentRead = { readings: [], tables: [] };
/** The tree that was looked at last: a map that is being made is tried on it again and again. */
let kept: {
  hash: string;
  heading: number | undefined;
  parsed: Awaited<ReturnType<typeof parseDocumentBytes>>;
} | null = null;

/** Parses and reads one document. Throws a DocumentProblem. */
export async function readBytes({ bytes, type, map, look, find }: ReadJob): Promise<ReadResult> {
  const hash = look ? createHash('sha1').update(bytes).digest('hex') : '';
  const heading = map?.heading;
  const again = look > 0 && kept?.hash === hash && kept.heading === heading;
  const parsed = again ? kept!.parsed : await parseDocumentBytes(bytes, type, { heading });
  if (look) kept = { hash, heading, parsed };
  if (find && map)
    return { format: parsed.format, tree: null, ...NOTHING, found: findCell(parsed.root, map, find) };
  const read = map ? readDocument(parsed.root, map) : NOTHING;
  return { format: parsed.format, tree: look ? pruned(parsed.root, look) : null, ...read };
}

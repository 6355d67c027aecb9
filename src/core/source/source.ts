import type { FrameMap } from '../decode/frame-map.ts';
import type { PatchDoc } from '../patch/patch-doc.ts';
import type { DocMap } from '../tree/doc-map.ts';
import type { SourceDoc, Transport } from './source-doc.ts';

export type { ByteTransport, DocumentTransport, SourceDoc, Transport } from './source-doc.ts';

/** What a source delivers: a stream of bytes, whole documents, or what the operator presses. */
export function deliveryOf({ kind }: Transport): 'bytes' | 'documents' | 'hand' {
  return kind === 'hand' ? 'hand' : kind === 'file' || kind === 'http' ? 'documents' : 'bytes';
}

/**
 * A source with all that belongs to it: the map of its bytes or of its documents, and its patch. It is saved,
 * exported and imported whole. A stream of bytes with a document map carries JSON, one document a line.
 */
export interface SourceBundle {
  schema: 1;
  source: SourceDoc;
  map: FrameMap | null;
  document: DocMap | null;
  patch: PatchDoc | null;
}

/**
 * The bundle as desks, tapes, records and exports may have it: a header's value, which is the key to somebody's service,
 * is left out, and that there is one is said.
 */
export function withoutSecret(bundle: SourceBundle): SourceBundle {
  const { transport } = bundle.source;
  if (transport.kind !== 'http' || !transport.header || transport.header.value === '') return bundle;
  const header = { name: transport.header.name, value: '', kept: true };
  return { ...bundle, source: { ...bundle.source, transport: { ...transport, header } } };
}

/** The names of all readings that a source can deliver; a hand's are the fields' own keys, so they are not listed. */
export function readingNames({ map, document }: Pick<SourceBundle, 'map' | 'document'>): string[] {
  return [...(map?.readings ?? []), ...(document?.readings ?? [])].map((r) => r.name);
}

/** The names of the readings that say yes or no. */
export function flagNames({ map, document }: Pick<SourceBundle, 'map' | 'document'>): string[] {
  return [
    ...(map?.readings.filter((r) => r.kind === 'flag' || r.kind === 'bit') ?? []),
    ...(document?.readings.filter((r) => r.as === 'flag') ?? []),
  ].map((r) => r.name);
}

/** Where a source is reached, in words. */
export function addressOf(t: Transport): string {
  if (t.kind === 'hand') return 'by hand';
  if (t.kind === 'file') return t.path;
  if (t.kind === 'http') return t.url;
  if (t.kind === 'serial') return `${t.path} at ${t.baud}`;
  return t.kind === 'udp' || t.mode === 'listen'
    ? `${t.kind.toUpperCase()} at our ${t.host}:${t.port}`
    : `${t.host}:${t.port}`;
}

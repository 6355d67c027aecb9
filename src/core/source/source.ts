import { idOf } from '../decode/reading-id.ts';
import type { FrameMap } from '../decode/frame-map.ts';
import type { PatchDoc } from '../patch/patch-doc.ts';
import type { DocMap } from '../tree/doc-map.ts';
import type { SourceDoc, Transport } from './source-doc.ts';

export type { ByteTransport, DocumentTransport, SourceDoc, Transport } from './source-doc.ts';

/** What a source delivers: a stream of bytes, whole documents, or what the operator presses. */
export type Delivery = 'bytes' | 'documents' | 'hand';

type Kinds = {
  [K in Transport['kind']]: {
    delivers: Delivery;
    /** Where it is reached, in words. */
    address: (t: Extract<Transport, { kind: K }>) => string;
  };
};

const atOurs = (t: { kind: string; host: string; port: number }) =>
  `${t.kind.toUpperCase()} at our ${t.host}:${t.port}`;

/** Every source kind. */
const KINDS: Kinds = {
  tcp: { delivers: 'bytes', address: (t) => (t.mode === 'listen' ? atOurs(t) : `${t.host}:${t.port}`) },
  udp: { delivers: 'bytes', address: atOurs },
  serial: { delivers: 'bytes', address: (t) => `${t.path} at ${t.baud}` },
  file: { delivers: 'documents', address: (t) => t.path },
  http: { delivers: 'documents', address: (t) => t.url },
  hand: { delivers: 'hand', address: () => 'by hand' },
};

/** What a source delivers. */
export const deliveryOf = ({ kind }: Transport): Delivery => KINDS[kind].delivers;

/** True where somebody presses what a source says: it has no line and no readings of its own. */
export const isByHand = ({ transport }: Pick<SourceDoc, 'transport'>): boolean =>
  deliveryOf(transport) === 'hand';

/** Where a source is reached, in words. */
export const addressOf = (t: Transport): string => KINDS[t.kind].address(t as never);

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

/** A source without the value of its header, which is the key to somebody's service; that there is one is said. */
export function withoutHeader(source: SourceDoc): SourceDoc {
  const { transport } = source;
  if (transport.kind !== 'http' || !transport.header || transport.header.value === '') return source;
  const header = { name: transport.header.name, value: '', kept: true };
  return { ...source, transport: { ...transport, header } };
}

/** The bundle as desks, tapes, records and exports may have it: without the value of a header. */
export function withoutSecret(bundle: SourceBundle): SourceBundle {
  const source = withoutHeader(bundle.source);
  return source === bundle.source ? bundle : { ...bundle, source };
}

/** A reading as the patch knows it. */
export interface PatchableReading {
  /** What links know it by; it stays the same when the reading is renamed. */
  id: string;
  name: string;
  is: 'clock' | 'flag' | 'other';
}

/** All readings that a source can deliver; a hand's are the fields' own keys, so they are not listed. */
export function readingsOf({ map, document }: Pick<SourceBundle, 'map' | 'document'>): PatchableReading[] {
  const kinds = [
    ...(map?.readings.map((r) => [r, r.kind] as const) ?? []),
    ...(document?.readings.map((r) => [r, r.as] as const) ?? []),
  ];
  return kinds.map(([r, kind]) => ({
    id: idOf(r),
    name: r.name,
    is: kind === 'clock' ? 'clock' : kind === 'flag' || kind === 'bit' ? 'flag' : 'other',
  }));
}

/** The name of the reading that a link knows by this id; of a hand, and of one that is gone, the id itself. */
export const readingName = (bundle: Pick<SourceBundle, 'map' | 'document'>, id: string): string =>
  readingsOf(bundle).find((r) => r.id === id)?.name ?? id;

import * as v from 'valibot';
import type { FrameMap } from '../decode/frame-map.ts';
import { keySchema, nameSchema, parseDocument, wholeNumber, type Parsed } from '../document/problems.ts';
import type { PatchDoc } from '../patch/patch.ts';
import type { DocMap } from '../tree/doc-map.ts';

const port = wholeNumber(1, 65535);
const host = v.pipe(
  v.string(),
  v.minLength(1, 'an address is missing'),
  v.maxLength(255),
  v.regex(/^[\w.:-]+$/, 'is not an address'),
);

const transport = v.variant('kind', [
  /** `connect` goes to the device, `listen` waits for it to come. */
  v.object({
    kind: v.literal('tcp'),
    mode: v.optional(v.picklist(['connect', 'listen']), 'connect'),
    host,
    port,
  }),
  /** Datagrams that arrive at an address of ours. */
  v.object({ kind: v.literal('udp'), host, port }),
  v.object({
    kind: v.literal('serial'),
    path: v.pipe(v.string(), v.maxLength(255), v.regex(/^\/\S+$/, 'a port is a path such as /dev/ttyUSB0')),
    baud: wholeNumber(50, 4_000_000),
    dataBits: v.optional(v.picklist([7, 8]), 8),
    parity: v.optional(v.picklist(['none', 'even', 'odd']), 'none'),
    stopBits: v.optional(v.picklist([1, 2]), 1),
  }),
  /** A file that another program rewrites, looked at `every` so many ms. */
  v.object({
    kind: v.literal('file'),
    path: v.pipe(v.string(), v.maxLength(1024), v.regex(/^\/./, 'a file is a path such as /data/stats.xml')),
    every: v.optional(wholeNumber(100, 3_600_000), 500),
    limit: v.optional(wholeNumber(1000, 100_000_000), 20_000_000),
  }),
  /** An address that is asked `every` so many ms, given up after `timeout`. `limit` is in bytes. */
  v.object({
    kind: v.literal('http'),
    url: v.pipe(
      v.string(),
      v.maxLength(2000),
      v.url('is not an address'),
      v.regex(/^https?:/i, 'an address begins with http: or https:'),
    ),
    every: v.optional(wholeNumber(250, 3_600_000), 5000),
    timeout: v.optional(wholeNumber(100, 60_000), 5000),
    limit: v.optional(wholeNumber(1000, 100_000_000), 20_000_000),
    header: v.optional(
      v.nullable(
        v.object({
          name: v.pipe(v.string(), v.regex(/^[A-Za-z0-9-]{1,80}$/, 'is not the name of a header')),
          value: v.optional(
            v.pipe(v.string(), v.maxLength(2000), v.regex(/^[\x20-\x7e]*$/, 'has signs that no header can')),
            '',
          ),
          /** There is a value, which stays at the server (`withoutSecret`). */
          kept: v.optional(v.boolean()),
        }),
      ),
      null,
    ),
  }),
  /** The operator's own hand: a pad that stands in for a controller. */
  v.object({ kind: v.literal('hand') }),
]);

const sourceSchema = v.object({
  schema: v.literal(1),
  key: keySchema,
  name: nameSchema,
  enabled: v.optional(v.boolean(), true),
  transport,
  /** The map that reads its bytes; none while they are still unknown. */
  frameMap: v.optional(v.nullable(keySchema), null),
  /** How it takes its fields back after it was silent and another source stood in. */
  back: v.optional(v.picklist(['at-once', 'stoppage', 'by-hand']), 'stoppage'),
  /** Silence in ms after which it is late, and lost, and what silence is judged by (`SilenceBy`; none said: by time). */
  limits: v.object({
    late: wholeNumber(100, 600_000),
    lost: wholeNumber(100, 600_000),
    by: v.optional(v.picklist(['time', 'beat', 'none'])),
  }),
});

/** One connected input: where it is reached, which frame map reads it, how long it may be silent. */
export type SourceDoc = v.InferOutput<typeof sourceSchema>;
export type Transport = SourceDoc['transport'];
export type ByteTransport = Extract<Transport, { kind: 'tcp' | 'udp' | 'serial' }>;
export type DocumentTransport = Extract<Transport, { kind: 'file' | 'http' }>;

/** What a source delivers: a stream of bytes, whole documents, or what the operator presses. */
export function deliveryOf({ kind }: Transport): 'bytes' | 'documents' | 'hand' {
  return kind === 'hand' ? 'hand' : kind === 'file' || kind === 'http' ? 'documents' : 'bytes';
}

/** Reads a source document; refuses one that would be lost before it is late. */
export function parseSource(input: unknown): Parsed<SourceDoc> {
  return parseDocument(sourceSchema, input, (s) =>
    s.limits.lost > s.limits.late ? [] : ['limits: a source is lost later than it is late'],
  );
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

import { freshKey } from '../../core/text/keys.ts';
import { unlike } from '../../core/text/words.ts';
import { identified, idOf, type Identified } from '../../core/decode/reading-id.ts';
import { clockForm } from '../../core/decode/discover.ts';
import type { FrameMap, ReadingDef } from '../../core/decode/frame-map.ts';
import { hexText } from '../../core/decode/reading.ts';
import type { PatchLink } from '../../core/patch/patch.ts';
import type { DocMap } from '../../core/tree/doc-map.ts';
import { suggestRunning } from '../../core/patch/suggest.ts';
import { readingName, readingsOf, type SourceBundle, type Transport } from '../../core/source/source.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import type { Case, Value } from '../../core/value/value.ts';

/** A source that nothing is known of yet but where it is reached. */
export function newBundle(name: string, taken: readonly string[]): SourceBundle {
  const transport: Transport = { kind: 'tcp', mode: 'connect', host: '127.0.0.1', port: 4000 };
  const source = {
    schema: 1 as const,
    key: freshKey(name, taken, 'source'),
    name,
    enabled: true,
    back: 'stoppage' as const,
    transport,
    frameMap: null,
    limits: { late: 1500, lost: 4000 },
  };
  return { schema: 1, source, map: null, document: null, patch: null };
}

/** The bundle under the key that its name makes, with all that goes by it. */
export function keyedByName(bundle: SourceBundle, taken: readonly string[]): SourceBundle {
  const key = freshKey(bundle.source.name, taken, 'source');
  const { source, map, document, patch } = bundle;
  if (key === source.key) return bundle;
  return {
    ...bundle,
    source: { ...source, key, frameMap: map && key },
    map: map && { ...map, key, name: source.name || map.name },
    document: document && { ...document, key },
    patch: patch && { ...patch, key, source: key },
  };
}

/** The same source once more under other keys; its patch stays behind, for a field is fed by one source. */
export function copyOf(bundle: SourceBundle, name: string, taken: readonly string[]): SourceBundle {
  const key = freshKey(name, taken, 'source');
  const map = bundle.map && { ...bundle.map, key };
  const document = bundle.document && {
    ...bundle.document,
    key,
    tables: bundle.document.tables.map((t) => ({ ...t, key: `${t.key}-${key}` })),
  };
  const { transport } = bundle.source;
  // A header's value is kept for the source that it was given to.
  const own: Transport =
    transport.kind === 'http' && transport.header?.kept
      ? { ...transport, header: { name: transport.header.name, value: '' } }
      : transport;
  const source = { ...bundle.source, key, name, transport: own, frameMap: map?.key ?? null };
  return { schema: 1, source, map, document, patch: null };
}

/** Gives the bundle a map that cuts frames so, keeping readings that it had. */
export function withCut(
  bundle: SourceBundle,
  cut: Partial<Pick<FrameMap, 'framing' | 'check' | 'fields' | 'address'>>,
): SourceBundle {
  const { source } = bundle;
  const map: FrameMap = {
    ...(bundle.map ?? {
      schema: 1,
      key: source.key,
      name: source.name,
      framing: { kind: 'delimited', start: [2], end: [3], maxLength: 100 },
      check: { kind: 'none' },
      readings: [],
    }),
    ...cut,
  };
  return { ...bundle, source: { ...source, frameMap: map.key }, map };
}

/** What a map that has readings by field or by address would lose with these; blank where nothing. */
export function lostWith(map: FrameMap, cut: Pick<FrameMap, 'fields' | 'address'>): string {
  const lost = map.readings.filter(
    (r) => (r.field !== undefined && !cut.fields) || (r.address !== undefined && !cut.address),
  );
  return lost.length ? `Remove first: ${listed(lost.map((r) => r.name))}.` : '';
}

/** Gives the bundle a ready map as its own; links to readings that it does not have go. */
export function withMap(bundle: SourceBundle, ready: FrameMap): SourceBundle {
  const { key } = bundle.source;
  const map = { ...ready, key };
  return withReadings(
    { ...bundle, source: { ...bundle.source, frameMap: key }, map, document: null },
    map.readings,
  );
}

/** Changes the readings; links of readings that are gone go too. */
export function withReadings(bundle: SourceBundle, readings: ReadingDef[]): SourceBundle {
  if (!bundle.map) return bundle;
  const told = identified(readings);
  const links = remaining(bundle.patch?.links ?? [], told);
  return withLinks({ ...bundle, map: { ...bundle.map, readings: told } }, links);
}

/** A reading of this kind at a place, with what the kind wants set from what stands there now. */
export function readingOfKind(
  kind: ReadingDef['kind'],
  place: Pick<ReadingDef, 'name' | 'offset' | 'length' | 'more' | 'field' | 'address'>,
  raw: string,
): ReadingDef {
  const base = { ...place, blank: 'blank' as const };
  switch (kind) {
    case 'flag':
      // A flag is looked at mostly while it says no.
      return { ...base, kind, on: /^[0\s]*$/.test(raw) ? '1' : raw.trim().slice(0, 8) };
    case 'clock':
      return { ...base, kind, ...clockForm(raw) };
    case 'binary':
      return { ...base, kind, signed: false, littleEnd: false };
    case 'bit':
      return { ...base, kind, length: base.field === undefined ? 1 : 0, bit: 0 };
    default:
      return { ...base, kind };
  }
}

/** What a reading of these bytes is called until somebody names it. */
export function nameOfBytes(
  { offset, length, field }: Pick<ReadingDef, 'offset' | 'length' | 'field'>,
  taken: readonly string[],
): string {
  const name =
    field !== undefined
      ? `field ${field}`
      : length === 1
        ? `byte ${offset}`
        : `bytes ${offset}–${offset + length - 1}`;
  return unlike(
    name,
    (free) => taken.includes(free),
    (n) => `${name} (${n})`,
  );
}

/** True for a name that nobody gave. */
export const isNameless = (name: string) => /^(bytes? \d+(–\d+)?|field \S+)( \(\d+\))?$/.test(name);

/** Changes what is read from documents; links follow as they do for bytes. */
export function withDocument(
  bundle: SourceBundle,
  change: Partial<Pick<DocMap, 'readings' | 'tables' | 'heading' | 'numbers'>>,
): SourceBundle {
  const { key } = bundle.source;
  const next: DocMap = { schema: 1, key, readings: [], tables: [], ...bundle.document, ...change };
  const document = { ...next, readings: identified(next.readings) };
  return withLinks(
    { ...bundle, document, map: null },
    remaining(bundle.patch?.links ?? [], document.readings),
  );
}

/** The links without those of readings that are gone. */
function remaining(links: readonly PatchLink[], readings: readonly Identified[]): PatchLink[] {
  const there = new Set(readings.map(idOf));
  return links
    .filter((l) => there.has(l.reading))
    .map((l) => (l.running && !there.has(l.running) ? { ...l, running: undefined } : l));
}

export function withLinks(bundle: SourceBundle, links: PatchLink[]): SourceBundle {
  const { key } = bundle.source;
  return { ...bundle, patch: links.length ? { schema: 1, key, source: key, links } : null };
}

/** A simple conversion as it is written: `H=home, A=away`; null for one of another form. */
export function writeCases(as: Value | undefined): string | null {
  if (!as) return '';
  if (!('choose' in as) || !('input' in as.choose) || as.otherwise || as.format) return null;
  const parts = as.cases.map(({ is, then, ...rest }) =>
    is?.length === 1 && 'fixed' in then && Object.keys(rest).length === 0 ? `${is[0]}=${then.fixed}` : null,
  );
  return parts.includes(null) ? null : parts.join(', ');
}

/** Reads `H=home, A=away` into a conversion; none when nothing is written. Numbers stay numbers. */
export function readCases(text: string): Value | undefined {
  const scalar = (s: string) => (/^-?\d+$/.test(s) ? Number(s) : s);
  const cases: Case[] = text.split(',').flatMap((part) => {
    const [is, then] = part.split('=').map((s) => s.trim());
    return is && then ? [{ is: [scalar(is)], then: { fixed: scalar(then) } }] : [];
  });
  return cases.length ? { choose: { input: 'reading' }, cases } : undefined;
}

/** Bytes as hexadecimal pairs, `02 0a`; null for what is no such text. */
export function readHex(text: string): number[] | null {
  const t = text.trim();
  if (t === '') return [];
  return /^([0-9a-f]{2}\s*)+$/i.test(t) ? t.match(/[0-9a-f]{2}/gi)!.map((h) => parseInt(h, 16)) : null;
}

export const writeHex: (bytes: readonly number[]) => string = hexText;

/** The sources in use besides this one that feed a field, first to last. */
export function othersFeeding(
  field: string,
  own: string,
  bundles: readonly SourceBundle[],
): { name: string; priority: number }[] {
  return bundles
    .filter((b) => b.source.key !== own && b.source.enabled)
    .flatMap((b) => {
      const link = b.patch?.links.find((l) => l.field === field);
      return link ? [{ name: b.source.name, priority: link.priority ?? 1 }] : [];
    })
    .sort((a, b) => a.priority - b.priority);
}

/** The place after all others that feed a field: a new source stands by until it is put first. */
export function placeAfter(others: readonly { priority: number }[]): number {
  return Math.min(9, Math.max(0, ...others.map((o) => o.priority)) + 1);
}

/**
 * A link as it is made anew: in its place after those that feed the field already, and, of a clock, run by the flag that
 * is likely to say so.
 */
export function newLink(
  bundle: SourceBundle,
  reading: string,
  field: FieldDef,
  others: readonly { priority: number }[],
): PatchLink {
  const all = readingsOf(bundle);
  const flags = all.filter((r) => r.is === 'flag');
  const found =
    field.kind === 'clock'
      ? suggestRunning(
          readingName(bundle, reading),
          flags.map((r) => r.name),
        )
      : null;
  const running = flags.find((r) => r.name === found)?.id;
  return {
    reading,
    field: field.key,
    ...(others.length ? { priority: placeAfter(others) } : {}),
    ...(running ? { running } : {}),
  };
}

const MOST_NAMED = 5;
export const listed = (names: readonly string[]) =>
  names.length > MOST_NAMED
    ? `${names.slice(0, MOST_NAMED).join(', ')} and ${names.length - MOST_NAMED} more`
    : names.join(', ');

/**
 * What a table is called that is made of an element which repeats: by the source, the element and what marks its parent out
 * among others (`Press box: player, home`), unlike those that are called so already.
 */
export function tableName(
  source: string,
  { name, place }: { name: string; place: string },
  taken: readonly string[],
): string {
  const marks = [...place.matchAll(/\[[^\]]*=\s*'([^']*)'\]|\[(\d+)\]/g)].map((m) => m[1] ?? m[2]);
  const base = [`${source}: ${name}`, ...marks].join(', ').slice(0, 76);
  return unlike(base, (free) => taken.includes(free));
}

type Place = { offset: number; length: number };

/** Places of bytes as they are written: `13–14, 17`. */
export const writePlaces = (places: readonly Place[]) =>
  places
    .map(({ offset, length }) => (length === 1 ? `${offset}` : `${offset}–${offset + length - 1}`))
    .join(', ');

/** Reads `13–14, 17`; null for what is no such text, or more than nine places. */
export function readPlaces(text: string): Place[] | null {
  const places = text.split(',').map((part): Place | null => {
    const found = /^\s*(\d{1,4})\s*(?:[-–]\s*(\d{1,4})\s*)?$/.exec(part);
    if (!found) return null;
    const from = Number(found[1]);
    const to = Number(found[2] ?? found[1]);
    return to < from || to - from > 255 ? null : { offset: from, length: to - from + 1 };
  });
  return places.includes(null) || places.length > 9 ? null : (places as Place[]);
}

/** Where a reading stands, in words: its bytes or its field, after the address of its messages. */
export function placeText(r: ReadingDef): string {
  const place = r.field !== undefined ? `field ${r.field}` : writePlaces([r, ...(r.more ?? [])]);
  return r.address === undefined ? place : `${addressText(r.address)}: ${place}`;
}

/** An address as it can be read: its characters, or hexadecimal where they are none. */
export const addressText = (address: string) =>
  /^[\x21-\x7e](?:[\x20-\x7e]*[\x21-\x7e])?$/.test(address)
    ? address
    : writeHex([...address].map((c) => c.charCodeAt(0)));

import { parseFrameMap } from '../decode/frame-map.ts';
import type { Parsed } from '../document/problems.ts';
import { parsePatch } from '../patch/patch-doc.ts';
import { parseDocMap } from '../tree/doc-map.ts';
import { isByHand, deliveryOf, readingsOf, type SourceBundle } from './source.ts';
import { parseSource } from './source-doc.ts';

/** Reads a source with its map and patch; refuses parts that do not belong together. */
export function parseBundle(input: unknown): Parsed<SourceBundle> {
  const part = (name: string) =>
    typeof input === 'object' && input !== null ? (input as Record<string, unknown>)[name] : undefined;
  if (part('schema') !== 1)
    return { ok: false, problems: ['schema: this is not a source as Foothill exports it'] };
  const source = parseSource(part('source'));
  const map = part('map') == null ? null : parseFrameMap(part('map'));
  const document = part('document') == null ? null : parseDocMap(part('document'));
  const patch = part('patch') == null ? null : parsePatch(part('patch'));
  const problems = [source, map, document, patch].flatMap((p, i) =>
    p && !p.ok ? p.problems.map((text) => `${['source', 'map', 'document', 'patch'][i]}.${text}`) : [],
  );
  if (!source.ok || (map && !map.ok) || (document && !document.ok) || (patch && !patch.ok))
    return { ok: false, problems };
  if ((source.value.frameMap ?? undefined) !== map?.value.key)
    problems.push('source.frameMap: is not the key of the map that comes with it');
  if (patch && patch.value.source !== source.value.key)
    problems.push('patch.source: is not the source that it comes with');
  if (map && document) problems.push('map: a source has a map of its bytes or of its documents, not both');
  if (map && deliveryOf(source.value.transport) !== 'bytes')
    problems.push('map: only a stream of bytes has a frame map');
  const readings = new Set(
    readingsOf({ map: map?.value ?? null, document: document?.value ?? null }).map((r) => r.id),
  );
  const byHand = isByHand(source.value);
  for (const { reading, running } of patch?.value.links ?? []) {
    for (const id of [reading, running]) {
      if (id !== undefined && !byHand && !readings.has(id))
        problems.push(`patch.links: the map has no reading "${id}"`);
    }
  }
  if (problems.length) return { ok: false, problems };
  return {
    ok: true,
    value: {
      schema: 1,
      source: source.value,
      map: map?.value ?? null,
      document: document?.value ?? null,
      patch: patch?.value ?? null,
    },
  };
}

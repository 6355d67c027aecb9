import { DOCUMENT_KINDS, type DocumentKind } from '../../core/documents/kinds.ts';
import { Refusal } from '../../core/show/show.ts';
import { withoutSecret, type SourceBundle } from '../../core/source/source.ts';
import type { MendDocumentRequest } from '../http/requests.ts';
import type { DocumentChange } from '../store/store.ts';
import type { Decision, Situation } from './decision.ts';
import { assembled, unreadKey, type World } from './world.ts';

const wordOf = (kind: DocumentKind) => DOCUMENT_KINDS[kind].word;

/** Refuses to write over a document that could not be read: what somebody made is in it. */
export function refuseOver({ unread }: Pick<World, 'unread'>, kind: DocumentKind, key: string): void {
  const there = unread.get(unreadKey(kind, key));
  if (there)
    throw new Refusal(
      `The ${wordOf(kind)} "${there.name}" could not be read and stands under the key "${key}". Mend or delete it first.`,
    );
}

/** The same for a source, which is saved with all its parts. */
export function refuseOverParts({ unread, parts }: Pick<World, 'unread' | 'parts'>, key: string): void {
  for (const kind of ['source', 'doc-map', 'patch'] as const) refuseOver({ unread }, kind, key);
  const map = parts.source.get(key)?.frameMap;
  if (map) refuseOver({ unread }, 'frame-map', map);
}

/** Decides that a document that could not be read is mended, or with nothing in its place deleted. */
export function decideMend({ world }: Situation, { what, key, body }: MendDocumentRequest): Decision {
  const there = world.unread.get(unreadKey(what, key));
  if (!there) throw new Refusal(`There is no ${wordOf(what)} "${key}" that could not be read; look again.`);
  const undo = { documents: [{ kind: what, key, body: null, text: there.text }] };
  if (!body) return { change: { documents: [{ kind: what, key, body: null }] }, undo };
  const read = DOCUMENT_KINDS[what].parse(body);
  if (!read.ok) throw new Refusal(`This is not mended yet: ${read.problems.join('; ')}.`);
  if (read.value.key !== key)
    throw new Refusal(
      `This is the ${wordOf(what)} "${read.value.key}"; what is to be mended has the key "${key}".`,
    );
  return { change: { documents: [{ kind: what, key, body: read.value }] }, undo };
}

/** Takes into the world what was mended or deleted; gives the sources that it is a part of, as they are with it. */
export function takeMended(world: World, changes: readonly DocumentChange[]): SourceBundle[] {
  const { unread, templates, maps, parts } = world;
  return changes.flatMap(({ kind, key, body }) => {
    if (!unread.delete(unreadKey(kind, key)) || !body) return [];
    const doc = body as never;
    if (kind === 'template') templates.set(key, doc);
    if (!Object.hasOwn(parts, kind)) return [];
    parts[kind as keyof typeof parts].set(key, doc);
    if (kind === 'frame-map' && !parts.source.has(key)) maps.push(doc);
    return [...parts.source.values()]
      .filter((s) => s.key === key || (kind === 'frame-map' && s.frameMap === key))
      .map((s) => assembled(parts, s));
  });
}

/**
 * A document that could not be read, as a file to be mended: its own text. A source's text may hold the value of a header, which
 * never leaves the server, so it is left out; null where that cannot be done.
 */
export function exportUnread({ unread }: World, kind: string, key: string): string | null | undefined {
  const there = unread.get(unreadKey(kind, key));
  if (there?.kind !== 'source') return there?.text;
  try {
    const source = JSON.parse(there.text) as SourceBundle['source'];
    if (source?.transport?.kind !== 'http') return there.text;
    return JSON.stringify(
      withoutSecret({ schema: 1, source, map: null, document: null, patch: null }).source,
      null,
      2,
    );
  } catch {
    return null;
  }
}

import { nameOfPlace, type World } from '../../core/actions/world.ts';
import { withoutHeader, type SourceDoc } from '../../core/source/source.ts';

/**
 * A document that could not be read, as a file to be mended: its own text. A source's text may hold the value of a header, which
 * never leaves the server, so it is left out; null where that cannot be done.
 */
export function exportUnread({ unread }: World, kind: string, key: string): string | null | undefined {
  const there = unread.get(nameOfPlace(kind, key));
  if (there?.kind !== 'source') return there?.text;
  try {
    const source = JSON.parse(there.text) as SourceDoc;
    if (source?.transport?.kind !== 'http') return there.text;
    return JSON.stringify(withoutHeader(source), null, 2);
  } catch {
    return null;
  }
}

import { parseDocMap } from '../../core/tree/doc-map.ts';
import { readLook } from '../http/requests.ts';
import type { Sources } from './sources.ts';

/**
 * Answers a page that looks at a source's documents. `fetch` asks for the newest at once and says how the source is;
 * otherwise the newest good document is given, cut down to be looked at, with what a map finds in it.
 */
export async function answerLook(
  sources: Pick<Sources, 'fetchNow' | 'tryMap' | 'bundle'>,
  key: string,
  asked: unknown,
): Promise<{ status: number; body: object }> {
  const refuse = (status: number, reason: string) => ({ status, body: { ok: false, reason } });
  const request = readLook(asked);
  if (typeof request === 'string') return refuse(400, request);
  if (!sources.bundle(key)) return refuse(404, `There is no source "${key}".`);
  if (request.fetch) {
    const state = await sources.fetchNow(key);
    return state
      ? { status: 200, body: { ok: true, state } }
      : refuse(409, 'This source sends no documents.');
  }
  const map = request.map ? parseDocMap(request.map) : null;
  if (map && !map.ok) return refuse(400, `${map.problems.join('; ')}.`);
  try {
    const done = await sources.tryMap(key, map?.value ?? null, request.most);
    return done
      ? { status: 200, body: { ok: true, ...done } }
      : refuse(409, 'No good document has come yet.');
  } catch (error) {
    return refuse(409, (error as Error).message);
  }
}

import type { APIContext } from 'astro';
import type { Engine } from '../live/engine.ts';

type Content = { bytes: Uint8Array; type: string } | null;

/** The answer with what is found under the hash in the address: it never changes. */
export async function contentAt(
  { params, request, locals }: Pick<APIContext, 'params' | 'request' | 'locals'>,
  find: (engine: Engine, hash: string) => Promise<Content>,
): Promise<Response> {
  const hash = params['hash'] ?? '';
  const etag = `"${hash}"`;
  if (request.headers.get('if-none-match') === etag)
    return new Response(null, { status: 304, headers: { etag } });
  const found = /^[0-9a-f]{64}$/.test(hash) ? await find(locals.engine, hash).catch(() => null) : null;
  if (!found) return new Response('There is no such picture.', { status: 404 });
  return new Response(Buffer.from(found.bytes), {
    headers: {
      etag,
      'content-type': found.type,
      'cache-control': 'public, max-age=31536000, immutable',
      'x-content-type-options': 'nosniff',
      // A drawing that is opened by itself may do nothing.
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'; img-src data:; sandbox",
    },
  });
}

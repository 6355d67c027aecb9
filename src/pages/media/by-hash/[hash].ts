import type { APIRoute } from 'astro';

/** A content of the media library. Its address is its hash, so it is the same for ever. */
export const GET: APIRoute = async ({ params, request, locals: { engine } }) => {
  const hash = params['hash'] ?? '';
  const etag = `"${hash}"`;
  if (request.headers.get('if-none-match') === etag)
    return new Response(null, { status: 304, headers: { etag } });
  const found = /^[0-9a-f]{64}$/.test(hash) ? await engine.library.content(hash).catch(() => null) : null;
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
};

import type { APIRoute } from 'astro';

/** The style sheet that declares one font of the library. Its address has the font's hash, so it is the same for ever. */
export const GET: APIRoute = ({ params, locals: { engine } }) => {
  const rule = engine.library.faceRule(params['hash'] ?? '');
  if (!rule) return new Response('There is no such font.', { status: 404 });
  const headers = { 'content-type': 'text/css', 'cache-control': 'public, max-age=31536000, immutable' };
  return new Response(rule, { headers });
};

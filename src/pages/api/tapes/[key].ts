import type { APIRoute } from 'astro';

/** What is on a tape: how much each source says when, and the moments that one looks for. */
export const GET: APIRoute = async ({ params, locals: { engine } }) => {
  const overview = await engine.deck.overview(params['key'] ?? '');
  if (typeof overview === 'string') return Response.json({ ok: false, reason: overview }, { status: 409 });
  return Response.json({ ok: true, overview });
};

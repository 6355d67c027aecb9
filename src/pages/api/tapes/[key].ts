import type { APIRoute } from 'astro';
import { Refusal } from '../../../core/show/show.ts';

/** What is on a tape: how much each source says when, and the moments that one looks for. */
export const GET: APIRoute = async ({ params, locals: { engine } }) => {
  try {
    return Response.json({ ok: true, overview: await engine.deck.overview(params['key'] ?? '') });
  } catch (error) {
    if (error instanceof Refusal) return Response.json({ ok: false, reason: error.message }, { status: 409 });
    throw error;
  }
};

import type { APIRoute } from 'astro';
import { answerLook } from '../../../server/live/look.ts';

/** Looks at a source's documents: fetches now, or reads the newest one by a map that is being made. */
export const POST: APIRoute = async ({ params, request, locals: { engine } }) => {
  const { status, body } = await answerLook(engine.incoming, params['key'] ?? '', await request.text());
  return Response.json(body, { status });
};

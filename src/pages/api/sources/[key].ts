import type { APIRoute } from 'astro';
import { answering, readJson } from '../../../server/http/body.ts';
import { answerLook } from '../../../server/live/look.ts';

/** Looks at a source's documents: fetches now, or reads the newest one by a map that is being made. */
export const POST: APIRoute = ({ params, request, locals: { engine } }) =>
  answering(async () => {
    const { status, body } = await answerLook(engine.incoming, params['key'] ?? '', await readJson(request));
    return Response.json(body, { status });
  });

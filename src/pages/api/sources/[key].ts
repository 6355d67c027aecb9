import type { APIRoute } from 'astro';
import { answering, incomingOf, readJson } from '../../../server/http/body.ts';
import { answerLook } from '../../../server/live/look.ts';

/** Looks at the documents of a source, or of a line that is being tried: fetches now, or reads the newest one by a map that is being made. */
export const POST: APIRoute = ({ params, request, locals: { engine } }) =>
  answering(async () => {
    const key = params['key'] ?? '';
    const from = engine.trials.bundle(key) ? engine.trials : engine.incoming;
    const { status, body } = await answerLook(from, key, await readJson(incomingOf(request)));
    return Response.json(body, { status });
  });

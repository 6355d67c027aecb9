import type { APIRoute } from 'astro';
import { answering, readJson } from '../../server/http/body.ts';

/** One action of an operator. It is answered once it is in the database. */
export const POST: APIRoute = ({ request, locals: { engine } }) =>
  answering(async () => {
    const outcome = await engine.act(await readJson(request));
    return Response.json(outcome, { status: outcome.ok ? 200 : outcome.status });
  });

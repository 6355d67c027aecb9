import type { APIRoute } from 'astro';
import { incomingOf } from '../../server/http/body.ts';
import { answerAction } from '../../server/http/endpoints.ts';
import { asResponse } from '../../server/http/reply.ts';

/** One action of an operator. It is answered once it is in the database. */
export const POST: APIRoute = async ({ request, locals: { engine } }) =>
  asResponse(await answerAction(incomingOf(request), engine));

import type { APIRoute } from 'astro';
import { answerField } from '../../../server/http/endpoints.ts';
import { asResponse } from '../../../server/http/reply.ts';

/** One field of the board as plain text. */
export const GET: APIRoute = ({ params, request, locals: { engine } }) =>
  asResponse(answerField(engine, params['key'] ?? '', request.headers.get('if-none-match')));

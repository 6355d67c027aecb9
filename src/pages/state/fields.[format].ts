import type { APIRoute } from 'astro';
import { answerFields } from '../../server/http/endpoints.ts';
import { asResponse } from '../../server/http/reply.ts';

/** All fields of the board as JSON, XML or CSV. */
export const GET: APIRoute = ({ params, request, locals: { engine } }) =>
  asResponse(answerFields(engine, params['format'] ?? '', request.headers.get('if-none-match')));

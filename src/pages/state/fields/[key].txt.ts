import type { APIRoute } from 'astro';
import { respond } from '../../../server/live/conditional.ts';
import { serverNow } from '../../../server/live/hub.ts';
import { oneField } from '../../../server/live/readouts.ts';

/** One field of the board as plain text. */
export const GET: APIRoute = ({ params, request, locals: { engine } }) =>
  respond(request, oneField(engine.board, params['key'] ?? '', serverNow()));

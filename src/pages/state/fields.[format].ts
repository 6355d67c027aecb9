import type { APIRoute } from 'astro';
import { respond } from '../../server/live/conditional.ts';
import { allFields } from '../../server/live/readouts.ts';

/** All fields of the board as JSON, XML or CSV. */
export const GET: APIRoute = ({ params, request, locals: { engine } }) => {
  const tape = engine.deck.playing?.name ?? null;
  return respond(request, allFields(engine.board, params['format'] ?? '', engine.time.now(), tape), tape);
};

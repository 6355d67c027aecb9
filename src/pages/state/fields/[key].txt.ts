import type { APIRoute } from 'astro';
import { respond } from '../../../server/live/conditional.ts';
import { oneField } from '../../../server/live/readouts.ts';

/** One field of the board as plain text. */
export const GET: APIRoute = ({ params, request, locals: { engine } }) => {
  const tape = engine.deck.playing?.name ?? null;
  return respond(request, oneField(engine.board, params['key'] ?? '', engine.time.now()), tape);
};

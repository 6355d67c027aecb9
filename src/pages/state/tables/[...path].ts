import type { APIRoute } from 'astro';
import { asResponse } from '../../../server/http/reply.ts';
import { readoutReply } from '../../../server/live/conditional.ts';
import { tableReadout } from '../../../server/live/tables.ts';

/** One table of the board as JSON, XML or CSV: `stats.players.csv`; a table's key has dots of its own. */
export const GET: APIRoute = ({ params, request, locals: { engine } }) => {
  const [, key = '', format = ''] = /^(.+)\.(\w+)$/.exec(params['path'] ?? '') ?? [];
  return asResponse(
    readoutReply(
      request.headers.get('if-none-match'),
      tableReadout(engine.board, key, format),
      engine.deck.playing?.name ?? null,
    ),
  );
};

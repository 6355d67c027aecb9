import type { APIRoute } from 'astro';
import { exportUnread } from '../../../../server/live/unread.ts';

/** A document that could not be read, just as it is kept, as a file. */
export const GET: APIRoute = ({ params, locals: { engine } }) => {
  const { kind = '', key = '' } = params;
  const text = exportUnread(engine.world, kind, key);
  if (text === undefined)
    return new Response('There is no such document that could not be read.', { status: 404 });
  if (text === null)
    return new Response('It may hold the value of a header, which stays at the server.', { status: 409 });
  return new Response(text, {
    headers: {
      'content-type': 'application/json; charset=utf-8',
      'content-disposition': `attachment; filename="${encodeURIComponent(kind)}-${encodeURIComponent(key)}.json"`,
    },
  });
};

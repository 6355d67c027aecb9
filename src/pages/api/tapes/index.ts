import type { APIRoute } from 'astro';
import { answering, atATime, readBytes } from '../../../server/http/body.ts';

/** The largest file that is taken in, in bytes, compressed or not. */
const LARGEST = 128_000_000;

/** Takes in a tape that was exported, as the body. */
export const POST: APIRoute = ({ request, locals: { engine } }) => {
  const refuse = (status: number, reason: string) => Response.json({ ok: false, reason }, { status });
  return answering(() =>
    atATime(async () => {
      if (!engine.databaseOk)
        return refuse(503, 'The database is not answering, so nothing can be taken in.');
      const info = await engine.deck.bring(await readBytes(request, LARGEST));
      return typeof info === 'string' ? refuse(415, info) : Response.json({ ok: true, name: info.name });
    }),
  );
};

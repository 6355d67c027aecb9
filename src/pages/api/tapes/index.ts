import type { APIRoute } from 'astro';
import { TapeProblem } from '../../../server/tape/lines.ts';

/** The largest file that is taken in, in bytes, compressed or not. */
const LARGEST = 128_000_000;

/** Takes in a tape that was exported, as the body. */
export const POST: APIRoute = async ({ request, locals: { engine } }) => {
  const refuse = (status: number, reason: string) => Response.json({ ok: false, reason }, { status });
  if (Number(request.headers.get('content-length') ?? 0) > LARGEST)
    return refuse(413, `The file is larger than ${LARGEST / 1e6} MB.`);
  if (!engine.databaseOk) return refuse(503, 'The database is not answering, so nothing can be taken in.');
  try {
    const info = await engine.deck.bring(new Uint8Array(await request.arrayBuffer()));
    return Response.json({ ok: true, key: info.key, name: info.name });
  } catch (error) {
    if (error instanceof TapeProblem) return refuse(415, `${error.message}.`);
    throw error;
  }
};

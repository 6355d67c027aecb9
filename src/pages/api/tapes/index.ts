import type { APIRoute } from 'astro';

/** The largest file that is taken in, in bytes, compressed or not. */
const LARGEST = 128_000_000;

/** Takes in a tape that was exported, as the body. */
export const POST: APIRoute = async ({ request, locals: { engine } }) => {
  const refuse = (status: number, reason: string) => Response.json({ ok: false, reason }, { status });
  if (Number(request.headers.get('content-length') ?? 0) > LARGEST)
    return refuse(413, `The file is larger than ${LARGEST / 1e6} MB.`);
  if (!engine.databaseOk) return refuse(503, 'The database is not answering, so nothing can be taken in.');
  const info = await engine.deck.bring(new Uint8Array(await request.arrayBuffer()));
  return typeof info === 'string' ? refuse(415, info) : Response.json({ ok: true, name: info.name });
};

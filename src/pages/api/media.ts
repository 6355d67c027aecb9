import type { APIRoute } from 'astro';
import { LARGEST } from '../../server/media/inspect.ts';

/** Takes one picture or loop in, as the body; answers what it is. The library names it by an action. */
export const POST: APIRoute = async ({ request, url, locals: { engine } }) => {
  const refuse = (status: number, reason: string) => Response.json({ ok: false, reason }, { status });
  const name = url.searchParams.get('name') ?? '';
  const length = Number(request.headers.get('content-length') ?? 0);
  if (length > LARGEST)
    return refuse(413, `${name} has ${(length / 1e6).toFixed(1)} MB; ${LARGEST / 1e6} MB is the limit.`);
  if (!engine.databaseOk) return refuse(503, 'The database is not answering, so nothing can be taken in.');
  const found = await engine.library.take(new Uint8Array(await request.arrayBuffer()), name);
  return 'problem' in found ? refuse(415, found.problem) : Response.json({ ok: true, about: found.about });
};

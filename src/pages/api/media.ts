import type { APIRoute } from 'astro';
import { answering, atATime, readBytes } from '../../server/http/body.ts';
import { LARGEST } from '../../server/media/inspect.ts';

/** Takes one picture or loop in, as the body; answers what it is. The library names it by an action. */
export const POST: APIRoute = ({ request, url, locals: { engine } }) => {
  const refuse = (status: number, reason: string) => Response.json({ ok: false, reason }, { status });
  return answering(() =>
    atATime(async () => {
      if (!engine.databaseOk)
        return refuse(503, 'The database is not answering, so nothing can be taken in.');
      const name = url.searchParams.get('name') ?? '';
      const found = await engine.library.take(await readBytes(request, LARGEST), name);
      return 'problem' in found
        ? refuse(415, found.problem)
        : Response.json({ ok: true, about: found.about });
    }),
  );
};

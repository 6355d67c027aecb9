import type { APIRoute } from 'astro';
import { answering, atATime, deskOf, incomingOf, PACE, readBytes } from '../../server/http/body.ts';
import { LARGEST } from '../../server/media/inspect.ts';

/** Takes one picture or loop in, as the body; answers what it is. The library names it by an action. */
export const POST: APIRoute = ({ request, url, locals: { engine } }) => {
  const refuse = (status: number, reason: string) => Response.json({ ok: false, reason }, { status });
  return answering(() =>
    atATime(deskOf(request), async () => {
      const name = url.searchParams.get('name') ?? '';
      const bytes = await readBytes(incomingOf(request), LARGEST, PACE);
      const found = await engine.runImport(() => engine.library.take(bytes, name));
      if ('reason' in found) return refuse(found.status, found.reason);
      return 'problem' in found
        ? refuse(415, found.problem)
        : Response.json({ ok: true, about: found.about });
    }),
  );
};

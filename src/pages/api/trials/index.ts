import type { APIRoute } from 'astro';
import { answering, incomingOf, readJson } from '../../../server/http/body.ts';
import { readTrial } from '../../../server/http/requests.ts';

/** Opens a line so that somebody can look at what comes, before a source is saved. */
export const POST: APIRoute = ({ request, locals: { engine } }) =>
  answering(async () => {
    const asked = readTrial(await readJson(incomingOf(request)));
    if (typeof asked === 'string') return Response.json({ ok: false, reason: asked }, { status: 400 });
    const opened = engine.trials.open(asked.transport);
    return 'key' in opened
      ? Response.json({ ok: true, key: opened.key })
      : Response.json({ ok: false, reason: opened.problem }, { status: 400 });
  });

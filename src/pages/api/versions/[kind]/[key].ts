import type { APIRoute } from 'astro';
import { answering } from '../../../../server/http/body.ts';

/** The versions of a document: their list, or with `revision` what one of them says. */
export const GET: APIRoute = ({ params, url, locals: { engine } }) =>
  answering(async () => {
    const { kind = '', key = '' } = params;
    const asked = url.searchParams.get('revision');
    if (asked === null) return Response.json({ versions: await engine.versions(kind, key) });
    const doc = await engine.version(kind, key, Number(asked));
    return doc
      ? Response.json({ doc })
      : Response.json({ ok: false, reason: 'There is no such version.' }, { status: 404 });
  });

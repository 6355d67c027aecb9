import type { APIRoute } from 'astro';

const LONGEST = 512 * 1024;

/** One action of an operator. It is answered once it is in the database. */
export const POST: APIRoute = async ({ request, locals: { engine } }) => {
  let body: unknown;
  try {
    const text = await request.text();
    if (text.length > LONGEST)
      return Response.json({ ok: false, reason: 'That is too long.' }, { status: 413 });
    body = JSON.parse(text);
  } catch {
    return Response.json({ ok: false, reason: 'The request is not JSON.' }, { status: 400 });
  }
  const outcome = await engine.act(body);
  return Response.json(outcome, { status: outcome.ok ? 200 : outcome.status });
};

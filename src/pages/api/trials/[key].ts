import type { APIRoute } from 'astro';

/** How a line that is being tried is. Asking keeps it open. */
export const GET: APIRoute = ({ params, locals: { engine } }) => {
  const state = engine.trials.state(params['key'] ?? '');
  return state
    ? Response.json({ ok: true, state })
    : Response.json({ ok: false, reason: 'This line is no longer tried.' }, { status: 404 });
};

/** Closes it. */
export const DELETE: APIRoute = ({ params, locals: { engine } }) => {
  engine.trials.end(params['key'] ?? '');
  return Response.json({ ok: true });
};

import type { APIRoute } from 'astro';

/** Whether all is well: 200 when it is, 503 when the database does not answer. Sources have lamps of their own. */
export const GET: APIRoute = ({ locals: { engine } }) => {
  const ok = engine.databaseOk;
  const sources = engine
    .sourceStates()
    .map(({ key, name, health, rate, counts }) => ({ key, name, health, rate, counts }));
  const uptime = Math.round((performance.timeOrigin + performance.now() - engine.startedAt) / 1000);
  return Response.json(
    { ok, database: ok ? 'ok' : 'down', rehearsal: engine.deck.playing?.name ?? null, sources, uptime },
    { status: ok ? 200 : 503, headers: { 'cache-control': 'no-store' } },
  );
};

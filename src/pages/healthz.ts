import { statfs } from 'node:fs/promises';
import type { APIRoute } from 'astro';

/** What is left of the disk that all is kept on, in bytes; null where that cannot be told. */
const room = () =>
  statfs(process.env['FOOTHILL_DATA'] || '.').then(
    ({ bavail, bsize }) => bavail * bsize,
    () => null,
  );

/** Whether all is well: 200 when it is, 503 when the database does not answer. Sources have lamps of their own. */
export const GET: APIRoute = async ({ locals: { engine } }) => {
  const ok = engine.databaseOk;
  const sources = engine
    .sourceStates()
    .map(({ key, name, health, rate, counts }) => ({ key, name, health, rate, counts }));
  const uptime = Math.round((performance.timeOrigin + performance.now() - engine.startedAt) / 1000);
  return Response.json(
    {
      ok,
      database: ok ? 'ok' : 'down',
      rehearsal: engine.deck.playing?.name ?? null,
      sources,
      uptime,
      disk: await room(),
    },
    { status: ok ? 200 : 503, headers: { 'cache-control': 'no-store' } },
  );
};

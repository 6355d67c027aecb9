import type { APIRoute } from 'astro';

/** The list of tapes, for scripts: each is a file at `/tapes/<key>.jsonl.gz`. */
export const GET: APIRoute = ({ locals: { engine } }) =>
  Response.json({ tapes: engine.deck.tapes }, { headers: { 'cache-control': 'no-cache' } });

import type { IncomingMessage } from 'node:http';
import type { Outcome } from '../../core/wire/wire.ts';
import type { Engine } from '../live/engine.ts';
import { readoutReply } from '../live/conditional.ts';
import { allFields, oneField } from '../live/readouts.ts';
import { BodyProblem, readJson, refuseDeep, type Incoming } from './body.ts';
import { jsonReply, type Reply } from './reply.ts';

/** What is said where an answer fails for a reason that nobody foresaw. */
export const UNANSWERED = 'The request could not be answered.';

/** One action of an operator. It is answered once it is in the database. */
export async function answerAction(incoming: Incoming, engine: Engine): Promise<Reply> {
  try {
    const outcome = await engine.act(await readJson(incoming));
    return jsonReply(outcome, outcome.ok ? 200 : outcome.status);
  } catch (error) {
    if (!(error instanceof BodyProblem)) throw error;
    return jsonReply({ ok: false, reason: error.message }, error.status);
  }
}

/** One action that a desk asked for on its socket. */
export async function answerOnSocket(action: unknown, engine: Engine): Promise<Outcome> {
  try {
    refuseDeep(action);
    return await engine.act(action);
  } catch (error) {
    if (error instanceof BodyProblem) return { ok: false, status: error.status, reason: error.message };
    engine.logError(error, 'an action that was asked for on a socket failed');
    return { ok: false, status: 500, reason: UNANSWERED };
  }
}

/** Whether all is well: 200 when it is, 503 when the database does not answer. Sources have lamps of their own. */
export function answerHealth(engine: Engine): Reply {
  const { ok, left } = engine.database;
  const sources = engine
    .sourceStates()
    .map(({ key, name, health, rate, counts }) => ({ key, name, health, rate, counts }));
  const body = {
    ok,
    database: ok ? 'ok' : 'down',
    rehearsal: engine.deck.playing?.name ?? null,
    sources,
    uptime: engine.uptime,
    disk: left,
  };
  return jsonReply(body, ok ? 200 : 503, { 'cache-control': 'no-store' });
}

/** All fields of the board as JSON, XML or CSV; `known` is what the asker has (If-None-Match). */
export function answerFields(engine: Engine, format: string, known: string | null | undefined): Reply {
  const tape = engine.deck.playing?.name ?? null;
  return readoutReply(known, allFields(engine.board, format, engine.time.now(), tape), tape);
}

/** One field of the board as plain text; `known` is what the asker has (If-None-Match). */
export function answerField(engine: Engine, key: string, known: string | null | undefined): Reply {
  const tape = engine.deck.playing?.name ?? null;
  return readoutReply(known, oneField(engine.board, key, engine.time.now()), tape);
}

const FIELDS = /^\/state\/fields\.(json|xml|csv)$/;
const FIELD = /^\/state\/fields\/([\w.-]+)\.txt$/;

/**
 * What answers a request that is asked many times a second, straight from the engine: the pages' renderer alone would take longer
 * than all the rest. Nothing is done before it is called. Null for all other requests, which go to the pages; the same functions
 * answer there too.
 */
export function answerDirectly(
  request: IncomingMessage,
  pathname: string,
  engine: Engine,
): (() => Promise<Reply> | Reply) | null {
  const { method, headers } = request;
  if (method === 'POST' && pathname === '/api/actions')
    return () =>
      // One that is too long is answered, not broken off.
      answerAction(
        { length: headers['content-length'], body: request.iterator({ destroyOnReturn: false }) },
        engine,
      );
  if (method !== 'GET') return null;
  if (pathname === '/healthz') return () => answerHealth(engine);
  const known = headers['if-none-match'];
  const format = FIELDS.exec(pathname)?.[1];
  if (format) return () => answerFields(engine, format, known);
  const key = FIELD.exec(pathname)?.[1];
  return key ? () => answerField(engine, key, known) : null;
}

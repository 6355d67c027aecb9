import { Readable } from 'node:stream';
import type { IncomingMessage } from 'node:http';
import { describe, expect, it } from 'vitest';
import { Board } from '../../core/board/board.ts';
import { profile } from '../../../tests/support/prepared.ts';
import type { Engine } from '../live/engine.ts';
import { incomingOf, LONGEST } from './body.ts';
import { answerAction, answerDirectly, answerOnSocket, UNANSWERED } from './endpoints.ts';
import { asResponse } from './reply.ts';

const asked: unknown[] = [];
const engine = {
  board: new Board(profile.fields),
  time: { now: () => 0 },
  deck: { playing: null },
  database: { ok: false, left: null },
  uptime: 3,
  sourceStates: () => [],
  act: (body: unknown) => {
    asked.push(body);
    return Promise.resolve({ ok: false, status: 409, reason: 'No.' });
  },
} as unknown as Engine;

const request = (method: string, headers: Record<string, string> = {}, parts: (string | Error)[] = []) => {
  const stream = Readable.from(
    (async function* () {
      for (const part of parts) {
        if (part instanceof Error) throw part;
        yield await Promise.resolve(Buffer.from(part));
      }
    })(),
  );
  return Object.assign(stream, { method, headers }) as unknown as IncomingMessage;
};
const post = (parts: (string | Error)[], headers = {}) =>
  answerDirectly(request('POST', headers, parts), '/api/actions', engine)?.();

describe('what is answered without the pages’ renderer', () => {
  it.each([
    ['GET', '/healthz', 503],
    ['GET', '/state/fields.json', 200],
    ['GET', '/state/fields.csv', 200],
    ['GET', '/state/fields/home.score.txt', 200],
    ['GET', '/state/fields/constructor.txt', 404],
    ['GET', '/state/fields.yaml', null],
    ['GET', '/state/fields/../fields.json', null],
    ['GET', '/api/actions', null],
    ['HEAD', '/healthz', null],
    ['POST', '/healthz', null],
    ['GET', '/live', null],
  ])('%s %s: %s', async (method, path, status) => {
    const reply = await answerDirectly(request(method), path, engine)?.();
    expect(reply?.status ?? null).toBe(status);
  });

  it('does nothing, and so throws nothing, before it is called', () => {
    const broken = {
      get board(): never {
        throw new Error('broken');
      },
      deck: { playing: null },
      time: { now: () => 0 },
    };
    const reply = answerDirectly(request('GET'), '/state/fields.json', broken as unknown as Engine);
    expect(reply).toThrow('broken');
  });

  it('an action in pieces is one action', async () => {
    expect(await post(['{"kind":', '"pin"}'])).toMatchObject({
      status: 409,
      body: '{"ok":false,"status":409,"reason":"No."}',
    });
    expect(asked.splice(0)).toEqual([{ kind: 'pin' }]);
  });

  it.each([
    [[], {}, 400, 'not JSON'],
    [['{"a":'], {}, 400, 'not JSON'],
    [[`${'['.repeat(200)}${']'.repeat(200)}`], {}, 400, 'nested'],
    [['{}'], { 'content-length': String(LONGEST + 1) }, 413, 'too long'],
    [Array.from({ length: 9 }, () => 'x'.repeat(LONGEST / 8)), { 'content-length': '2' }, 413, 'too long'],
    [['{"a"', new Error('reset')], {}, 400, 'broke off'],
  ])('a body %# that cannot be taken is refused in words', async (parts, headers, status, why) => {
    const reply = await post(parts, headers);
    expect(reply).toMatchObject({ status });
    expect(reply?.body).toContain(why);
    expect(asked).toEqual([]);
  });

  it('an action on a socket is held to the same, and what fails is an answer', async () => {
    const deep = JSON.parse(`${'['.repeat(200)}${']'.repeat(200)}`) as unknown;
    expect(await answerOnSocket(deep, engine)).toMatchObject({ ok: false, status: 400 });
    expect(asked).toEqual([]);
    expect(await answerOnSocket({ kind: 'pin' }, engine)).toEqual({ ok: false, status: 409, reason: 'No.' });
    expect(asked.splice(0)).toEqual([{ kind: 'pin' }]);
    const broken = { act: () => Promise.reject(new Error('broken')), logError: (e: Error) => asked.push(e) };
    const told = { ok: false, status: 500, reason: UNANSWERED };
    expect(await answerOnSocket({}, broken as unknown as Engine)).toEqual(told);
    expect(asked.splice(0)).toEqual([new Error('broken')]);
  });

  it('answers the same through the renderer', async () => {
    const web = new Request('http://x/', { method: 'POST', body: '{"kind":"pin"}' });
    const answer = asResponse(await answerAction(incomingOf(web), engine));
    expect([answer.status, await answer.json()]).toEqual([409, { ok: false, status: 409, reason: 'No.' }]);
    expect(asked.splice(0)).toEqual([{ kind: 'pin' }]);
  });
});

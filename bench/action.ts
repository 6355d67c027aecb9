import { fork } from 'node:child_process';
import { Agent, request } from 'node:http';
import { WebSocket } from 'ws';
import { freePort } from '../tests/support/ports.ts';
import { sharedDatabase, World } from '../tests/support/world.ts';
import { median, timesOf, type Figure } from './stats.ts';

const WARM = 60;
const SAMPLES = 400;
const agent = new Agent({ keepAlive: true });

/** Sends one request over a connection that stays open; gives how long its whole answer took, in ms. */
function timed(url: string, body?: object): Promise<number> {
  const text = body && JSON.stringify(body);
  const from = performance.now();
  return new Promise((done, failed) => {
    const headers =
      text === undefined ? {} : { 'content-type': 'application/json', 'content-length': text.length };
    const sent = request(url, { agent, method: text === undefined ? 'GET' : 'POST', headers }, (answer) => {
      answer.resume();
      answer.on('end', () =>
        answer.statusCode === 200
          ? done(performance.now() - from)
          : failed(new Error(`${url}: ${answer.statusCode}`)),
      );
    });
    sent.on('error', failed);
    sent.end(text);
  });
}

/** An action that is committed, and a plain request, each beside a bare program that does no more, turn by turn. */
export async function action(): Promise<Figure[]> {
  const world = await World.start({ sim: false });
  const db = sharedDatabase();
  const port = await freePort();
  const floor = fork(new URL('./floor-action.js', import.meta.url), [
    String(port),
    String(db.port),
    db.password,
    world.databaseName,
  ]);
  await new Promise((done) => floor.once('message', done));
  const bare = `http://127.0.0.1:${port}/`;
  const followers = [
    `${world.url.replace('http', 'ws')}/socket?stream=air:broadcast`,
    bare.replace('http', 'ws'),
  ].map((url) => new WebSocket(url));
  await Promise.all(followers.map((f) => new Promise((done) => f.once('open', done))));
  // As a page does: whoever says nothing is none, and let go.
  followers[0]!.send('{"t":"ping","at":0}');
  const taken = {
    bare: [] as number[],
    foothill: [] as number[],
    barePlain: [] as number[],
    plain: [] as number[],
  };
  try {
    for (let i = 0; i < WARM + SAMPLES; i++) {
      const pin = () => ({ id: crypto.randomUUID(), kind: 'pin', field: 'home.shots', text: String(i % 90) });
      const one = {
        bare: await timed(bare, pin()),
        foothill: await timed(`${world.url}/api/actions`, pin()),
        barePlain: await timed(bare),
        plain: await timed(`${world.url}/healthz`),
      };
      if (i < WARM) continue;
      for (const [name, ms] of Object.entries(one)) taken[name as keyof typeof taken].push(ms);
    }
  } finally {
    for (const follower of followers) follower.terminate();
    floor.kill();
    await world.stop();
  }
  const times = (name: string, ours: number[], floors: number[], most: number): Figure => ({
    name,
    value: median(ours) / median(floors),
    unit: 'times',
    bound: { most },
  });
  return [
    timesOf('action, bare HTTP, driver and broadcast', taken.bare),
    timesOf('action, committed', taken.foothill),
    times('action against its floor', taken.foothill, taken.bare, 3),
    timesOf('plain request, bare', taken.barePlain),
    timesOf('plain request', taken.plain),
    times('plain request against its floor', taken.plain, taken.barePlain, 3),
  ];
}

// Records the demo's tape from a running demo: one whole game by the autopilot, its key minutes at their own speed, the
// rest hurried and cut out. Takes about a quarter of an hour. `node scripts/demo-tape.mjs OUT.jsonl.gz`
import { writeFile } from 'node:fs/promises';
import { setTimeout as wait } from 'node:timers/promises';
import { readSettings } from './lib/settings.mjs';

const { port, simPort } = readSettings();
const site = `http://127.0.0.1:${port}`;
const console_ = `http://127.0.0.1:${simPort + 1}`;
const out = process.argv[2] ?? 'data/demo/tapes/key-minutes.jsonl.gz';
const SEED = 11;

async function post(url, body) {
  const response = await fetch(url, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  const answer = await response.json();
  if (!response.ok) throw new Error(`${url}: ${JSON.stringify(answer)}`);
  return answer;
}
let n = 0;
const act = (action) => post(`${site}/api/actions`, { id: `demo-tape-${Date.now()}-${n++}`, ...action });
const speed = (to) => post(`${console_}/do`, { kind: 'autopilot', on: true, seed: SEED, speed: to });
const state = async () => (await (await fetch(`${console_}/state`)).json()).game;

/** True in the minutes that one rehearses for: beginnings and ends of periods, power plays with a goal near. */
function isKey({ period, clock, running }) {
  const first = clock > (period === 1 ? 14 * 60_000 + 15_000 : 14 * 60_000 + 40_000);
  const last = clock < (period === 4 ? 100_000 : 55_000) && (clock > 0 || running);
  return first || last || period > 4;
}

await speed(20);
await post(`${console_}/do`, { kind: 'new-game' });
await speed(1);
await act({ kind: 'tape', do: 'record', name: 'Key minutes of a game' });
const started = Date.now();
const parts = [{ from: 0, to: NaN }];
let key = true;
let over = 0;
for (;;) {
  await wait(100);
  const game = await state();
  const at = Date.now() - started;
  if (isKey(game) !== key) {
    key = !key;
    if (!key) parts.at(-1).to = at + 2500;
    // What is hurried ends a little later, and the cut begins when it has ended.
    if (!key) await wait(2500);
    await speed(key ? 1 : 20);
    if (key) parts.push({ from: at + 400, to: NaN });
    console.log(
      Math.round(at / 1000),
      's',
      key ? 'key minutes from' : 'hurried from',
      JSON.stringify(game.clock),
    );
  }
  over = game.period >= 4 && game.clock === 0 && game.home.score !== game.away.score ? over + 1 : 0;
  if (over > 60) break;
}
parts.at(-1).to = Date.now() - started;
await act({ kind: 'tape', do: 'stop' });
await wait(3000);
const list = async () => (await (await fetch(`${site}/tapes.json`)).json()).tapes;
const whole = (await list()).find((t) => t.name === 'Key minutes of a game');
await act({ kind: 'tape', do: 'cut', tape: whole.key, parts, name: 'Key minutes of a game' });
const cut = (await list()).find((t) => t.name === whole.name && t.key !== whole.key);
const file = await fetch(`${site}/tapes/${cut.key}.jsonl.gz`);
await writeFile(out, Buffer.from(await file.arrayBuffer()));
console.log('written', out, cut);

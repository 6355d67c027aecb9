import { mkdtempSync, rmSync } from 'node:fs';
import { connect, createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from './support/test.ts';
import { startDatabase } from '../scripts/lib/database.mjs';
import { endProcess } from '../scripts/lib/processes.mjs';
import type { AirSnapshot, DeskSnapshot } from '../src/core/wire/wire.ts';
import { snapshot } from './support/snapshot.ts';
import { freePort } from './support/ports.ts';
import { sharedDatabase, sleep, World } from './support/world.ts';

test('whatever is acknowledged is there after a kill at any of twenty moments, and on air as it was', async () => {
  // Twenty kills and starts, each with a whole engine.
  test.setTimeout(600_000);
  const world = await World.start();
  await world.command({ kind: 'autopilot', on: true, speed: 20 });
  // One writer for each thing, so that the newest acknowledged and the one under way are known for each.
  const acked = { edit: '', pin: '', take: '' };
  const tried = { edit: [] as string[], pin: [] as string[], take: [] as string[] };
  let running = true;
  let count = 0;
  const keep = async (kind: keyof typeof acked, body: (text: string) => Record<string, unknown>) => {
    while (running) {
      const text = String(++count);
      tried[kind].push(text);
      const answer = await world.act(body(text)).catch(() => null);
      if (answer?.ok) {
        acked[kind] = text;
        tried[kind] = [];
      } else await sleep(20);
    }
  };
  const items = ['goalkeeper', 'captain', 'welcome'];
  const itemOf = (text: string) => items[Number(text) % 3]!;
  const writers = [
    keep('edit', (line) => ({ kind: 'edit', item: 'blank', inputs: { line } })),
    keep('pin', (text) => ({ kind: 'pin', field: 'home.shots', text: String(Number(text) % 100) })),
    keep('take', (text) => ({ kind: 'take', item: itemOf(text) })),
  ];
  await world.act({ kind: 'pin', field: 'away.score', text: '42' });
  for (let round = 0; round < 20; round++) {
    // At whatever moment, but in the midst of work, however fast the machine is.
    const had = world.acknowledged.length;
    await expect.poll(() => world.acknowledged.length - had, { intervals: [20] }).toBeGreaterThan(3);
    await sleep(Math.random() * 300);
    await world.killEngine();
    const before = { acked: { ...acked }, tried: structuredClone(tried) };
    await world.startEngine();
    running = false;
    await Promise.all(writers.splice(0));
    const desk = await snapshot<DeskSnapshot>(world, 'desk');
    const air = await snapshot<AirSnapshot>(world, 'air:broadcast');
    // The newest acknowledged one holds, or one sent after it whose answer the kill took away.
    const may = (kind: keyof typeof acked, of: (text: string) => unknown = (t) => t) =>
      [acked[kind], ...tried[kind], ...before.tried[kind]].map(of);
    const lane = desk.lanes.find((l) => l.zone === 'lower')!;
    const field = (key: string) => desk.fields.find((f) => f.key === key)!;
    expect(may('edit')).toContain(desk.documents.item.find((i) => i.key === 'blank')!.inputs['line']);
    expect(may('pin', (t) => Number(t) % 100)).toContain(field('home.shots').pin?.value);
    expect(field('away.score').pin?.value).toBe(42);
    if (acked.take) expect(may('take', itemOf)).toContain(lane.onAir?.item);
    const standing = air.items.find((i) => i.zone === 'lower');
    expect(standing?.item).toBe(lane.onAir?.item);
    if (standing) expect(standing.states['name']?.text).toBe(lane.onAir?.inputs['name']);
    expect(air.items.some((i) => i.zone === 'top')).toBe(true);
    running = true;
    writers.push(
      keep('edit', (line) => ({ kind: 'edit', item: 'blank', inputs: { line } })),
      keep('pin', (text) => ({ kind: 'pin', field: 'home.shots', text: String(Number(text) % 100) })),
      keep('take', (text) => ({ kind: 'take', item: itemOf(text) })),
    );
  }
  running = false;
  await Promise.all(writers);
  const logged = new Set(await world.loggedActions());
  expect(world.acknowledged.filter((id) => !logged.has(id))).toEqual([]);
  expect(world.acknowledged.length).toBeGreaterThan(60);
  // The same request once more is acknowledged and done once.
  const id = world.acknowledged[0]!;
  expect(await world.act({ id, kind: 'release', field: 'away.score' })).toMatchObject({ ok: true });
  expect((await world.field('away.score')).pinned).toBe(true);
  await world.stop();
});

test('an engine starts with a database that is slow, and gives no word at some of its connections', async () => {
  const db = sharedDatabase();
  let began = -Infinity;
  const slow = createServer((near) => {
    near.on('error', () => {});
    const number = ++began;
    if (number > 2 && number < 6) return;
    const far = connect(db.port, '127.0.0.1');
    far.on('error', () => {});
    near.pipe(far);
    far.on('data', (word) => setTimeout(() => near.writable && near.write(word), number > 0 ? 300 : 0));
  });
  await new Promise<void>((done) => slow.listen(0, '127.0.0.1', done));
  const { port } = slow.address() as AddressInfo;
  const world = await World.start({ db: { ...db, port }, sim: false });
  await world.killEngine();
  began = 0;
  await world.startEngine();
  expect(began).toBeGreaterThan(2);
  began = -Infinity;
  await world.stop();
  slow.close();
});

for (const how of ['falls silent', 'is killed'] as const) {
  test(`a database that ${how} for ten seconds stops actions, not the picture, and leaves nothing half done`, async () => {
    test.setTimeout(240_000);
    const data = mkdtempSync(join(tmpdir(), 'foothill-db-'));
    const port = await freePort();
    let { child, password } = await startDatabase({ data, port });
    const world = await World.start({ db: { port, password } });
    const goal = { kind: 'goal', side: 'home' } as const;
    await world.act({ kind: 'take', item: 'captain' });
    // Two edits of one input are one entry: each is still known by its own id.
    const edit = (line: string) => ({
      kind: 'edit',
      item: 'blank',
      inputs: { line },
      desk: 'desk-one',
      view: 'live',
    });
    for (const line of ['one', 'two']) await world.act(edit(line));
    const [taken, first] = world.acknowledged;
    child.kill(how === 'is killed' ? 'SIGKILL' : 'SIGSTOP');
    const away = sleep(10_000);
    for (let i = 0; i < 3; i++) {
      expect(await world.act({ kind: 'take', item: 'welcome' }, { once: true })).toMatchObject({
        status: 503,
        reason: expect.stringContaining('database is not answering, so nothing was changed'),
      });
    }
    const again = [
      { id: taken, kind: 'clear', output: 'broadcast', zone: 'lower' },
      { ...edit('three'), id: first },
    ];
    for (const action of again)
      expect(await world.act(action, { once: true })).toMatchObject({ status: 503 });
    await world.score(goal, goal);
    await expect.poll(async () => (await world.field('home.score')).value).toBe(2);
    expect((await fetch(`${world.url}/healthz`)).status).toBe(503);
    await away;
    if (how === 'is killed') ({ child, password } = await startDatabase({ data, port }));
    else child.kill('SIGCONT');
    await expect.poll(async () => (await fetch(`${world.url}/healthz`)).status).toBe(200);
    const onAir = async () =>
      (await snapshot<AirSnapshot>(world, 'air:broadcast')).items.find((i) => i.zone === 'lower')?.item;
    expect(await onAir()).toBe('captain');
    // What was done before and is asked again is acknowledged, and not done again.
    for (const action of again) expect(await world.act(action)).toMatchObject({ ok: true });
    const { item } = (await snapshot<DeskSnapshot>(world, 'desk')).documents;
    expect(item.find((i) => i.key === 'blank')!.inputs['line']).toBe('two');
    expect(await onAir()).toBe('captain');
    await world.killEngine();
    await world.startEngine();
    expect(await onAir()).toBe('captain');
    expect(await world.act({ kind: 'take', item: 'welcome' })).toMatchObject({ ok: true });
    expect(await onAir()).toBe('welcome');
    await world.stop();
    await endProcess(child.pid!);
    rmSync(data, { recursive: true, force: true });
  });
}

test('with controller and server both gone, the last board is still there after a restart, marked as lost', async () => {
  const world = await World.start();
  await world.score({ kind: 'goal', side: 'away' });
  await expect.poll(async () => (await world.field('away.score')).value).toBe(1);
  await sleep(1500);
  await world.command({ kind: 'fault', fault: 'disconnect', on: true });
  await world.killEngine();
  await world.startEngine();
  expect(await world.field('away.score')).toMatchObject({ value: 1, quality: 'lost' });
  await world.stop();
});

import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { connect, createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from './support/test.ts';
import { startDatabase } from '../scripts/lib/database.mjs';
import { endProcess } from '../scripts/lib/processes.mjs';
import type { AirSnapshot, DeskSnapshot } from '../src/core/wire/wire.ts';
import { killInTheMidst } from './support/kills.ts';
import { snapshot } from './support/snapshot.ts';
import { freePort } from './support/ports.ts';
import { sharedDatabase, sleep, World } from './support/world.ts';

test('whatever is acknowledged is there after a kill at any moment, and on air as it was', async () => {
  const world = await World.start();
  await world.command({ kind: 'autopilot', on: true, speed: 20 });
  // Twenty and more of them are part of \`npm run torture\`.
  expect(await killInTheMidst(world, 5)).toEqual([]);
  expect(world.acknowledged.length).toBeGreaterThan(15);
  // The same request once more is acknowledged and done once; another one by its id is neither, also after a kill.
  const id = crypto.randomUUID();
  const pin = { id, kind: 'pin', field: 'away.score', text: '7' };
  const release = { kind: 'release', field: 'away.score' };
  expect(await world.act(pin)).toMatchObject({ ok: true });
  await world.act(release);
  for (const when of ['at once', 'after a kill']) {
    if (when !== 'at once') {
      await world.killEngine();
      await world.startEngine();
    }
    expect(await world.act(pin), when).toMatchObject({ ok: true, text: 'Pinned Away score at 7' });
    expect((await world.field('away.score')).pinned ?? false, when).toBe(false);
    expect(await world.act({ ...release, id }), when).toMatchObject({ ok: false, status: 409 });
  }
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

/** What a statement could stumble over. */
const ODD = `O'Dell \\ "two"; -- :a $1 ? 😀\nEND`;

/** The states of all threads of a process, a letter each as `/proc` has them; none where it has ended. */
const threadStates = (pid: number): string => {
  try {
    return readdirSync(`/proc/${pid}/task`)
      .map((thread) =>
        readFileSync(`/proc/${pid}/task/${thread}/stat`, 'latin1').replace(/^.*\) (.).*$/s, '$1'),
      )
      .join('');
  } catch {
    return '';
  }
};

for (const how of ['falls silent', 'is killed'] as const) {
  test(`a database that ${how} for five seconds stops actions, not the picture, and leaves nothing half done`, async () => {
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
    for (const line of ['one', ODD]) await world.act(edit(line));
    const [taken, first] = world.acknowledged;
    child.kill(how === 'is killed' ? 'SIGKILL' : 'SIGSTOP');
    // A signal takes a moment to reach all its threads, in which it could still commit.
    await expect.poll(() => threadStates(child.pid!)).toMatch(/^[TZ]*$/);
    const away = sleep(5000);
    for (let i = 0; i < 3; i++) {
      expect(await world.act({ kind: 'take', item: 'welcome' }, { once: true })).toMatchObject({
        status: 503,
        reason: expect.stringContaining('database is not answering, so nothing was changed'),
      });
    }
    // What was done before and is asked again is acknowledged, and not done again; another one by its id is refused.
    const askAgain = async () => {
      for (const action of [
        { id: taken, kind: 'take', item: 'captain' },
        { ...edit('one'), id: first },
      ])
        expect(await world.act(action, { once: true })).toMatchObject({ ok: true });
      for (const action of [
        { id: taken, kind: 'clear', output: 'broadcast', zone: 'lower' },
        { ...edit('three'), id: first },
      ])
        expect(await world.act(action, { once: true })).toMatchObject({ ok: false, status: 409 });
    };
    await askAgain();
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
    await askAgain();
    const line = async () => {
      const { item } = (await snapshot<DeskSnapshot>(world, 'desk')).documents;
      return item.find((i) => i.key === 'blank')!.inputs['line'];
    };
    expect(await line()).toBe(ODD);
    expect(await onAir()).toBe('captain');
    await world.killEngine();
    await world.startEngine();
    await askAgain();
    expect(await line()).toBe(ODD);
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

import { createServer, type AddressInfo } from 'node:net';
import { describe, expect, it } from 'vitest';
import { setUp, SOON } from '../../../tests/support/engine.ts';
import { answerLook } from './look.ts';

describe('Lines, while the engine runs', () => {
  it('opens the line anew where silence is judged by something else, for a silent one is ended or let stand by it', async () => {
    const { engine, frame, act } = await setUp({}, SOON);
    frame();
    await expect.poll(() => engine.sourceStates()[0]!.counts.good).toBeGreaterThan(0);
    const good = () => engine.sourceStates()[0]!.counts.good;
    const save = (limits: object) => {
      const bundle = structuredClone(engine.incoming.bundle('controller')!);
      return act({ kind: 'source', bundle: { ...bundle, source: { ...bundle.source, limits } } });
    };
    const { limits } = engine.incoming.bundle('controller')!.source;
    expect(good()).toBeGreaterThan(0);
    // Other times are other judgements of the same line; so is what stands for nothing said.
    await save({ ...limits, late: limits.late + 50, by: 'time' });
    expect(good()).toBeGreaterThan(0);
    await save({ ...limits, by: 'none' });
    expect(good()).toBe(0);
    // Said once, it stands however long nothing comes.
    const spoken = () => {
      if (!good()) frame();
      return good();
    };
    await expect.poll(spoken).toBeGreaterThan(0);
    const heard = Date.now();
    await expect.poll(() => Date.now() - heard).toBeGreaterThan(limits.lost + 100);
    expect(engine.sourceStates()[0]?.health).toBe('live');
  });

  it('tries a line without keeping anything of it: what comes is shown, a bad one is refused', async () => {
    const { engine } = await setUp();
    const device = createServer((socket) => void socket.on('error', () => {}).write('12:34\r\n'));
    await new Promise<void>((done) => device.listen(0, '127.0.0.1', done));
    const { port } = device.address() as AddressInfo;
    const line = { kind: 'tcp', host: '127.0.0.1', port };
    const { trials } = engine;
    const before = JSON.stringify(engine.board.fields);
    const opened = trials.open(line) as { key: string };
    await expect.poll(() => trials.state(opened.key)).toMatchObject({ health: 'live', connected: true });
    expect(engine.hub.has(`bytes:${opened.key}`)).toBe(true);
    expect(engine.incoming.bundle(opened.key)).toBeUndefined();
    expect(JSON.stringify(engine.board.fields)).toBe(before);
    expect((await answerLook(trials, opened.key, {})).body).toMatchObject({
      reason: 'No good document has come yet.',
    });
    expect(trials.open({ kind: 'tcp', host: 'a b', port })).toMatchObject({
      problem: expect.stringContaining('source.transport.host'),
    });
    expect(trials.open({ kind: 'hand' })).toMatchObject({ problem: expect.stringContaining('no line') });
    const more = Array.from({ length: 8 }, () => trials.open(line));
    expect(more.filter((o) => 'key' in o)).toHaveLength(7);
    expect(more.at(-1)).toMatchObject({ problem: expect.stringContaining('8 lines') });
    trials.end(opened.key);
    expect(trials.state(opened.key)).toBeNull();
    expect(engine.hub.has(`bytes:${opened.key}`)).toBe(false);
    trials.stop();
    // It closes once nobody is connected any more.
    await new Promise((done) => device.close(done));
    for (const o of more) if ('key' in o) expect(trials.state(o.key)).toBeNull();
  });
});

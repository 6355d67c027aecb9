import { describe, expect, it } from 'vitest';
import { FakeTime } from '../../../tests/support/fake-time.ts';
import { setUp, SOON } from '../../../tests/support/engine.ts';
import { answerLook } from './look.ts';

describe('Lines, while the engine runs', () => {
  it('opens the line anew where silence is judged by something else, for a silent one is ended or let stand by it', async () => {
    const time = new FakeTime();
    const { engine, frame, act } = await setUp({}, SOON, time);
    frame();
    await time.until(() => expect(engine.sourceStates()[0]!.counts.good).toBeGreaterThan(0));
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
    await time.until(() => expect(spoken()).toBeGreaterThan(0));
    await time.pass(limits.lost + 100);
    expect(engine.sourceStates()[0]?.health).toBe('live');
  });

  it('tries a line without keeping anything of it: what comes is shown, a bad one is refused', async () => {
    const time = new FakeTime();
    const { engine, line: device } = await setUp({}, undefined, time);
    const line = { kind: 'tcp', host: '127.0.0.1', port: 4002 };
    const { trials } = engine;
    const before = JSON.stringify(engine.board.fields);
    const opened = trials.open(line) as { key: string };
    device.say(Buffer.from('12:34\r\n'), 4002);
    await time.until(() =>
      expect(trials.state(opened.key)).toMatchObject({ health: 'live', connected: true }),
    );
    expect(engine.hub.has(`bytes:${opened.key}`)).toBe(true);
    expect(engine.incoming.bundle(opened.key)).toBeUndefined();
    expect(JSON.stringify(engine.board.fields)).toBe(before);
    expect((await answerLook(trials, opened.key, {})).body).toMatchObject({
      reason: 'No good document has come yet.',
    });
    expect(trials.open({ kind: 'tcp', host: 'a b', port: 4002 })).toMatchObject({
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
    // Nobody listens any more.
    device.hangUp(null, 4002);
    for (const o of more) if ('key' in o) expect(trials.state(o.key)).toBeNull();
  });
});

import { bundlesOf } from '../../core/actions/world.ts';
import { gunzipSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { isClock, shifted, type FieldValue } from '../../core/board/values.ts';
import type { TapeInfo, TapeOverview } from '../../core/tape/tape.ts';
import type { Engine } from '../live/engine.ts';
import { FakeTime } from '../../../tests/support/fake-time.ts';
import { read, setUp, SOON } from '../../../tests/support/engine.ts';
import { readTape } from './lines.ts';

/** Writes down every state that the board comes to, with times counted from `zero()`. */
function history(engine: Engine, zero: () => number) {
  const states: string[] = [];
  const { board } = engine;
  const note = () => {
    const fields = board.fields
      .filter((d) => d.group !== 'home' || d.kind === 'integer')
      .map(({ key }): [string, FieldValue, string, string] => {
        const { value, quality, origin } = board.state(key)!;
        return [key, isClock(value) ? shifted(value, -zero()) : value, origin, quality];
      });
    const text = JSON.stringify(fields);
    if (text !== states.at(-1)) states.push(text);
  };
  for (const name of ['apply', 'mark', 'orphan'] as const) {
    const own = board[name].bind(board) as (...args: unknown[]) => unknown;
    (board as unknown as Record<string, unknown>)[name] = (...args: unknown[]) => {
      const result = own(...args);
      note();
      return result;
    };
  }
  return states;
}

/** A Foothill that records, with its clock running. */
async function recording() {
  const time = new FakeTime();
  const set = await setUp({ source: [read('basic/source/pad.json')] }, SOON, time);
  const { engine, act, frame } = set;
  frame((s) => {
    s.clock = 600_000;
    s.running = true;
  });
  await time.until(() => expect(engine.board.read('clock.game')).toMatchObject({ running: true }));
  expect(await act({ kind: 'tape', do: 'record', name: 'First' })).toMatchObject({ ok: true });
  const [{ key, recorded }] = engine.deck.tapes as [TapeInfo];
  const stop = async () => {
    await act({ kind: 'tape', do: 'stop' });
    await time.until(() => expect(engine.deck.tapes[0]!.recording).toBe(false));
  };
  return { ...set, time, key, zero: Date.parse(recorded), stop };
}

/** A tape of about a second and a half on which the home score goes from 0 to `goals`. */
async function recorded(goals = 3) {
  const set = await recording();
  for (let i = 1; i <= goals; i++) {
    await set.time.pass(300);
    set.frame((s) => (s.home.score = i));
    await set.time.until(() => expect(set.engine.board.read('home.score')).toBe(i));
  }
  await set.time.pass(50);
  await set.stop();
  const tape = await readTape(set.store.tapeParts(set.key));
  const goal = (n: number) =>
    tape.entries.filter((e) => e.kind === 'said' && e.said.kind === 'bytes')[n - 1]!.at;
  const rehearse = (more: object) => set.act({ kind: 'rehearse', ...more });
  return { ...set, tape, goal, rehearse };
}

describe('A tape', () => {
  it('replayed leads to the same board, state for state: clocks, silence and the hand that took over', async () => {
    const { time, engine, act, frame, key, store, zero, stop } = await recording();
    const live = history(engine, () => engine.deck.playing?.zero ?? zero);
    // What is on the tape ends with the stop, not when it is looked at.
    let wanted: string[] = [];
    const deck = engine.deck as unknown as { stopRecording: () => Promise<void> };
    const own = deck.stopRecording.bind(deck);
    deck.stopRecording = () => {
      const stopped = own();
      wanted = [...live];
      return stopped;
    };
    let clock = 599_900;
    for (let i = 0; i < 12; i++) {
      frame((s) => {
        s.clock = clock -= 100;
        if (i === 5) s.home.score = 1;
        if (i === 8) s.home.penalties.push({ player: 7, left: 120_000, length: 120_000 });
      });
      await time.pass(100);
    }
    // The controller falls silent; the operator runs the clock by hand; the controller is back.
    await time.until(() => expect(engine.board.state('clock.game')?.quality).toBe('lost'));
    expect(await act({ kind: 'hand', source: 'pad', field: 'clock.game', do: 'start' })).toMatchObject({
      ok: true,
    });
    await time.pass(200);
    frame((s) => (s.home.score = 2));
    await time.pass(300);
    await stop();
    const tape = await readTape(store.tapeParts(key));
    expect(tape.entries[0]).toMatchObject({ at: 0, kind: 'state' });
    expect(tape.entries.filter((e) => e.kind === 'look').length).toBeGreaterThan(1);
    live.length = 0;
    expect(await act({ kind: 'rehearse', do: 'start', tape: key })).toMatchObject({ ok: true });
    await time.until(() => expect(engine.deck.playing?.playing).toBe(false));
    expect(wanted.length).toBeGreaterThan(8);
    // The tape begins with what stood when it began; from its first word on all is the same.
    const begin = live.indexOf(wanted[0]!);
    expect(begin).toBeGreaterThanOrEqual(0);
    expect(live.slice(begin)).toEqual(wanted);
  });

  it('goes anywhere, again and again, at any speed; pages see only where it led', async () => {
    const { time, engine, key, rehearse, goal, air } = await recorded();
    const score = () => engine.board.read('home.score');
    expect(await rehearse({ do: 'start', tape: key })).toMatchObject({ ok: true });
    await rehearse({ do: 'pause' });
    const before = air.messages.length;
    await rehearse({ do: 'jump', to: goal(3) });
    await time.until(() => expect(score()).toBe(3));
    await rehearse({ do: 'jump', to: goal(1) });
    await time.until(() => expect(score()).toBe(1));
    const shown = air.messages.slice(before).flatMap((m) => JSON.stringify(m).match(/"text":\d+/g) ?? []);
    expect(shown).not.toContain('"text":2');
    await rehearse({ do: 'loop', part: { from: goal(2) - 60, to: goal(2) + 60 } });
    await rehearse({ do: 'speed', to: 5 });
    const seen: unknown[] = [];
    await rehearse({ do: 'jump', to: goal(2) - 60 });
    await rehearse({ do: 'play' });
    await time.until(
      () => {
        if (seen.at(-1) !== score()) seen.push(score());
        expect(seen.filter((s) => s === 2).length).toBeGreaterThan(2);
      },
      60_000,
      1,
    );
    expect(new Set(seen)).toEqual(new Set([1, 2]));
    await rehearse({ do: 'loop' });
    await rehearse({ do: 'speed', to: 20 });
    await rehearse({ do: 'jump', to: 0 });
    await time.until(() => expect(engine.deck.playing?.playing).toBe(false));
    expect(score()).toBe(3);
    await rehearse({ do: 'speed', to: 0.25 });
    await rehearse({ do: 'play' });
    await time.until(() => expect(score()).toBe(0));
  });

  it('leaves nothing behind: the board says again what it said, and nothing rehearsed was saved', async () => {
    const { time, engine, key, rehearse, frame, store, act, desk } = await recorded(1);
    frame((s) => (s.home.score = 8));
    await time.until(() => expect(engine.board.read('home.score')).toBe(8));
    await time.until(() => expect(store.board.findLast((b) => b.field === 'home.score')?.value).toBe(8));
    const saved = store.board.length;
    await rehearse({ do: 'start', tape: key });
    await time.until(() => expect(engine.deck.playing?.playing).toBe(false));
    expect(engine.board.read('home.score')).toBe(1);
    expect(desk.messages.some((m) => m.t === 'time' && JSON.stringify(m).includes('"tape":"First"'))).toBe(
      true,
    );
    expect(await act({ kind: 'tape', do: 'delete', tape: key })).toMatchObject({ ok: false });
    await time.pass(1100);
    expect(store.board.length).toBe(saved);
    await rehearse({ do: 'end' });
    expect(engine.board.state('home.score')).toMatchObject({ value: 8, quality: 'lost' });
    expect(desk.messages.findLast((m) => m.t === 'time')).toMatchObject({ rehearsal: null });
    await time.pass(300);
    const heard = () => {
      frame((s) => (s.home.score = 9));
      return engine.board.state('home.score');
    };
    await time.until(() => expect(heard()).toMatchObject({ value: 9, quality: 'ok' }));
  });

  it('is cut so that each part is true by itself, carried elsewhere and brought in again', async () => {
    const { time, engine, key, act, goal, rehearse, tape, store } = await recorded();
    const parts = [
      { from: 0, to: goal(1) - 20 },
      { from: goal(2) + 20, to: goal(3) + 20 },
    ];
    expect(await act({ kind: 'tape', do: 'cut', tape: key, parts, name: 'Ends' })).toMatchObject({
      ok: true,
    });
    const made = engine.deck.tapes.find((t) => t.name === 'Ends')!;
    await rehearse({ do: 'start', tape: made.key });
    await rehearse({ do: 'pause' });
    await rehearse({ do: 'jump', to: goal(1) - 20 });
    await time.until(() => expect(engine.board.read('home.score')).toBe(2));
    await rehearse({ do: 'end' });
    expect(await act({ kind: 'tape', do: 'rename', tape: key, name: 'Whole' })).toMatchObject({ ok: true });
    const chunks: Uint8Array[] = [];
    for await (const part of engine.deck.file(key)!.parts) chunks.push(part);
    const file = Buffer.concat(chunks);
    const { key: again } = (await engine.deck.bring(file)) as TapeInfo;
    const brought = await readTape(store.tapeParts(again));
    expect(brought.head.name).toBe('Whole');
    expect(brought.entries).toEqual(tape.entries);
    expect(await engine.deck.bring(gunzipSync(file))).toMatchObject({ entries: tape.entries.length });
    expect(await engine.deck.bring(file.subarray(0, 100))).toContain('unpacked');
    expect(await engine.deck.bring(Buffer.from('{"tape":2}'))).toContain('line 1');
    expect(((await engine.deck.overview(key)) as TapeOverview).moments.map((m) => m.text)).toEqual([
      '1 – 0',
      '2 – 0',
      '3 – 0',
    ]);
  });

  it('waits for a database that is away, and is whole when it is back', async () => {
    const { time, store, frame, engine, stop, key } = await recording();
    const put = store.putTape;
    store.putTape = () => Promise.reject(new Error('away'));
    frame((s) => (s.home.score = 4));
    await time.until(() => expect(engine.board.read('home.score')).toBe(4));
    await time.pass(1200);
    expect(store.tapeBytes.get(key)).toBeUndefined();
    store.putTape = put;
    await stop();
    const { entries } = await readTape(store.tapeParts(key));
    expect(entries[0]!.kind).toBe('state');
    expect(entries.filter((e) => e.kind === 'said')).toHaveLength(1);
  });

  it('is asked for in ways that make sense, or refuses in words', async () => {
    const { engine, act, key, stop } = await recording();
    const refused = async (action: object, words: string) =>
      expect(await act(action)).toMatchObject({
        ok: false,
        reason: expect.stringContaining(words) as string,
      });
    await refused({ kind: 'tape', do: 'record' }, 'being recorded already');
    await refused({ kind: 'rehearse', do: 'start', tape: key }, 'stop that');
    await refused({ kind: 'tape', do: 'delete', tape: key }, 'stop that first');
    await refused({ kind: 'rehearse', do: 'pause' }, 'No tape');
    await stop();
    await refused({ kind: 'tape', do: 'stop' }, 'Nothing is being recorded');
    await refused({ kind: 'tape', do: 'cut', tape: key, parts: [] }, 'which part');
    await refused({ kind: 'tape', do: 'cut', tape: key, parts: [{ from: 5, to: 1 }] }, 'ends later');
    await refused({ kind: 'tape', do: 'rename', tape: key }, 'needs a name');
    await refused({ kind: 'rehearse', do: 'start', tape: 'no' }, 'There is no tape');
    await act({ kind: 'rehearse', do: 'start', tape: key });
    await refused({ kind: 'rehearse', do: 'speed', to: 21 }, '0.25 to 20');
    await refused({ kind: 'rehearse', do: 'jump' }, 'where to');
    await refused({ kind: 'tape', do: 'record' }, 'end the rehearsal');
    const [bundle] = bundlesOf(engine.world);
    await refused({ kind: 'source', bundle }, 'maps that are on the tape');
  });
});

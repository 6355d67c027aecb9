import { describe, expect, it } from 'vitest';
import { isClock, shifted, type FieldValue } from '../../core/board/values.ts';
import type { Engine } from '../live/engine.ts';
import { read, setUp } from '../../../tests/support/engine.ts';
import { readTape } from './lines.ts';

const wait = (ms: number) => new Promise((go) => setTimeout(go, ms));

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

async function recorded() {
  const set = await setUp({ source: [read('basic/source/pad.json')] });
  const { engine, act, frame, store } = set;
  frame((s) => {
    s.clock = 600_000;
    s.running = true;
  });
  await expect.poll(() => engine.board.read('clock.game')).toMatchObject({ running: true });
  const states: string[] = [];
  expect(await act({ kind: 'tape', do: 'record', name: 'First' })).toMatchObject({ ok: true });
  const [info] = engine.deck.tapes;
  return { ...set, states, key: info!.key, store };
}

describe('A tape', () => {
  it('replayed leads to the same board, state for state: clocks, silence and the hand that took over', async () => {
    const { engine, act, frame, key, store } = await recorded();
    const started = Date.parse(engine.deck.tapes[0]!.recorded);
    let zero = NaN;
    const live = history(engine, () => (Number.isNaN(zero) ? (engine.deck.playing?.zero ?? 0) : zero));
    // The recorder's zero is when it began; the board's first change after it tells.
    const entries = () => engine.deck.tapes[0]!.entries;
    expect(entries()).toBeGreaterThan(0);
    zero = started;
    let clock = 599_900;
    for (let i = 0; i < 12; i++) {
      frame((s) => {
        s.clock = clock -= 100;
        if (i === 5) s.home.score = 1;
        if (i === 8) s.home.penalties.push({ player: 7, left: 120_000, length: 120_000 });
      });
      await wait(100);
    }
    // The controller falls silent; the operator runs the clock by hand; the controller is back.
    await expect.poll(() => engine.board.state('clock.game')?.quality, { timeout: 3000 }).toBe('lost');
    expect(await act({ kind: 'hand', source: 'pad', field: 'clock.game', do: 'start' })).toMatchObject({
      ok: true,
    });
    await wait(200);
    frame((s) => (s.home.score = 2));
    await wait(300);
    await act({ kind: 'tape', do: 'stop' });
    await expect.poll(() => engine.deck.tapes[0]!.recording).toBe(false);
    const tape = await readTape(store.tapeParts(key));
    expect(tape.entries[0]).toMatchObject({ at: 0, kind: 'state' });
    expect(tape.entries.filter((e) => e.kind === 'look').length).toBeGreaterThan(1);
    // Times on the board count from the epoch; the tape's from its beginning.
    const first = tape.entries.find((e) => e.kind === 'said' && e.said.kind === 'bytes')!;
    expect(first.at).toBeGreaterThanOrEqual(0);
    const wanted = [...live];
    live.length = 0;
    zero = NaN;
    expect(await act({ kind: 'rehearse', do: 'start', tape: key })).toMatchObject({ ok: true });
    await expect.poll(() => engine.deck.playing?.playing, { timeout: 8000 }).toBe(false);
    expect(wanted.length).toBeGreaterThan(8);
    // The tape begins with what stood when it began; from its first word on all is the same.
    const begin = live.indexOf(wanted[0]!);
    expect(begin).toBeGreaterThanOrEqual(0);
    expect(live.slice(begin)).toEqual(wanted);
  }, 20_000);
});

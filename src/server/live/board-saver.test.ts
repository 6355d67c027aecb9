import { pino } from 'pino';
import { describe, expect, it } from 'vitest';
import { Board } from '../../core/board/board.ts';
import { stoppedClock } from '../../core/clock/clock.ts';
import type { FieldDef } from '../../core/sport/profile.ts';
import type { Saved } from '../store/store.ts';
import { BoardSaver } from './board-saver.ts';
import { machineTime } from '../scheduler.ts';

function setUp() {
  const score: FieldDef = { key: 'score', label: 'Score', kind: 'integer', group: 'home', min: 0, max: 99 };
  const clock = {
    key: 'clock',
    label: 'Clock',
    kind: 'clock',
    group: 'clocks',
    max: 600_000,
    direction: 'down',
  } as FieldDef;
  const board = new Board([score, clock]);
  const saved: Saved['board'][] = [];
  let answer: () => Promise<void> = () => Promise.resolve();
  const store = {
    ok: true,
    saveBoard: (rows: Saved['board']) => {
      saved.push(rows);
      return answer();
    },
  };
  const saver = new BoardSaver(board, store, pino({ level: 'silent' }));
  const set = (value: number) => saver.note(board.apply([{ key: 'score', value, origin: 's' }], 1).touched);
  return { board, saver, saved, store, set, answers: (next: () => Promise<void>) => (answer = next) };
}

describe('BoardSaver', () => {
  it('saves what changed once, clocks at rest, and leaves out what went with its sport', async () => {
    const { board, saver, saved, set } = setUp();
    const running = { ...stoppedClock(9000, 'down', machineTime.now()), running: true, until: 0 };
    saver.note(board.apply([{ key: 'clock', value: running, origin: 's' }], 1).touched);
    set(3);
    await saver.save();
    expect(saved[0]).toMatchObject([
      { field: 'clock', value: { running: false } },
      { field: 'score', value: 3 },
    ]);
    set(4);
    board.undefine('score');
    await saver.save();
    await saver.save();
    expect(saved.slice(1)).toEqual([[]]);
  });

  it('tries again what could not be saved', async () => {
    const { saver, saved, store, set, answers } = setUp();
    answers(() => Promise.reject(new Error('gone')));
    set(1);
    await saver.save();
    store.ok = false;
    await saver.save();
    expect(saved).toHaveLength(1);
    store.ok = true;
    answers(() => Promise.resolve());
    await saver.save();
    expect(saved[1]).toMatchObject([{ field: 'score', value: 1 }]);
  });

  it('lets no older batch be written over what a commit writes itself', async () => {
    const { saver, saved, set, answers } = setUp();
    let arrive = () => {};
    answers(() => new Promise((done) => (arrive = done)));
    set(1);
    const batch = saver.save();
    const order: string[] = [];
    const commit = saver.alone(async () => {
      order.push('commit');
      set(2);
      await saver.save();
      expect(saved).toHaveLength(1);
    });
    setTimeout(() => (order.push('batch'), arrive()), 30);
    await Promise.all([batch, commit]);
    expect(order).toEqual(['batch', 'commit']);
    answers(() => Promise.resolve());
    await saver.save();
    expect(saved[1]).toMatchObject([{ value: 2 }]);
  });
});

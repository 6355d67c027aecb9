import { expect, it } from 'vitest';
import { FakeTime } from '../../../tests/support/fake-time.ts';
import { read, setUp } from '../../../tests/support/engine.ts';

it('another game begins with what its sources go on saying, and keeps the rows of those that feed no field', async () => {
  const table = { name: 'T', rows: '/a', keyed: ['n'], columns: [{ name: 'n', place: 'n', as: 'text' }] };
  const asked = (key: string) => ({
    ...{ schema: 1, key, name: key, limits: { late: 60_000, lost: 120_000 } },
    transport: { kind: 'http', url: 'http://127.0.0.1:9/', every: 3_600_000 },
  });
  const time = new FakeTime();
  const extra = {
    source: [asked('wire'), asked('stats')],
    'doc-map': ['wire', 'stats'].map((key) => ({
      ...{ schema: 1, key, readings: [{ name: 'shots', place: '/s', as: 'number' }] },
      tables: [{ ...table, key: `${key}.rows` }],
    })),
    patch: [
      {
        schema: 1,
        key: 'stats',
        source: 'stats',
        links: [{ reading: 'shots', field: 'home.shots', priority: 2 }],
      },
    ],
  };
  const { engine, store, frame, line, act } = await setUp(extra, { late: 5000, lost: 10_000 }, time);
  const rows = (key: string) => engine.board.tables.get(`${key}.rows`)?.rows.size;
  for (const key of ['wire', 'stats'])
    engine.board.tables.put(
      { key: `${key}.rows`, name: key, columns: ['n'], rows: [['1', { n: '1' }]] },
      key,
      1,
    );
  frame((s) => Object.assign(s.home, { score: 3 }));
  await time.until(() => expect(engine.board.read('home.score')).toBe(3));
  await time.until(() =>
    expect(engine.sourceStates()[0]).toMatchObject({ key: 'controller', health: 'live' }),
  );
  const rematch = { ...(read('demo/game/opening-night.json') as object), key: 'rematch' };
  await act({ kind: 'put-document', what: 'game', body: rematch });
  expect(await act({ kind: 'choose-game', game: 'rematch' })).toMatchObject({ ok: true });
  const score = { value: 3, origin: 'controller', quality: 'ok' };
  expect(engine.board.state('home.score')).toMatchObject(score);
  const set = () =>
    (store.committed.at(-1) as { change: { values: { field: string }[] } }).change.values.map((v) => v.field);
  expect(set()).not.toContain('home.score');
  expect([rows('wire'), rows('stats')]).toEqual([1, undefined]);
  expect(await act({ kind: 'undo' })).toMatchObject({ ok: true });
  expect(rows('stats')).toBe(1);
  // Who is silent says nothing of the next game.
  line.hangUp();
  await time.until(() => expect(engine.board.state('home.score')?.quality).toBe('lost'));
  expect(await act({ kind: 'choose-game', game: 'rematch' })).toMatchObject({ ok: true });
  expect(engine.board.state('home.score')).toMatchObject({ value: 0, origin: 'start' });
  expect(set()).toContain('home.score');
});

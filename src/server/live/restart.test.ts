import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { afterEach, describe, expect, it } from 'vitest';
import { engineOn, FakeStore } from '../../../tests/support/engine.ts';
import { CONTROLLER } from '../../../tests/support/memory-line.ts';

let server: Server | null = null;
afterEach(() => void server?.close());

/** A service that says rows, and what makes of them a table and a pick that goes round. */
async function wireService(order = 'forwards', through = 'wire.lines') {
  const rows = [1, 2, 3].map((n) => ({ id: `w${n}`, line: `Line ${n}` }));
  server = createServer((_, answer) => answer.end(JSON.stringify({ rows })));
  await new Promise<void>((done) => server!.listen(0, '127.0.0.1', done));
  const { port } = server.address() as AddressInfo;
  const columns = ['id', 'line'].map((name) => ({ name, place: name, as: 'text' }));
  const table = { key: 'wire.lines', name: 'Lines', rows: '/document/rows', keyed: ['id'], columns };
  const pick = { what: 'pick', key: 'wire.now', name: 'Now', table: through };
  const sorted = {
    what: 'table',
    key: 'wire.z',
    name: 'Sorted',
    from: ['wire.lines'],
    sort: [{ by: 'line' }],
  };
  const how = { by: 'rotation', dwell: 500, order };
  return {
    source: [
      {
        ...{ schema: 1, key: 'wire', name: 'Wire', limits: { late: 60_000, lost: 120_000 } },
        transport: { kind: 'http', url: `http://127.0.0.1:${port}/`, every: 1000 },
      },
    ],
    'doc-map': [{ schema: 1, key: 'wire', readings: [], tables: [table] }],
    // The table that the pick may go through is worked out after it.
    derived: [
      { schema: 1, key: 'wire.now', derived: { ...pick, how } },
      { schema: 1, key: 'wire.z', derived: sorted },
    ],
  };
}

describe('an engine that is started again', () => {
  it.each([
    ['forwards', 'wire.lines'],
    ['shuffled', 'wire.z'],
  ])(
    'has its rows and where its rotations stood before any source answers, %s through %s',
    async (order, through) => {
      const store = new FakeStore(CONTROLLER, await wireService(order, through));
      const first = await engineOn(store);
      await expect.poll(() => first.board.read('wire.now')).toMatch(/^w/);
      const shown = first.board.read('wire.now');
      await expect.poll(() => first.board.read('wire.now')).not.toBe(shown);
      const stood = first.board.read('wire.now');
      const { at } = first.board.tables.get('wire.lines')!;
      server!.close();
      server!.closeAllConnections();
      await first.stop();
      const second = await engineOn(store);
      expect(second.board.read('wire.now')).toBe(stood);
      expect(second.board.row('wire.lines', String(stood))).toMatchObject({
        line: expect.stringMatching(/^Line/),
      });
      expect(second.board.tables.get('wire.lines')).toMatchObject({ quality: 'lost', origin: 'wire', at });
      // It goes on to what was not shown yet.
      await expect.poll(() => second.board.read('wire.now')).not.toBe(stood);
      expect([shown, stood]).not.toContain(second.board.read('wire.now'));
    },
  );

  it('forgets the rows of a source that was deleted', async () => {
    const extra = await wireService();
    const store = new FakeStore(CONTROLLER, extra);
    const first = await engineOn(store);
    await expect.poll(() => first.board.tables.get('wire.lines')?.rows.size).toBe(3);
    await first.stop();
    extra.source = [];
    expect((await engineOn(store)).board.tables.get('wire.lines')).toBeUndefined();
  });
});

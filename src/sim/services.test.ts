import { createServer } from 'node:net';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterEach, describe, expect, it } from 'vitest';
import { LineSplitter } from '../core/decode/lines.ts';
import { encodeJsonLine } from './frame.ts';
import { Game } from './game.ts';
import { Services } from './services.ts';
import { Statistics } from './statistics.ts';

let closing: (() => unknown)[] = [];
afterEach(async () => {
  for (const close of closing.reverse()) await close();
  closing = [];
});

describe('the statistics program', () => {
  it('says who scored and shot after each event, adds up, rewrites its file whole, and begins anew with the game', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'foothill-stats-'));
    closing.push(() => rmSync(folder, { recursive: true }));
    const file = join(folder, 'statistics.xml');
    const game = new Game();
    const statistics = new Statistics(file);
    // What is being written at the end is written before its folder goes.
    closing.push(() => statistics.written);
    statistics.watch(game.state);
    const sum = (side: 0 | 1, what: 'goals' | 'shots') => {
      const { teams } = statistics.json() as { teams: { players: Record<string, number>[] }[] };
      return teams[side]!.players.reduce((n, p) => n + p[what]!, 0);
    };
    for (let i = 0; i < 30; i++) {
      game.act({ kind: i % 3 ? 'shot' : 'goal', side: i % 2 ? 'home' : 'away' });
      statistics.watch(game.state);
    }
    expect([sum(0, 'goals'), sum(1, 'goals')]).toEqual([game.state.home.score, game.state.away.score]);
    expect([sum(0, 'shots'), sum(1, 'shots')]).toEqual([game.state.home.shots, game.state.away.shots]);
    const before = statistics.revision;
    statistics.watch(game.state);
    expect(statistics.revision).toBe(before);
    game.act({ kind: 'penalty', side: 'home', player: 7, minutes: 2 });
    statistics.watch(game.state);
    expect(statistics.xml()).toContain('Penalty: Fennimarsh, 2 minutes');
    await expect.poll(() => readFileSync(file, 'utf8')).toBe(statistics.xml());
    // A goal that is taken back takes its scorer's with it, and nothing else.
    const stood = JSON.stringify(statistics.json()).replace(/"revision":\d+/, '');
    game.act({ kind: 'goal', side: 'home' });
    statistics.watch(game.state);
    game.act({ kind: 'undo' });
    statistics.watch(game.state);
    expect(JSON.stringify(statistics.json()).replace(/"revision":\d+/, '')).toBe(stood);
    game.reset();
    statistics.watch(game.state);
    expect(sum(0, 'shots')).toBe(0);
  });
});

describe('the services', () => {
  it('serve documents with tags, take the sheet and the news, and misbehave on demand', async () => {
    const services = new Services(new Statistics(null));
    const port = await new Promise<number>((done) => {
      const probe = createServer().listen(0, '127.0.0.1', () => {
        const { port } = probe.address() as { port: number };
        probe.close(() => done(port));
      });
    });
    await services.listen(port, '127.0.0.1');
    closing.push(() => services.close());
    const at = `http://127.0.0.1:${port}`;
    const post = (path: string, body: unknown, headers = {}) =>
      fetch(at + path, { method: 'POST', headers, body: JSON.stringify(body) });
    for (const kind of ['csv', 'xlsx']) {
      const tag = (await fetch(`${at}/sheet.${kind}`)).headers.get('etag')!;
      const again = await fetch(`${at}/sheet.${kind}`, { headers: { 'if-none-match': tag } });
      expect(again.status, kind).toBe(304);
    }
    expect((await post('/sheet', { rows: [{ slot: '9', sponsor: 'A, "B"' }] })).status).toBe(200);
    expect(await (await fetch(`${at}/sheet.csv`)).text()).toContain('9,"A, ""B""",,,');
    expect((await (await fetch(`${at}/sheet.xlsx`)).arrayBuffer()).byteLength).toBeGreaterThan(500);
    await post('/news', { title: 'Owls win <again> & again' });
    expect(await (await fetch(`${at}/news.atom`)).text()).toContain('Owls win &lt;again&gt; &amp; again');
    expect(await (await fetch(at)).text()).toContain('Sponsor sheet');
    expect((await post('/sheet', { rows: 5 })).status).toBe(400);
    expect((await post('/nothing', {})).status).toBe(400);
    expect((await post('/sheet', { rows: [] }, { origin: 'http://elsewhere.example' })).status).toBe(403);
    expect((await fetch(`${at}/nothing`)).status).toBe(404);
    for (const [fault, status] of [
      ['error', 500],
      ['page', 200],
      ['none', 200],
    ] as const) {
      await post('/fault', { fault });
      expect((await fetch(`${at}/stats.json`)).status).toBe(status);
    }
  });
});

describe('lines of JSON', () => {
  it('are cut at their ends in any split, and one without an end is not waited for without bound', () => {
    const game = new Game();
    const line = encodeJsonLine(game.state);
    const splitter = new LineSplitter();
    expect(splitter.push(line.subarray(0, 20))).toEqual([]);
    const [text] = splitter.push(line.subarray(20));
    expect(JSON.parse(text!)).toMatchObject({
      period: 1,
      clock: { text: '15:00' },
      teams: { home: { score: 0 } },
    });
    expect(splitter.push(new TextEncoder().encode('\n\n{"é":1}\n'))).toEqual(['{"é":1}']);
    for (let i = 0; i < 5; i++) splitter.push(new Uint8Array(100_000).fill(65));
    expect(splitter.push(new TextEncoder().encode('rest\n{}\n'))).toEqual(['{}']);
    expect(splitter.tooLong).toBe(1);
    splitter.push(new TextEncoder().encode('half'));
    splitter.reset();
    expect(splitter.push(new TextEncoder().encode('{}\n'))).toEqual(['{}']);
  });
});

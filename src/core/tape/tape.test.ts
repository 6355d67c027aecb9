import { describe, expect, it } from 'vitest';
import { eighth, ShowTime, showTime } from './show-time.ts';
import {
  cut,
  parseEntry,
  parseHead,
  TapeReader,
  writeEntry,
  writeHead,
  type TapeEntry,
  type TapeHead,
} from './tape.ts';
import type { IntakeMemory } from './memory.ts';

const bundle = {
  schema: 1 as const,
  source: {
    schema: 1 as const,
    key: 'controller',
    name: 'Controller',
    enabled: true,
    transport: { kind: 'udp' as const, host: '127.0.0.1', port: 4000 },
    frameMap: null,
    back: 'stoppage' as const,
    limits: { late: 300, lost: 600 },
  },
  map: null,
  document: null,
  patch: null,
};
const head: TapeHead = {
  tape: 1,
  name: 'First half',
  recorded: '2031-03-02T18:30:00.000Z',
  profile: 'box-lacrosse',
  sources: [bundle],
};
const memory = (n: number): IntakeMemory => ({
  board: {
    fields: [{ key: 'home.score', value: n, origin: 'controller', at: -200, quality: 'ok' }],
    tables: [
      {
        key: 'stats.players',
        name: 'Players',
        columns: ['name'],
        rows: [['h7', { name: 'Ann' }]],
        origin: 'statistics',
        at: -10,
        quality: 'late',
      },
    ],
  },
  arbiter: {
    live: { controller: -50_000 },
    latest: [{ key: 'home.score', value: n, origin: 'controller' }],
    holders: { 'home.score': 'controller' },
    lost: {},
  },
  sources: { controller: { lastWord: -100.125, health: 'live', held: 'AgM=', clocks: [], words: [] } },
});
const clock = { value: 1000, running: true, direction: 'down' as const, anchor: -12.5, until: 0 };
const said = (at: number, what: Extract<TapeEntry, { kind: 'said' }>['said']): TapeEntry => ({
  at,
  kind: 'said',
  source: 'controller',
  said: what,
});
const bytes = (...all: number[]) => Uint8Array.from(all);

describe('An entry of a tape', () => {
  it.each<[string, TapeEntry, string]>([
    [
      'a frame in plain text',
      said(12.125, { kind: 'bytes', bytes: bytes(2, 65, 3) }),
      '{"at":12.125,"source":"controller","text":"\\u0002A\\u0003"}',
    ],
    ['bytes that are no text', said(1, { kind: 'bytes', bytes: bytes(0xff, 0, 0x80) }), '"base64":"/wCA"'],
    [
      'a document that begins with a mark of its encoding',
      said(0, { kind: 'document', type: 'text/xml', bytes: bytes(0xef, 0xbb, 0xbf, 60, 97, 47, 62) }),
      '"document":{"type":"text/xml","text":',
    ],
    ['nothing new', said(0, { kind: 'same' }), '"same":true'],
    [
      'nothing that can be read',
      said(0, { kind: 'trouble', text: 'It answered 500' }),
      '"trouble":"It answered 500"',
    ],
    ['a line that came up', said(0, { kind: 'line', up: true }), '"line":"up"'],
    [
      'a line that broke',
      said(0, { kind: 'line', up: false, text: 'reset' }),
      '"line":"down","trouble":"reset"',
    ],
    [
      'a press on a pad',
      said(5, { kind: 'press', set: [{ field: 'clock.game', value: clock }] }),
      '"press":[{"field":"clock.game"',
    ],
    ['fields given back', said(0, { kind: 'give-back' }), '"giveBack":true'],
    ['a source saved anew', said(0, { kind: 'bundle', bundle }), '"bundle":{"schema":1'],
    ['a source deleted', said(0, { kind: 'bundle', bundle: null }), '"bundle":null'],
    ['a look at silence', { at: 7, kind: 'look' }, '{"at":7,"look":true}'],
    ['what was known', { at: 0, kind: 'state', memory: memory(3) }, '"state":{"board":'],
  ])('%s comes back as it was written', (_, entry, written) => {
    const line = writeEntry(entry);
    expect(line).toContain(written);
    expect(line).not.toContain('\n');
    expect(parseEntry(line)).toEqual(entry);
  });

  it.each([
    ['no JSON', '{"at":', 'line: '],
    ['no time', '{"source":"controller","text":"A"}', 'at: '],
    ['a time before the beginning', '{"at":-1,"look":true}', 'at: '],
    ['nobody who says it', '{"at":1,"text":"A"}', 'neither a source'],
    ['nothing said', '{"at":1,"source":"controller"}', 'does not say what'],
    ['bytes that are no base64', '{"at":1,"source":"controller","base64":"*"}', 'base64: '],
    ['a source that is none', '{"at":1,"source":"controller","bundle":{"schema":2}}', 'bundle.schema'],
    ['a key that is none', '{"at":1,"source":"no key!","same":true}', 'source: '],
  ])('with %s is refused in words', (_, line, problem) => expect(parseEntry(line)).toContain(problem));
});

describe('TapeReader', () => {
  const state = writeEntry({ at: 0, kind: 'state', memory: memory(0) });
  const all = (...lines: string[]) => {
    const reader = new TapeReader();
    const problems = lines.map((l) => reader.push(l)).filter((p) => p !== null);
    return problems.length ? problems : reader.end();
  };

  it('reads a whole tape, empty lines between', () => {
    expect(all(writeHead(head), '', state, '{"at":4,"look":true}', '')).toEqual({
      ok: true,
      value: {
        head,
        entries: [
          { at: 0, kind: 'state', memory: memory(0) },
          { at: 4, kind: 'look' },
        ],
      },
    });
  });

  it.each<[string, string[], unknown]>([
    ['nothing', [], { ok: false, problems: ['it is empty'] }],
    ['another file', ['{"schema":1}'], [expect.stringContaining('line 1: ')]],
    [
      'no state at its beginning',
      [writeHead(head), '{"at":4,"look":true}'],
      { ok: false, problems: [expect.stringContaining('line 2: ')] },
    ],
    [
      'times that go back',
      [writeHead(head), state, '{"at":4,"look":true}', '{"at":3.5,"look":true}'],
      [expect.stringContaining('line 4: its time')],
    ],
  ])('refuses %s and says where', (_, lines, answer) => expect(all(...lines)).toEqual(answer));

  it('names each source that cannot be read in a head', () => {
    const broken = parseHead(JSON.stringify({ ...head, sources: [bundle, { schema: 1 }] }));
    expect(broken).toMatchObject({ ok: false });
    expect(JSON.stringify(broken)).toContain('sources.1.source');
  });
});

describe('cut', () => {
  const entries: TapeEntry[] = [
    { at: 0, kind: 'state', memory: memory(0) },
    ...[10, 20, 30, 40, 50].map((at): TapeEntry => said(at, { kind: 'bytes', bytes: bytes(at) })),
  ];
  const asked: [number, number][] = [];
  const known = (before: number, from: number) => {
    asked.push([before, from]);
    return Promise.resolve(memory(before));
  };
  const seen = async (...parts: { from: number; to: number }[]) =>
    (await cut(entries, parts, known)).map((e) => [
      e.at,
      e.kind === 'said' && e.said.kind === 'bytes' ? e.said.bytes[0] : e.kind,
    ]);

  it('keeps parts one after another, each begun by what was known there', async () => {
    expect(await seen({ from: 15, to: 30 }, { from: 40, to: 99 })).toEqual([
      [0, 'state'],
      [5, 20],
      [15, 'state'],
      [15, 40],
      [25, 50],
    ]);
    expect(asked).toEqual([
      [2, 15],
      [4, 40],
    ]);
  });

  it('takes sources along that were saved anew in what is left out, but for those before the first part', async () => {
    const saved = (at: number) => said(at, { kind: 'bundle', bundle });
    const changed = [
      entries[0]!,
      saved(5),
      entries[1]!,
      saved(12),
      entries[2]!,
      entries[3]!,
      saved(32),
      entries[4]!,
    ];
    const kept = await cut(
      changed,
      [
        { from: 8, to: 11 },
        { from: 20, to: 31 },
        { from: 35, to: 50 },
      ],
      known,
    );
    expect(kept.map((e) => [e.at, e.kind === 'said' ? e.said.kind : e.kind])).toEqual([
      [0, 'state'],
      [2, 'bytes'],
      [3, 'bundle'],
      [3, 'state'],
      [3, 'bytes'],
      [13, 'bytes'],
      [14, 'bundle'],
      [14, 'state'],
      [19, 'bytes'],
    ]);
  });

  it('takes a part’s own state where it begins with one, keeps the very end, and leaves out what lies beyond it', async () => {
    asked.length = 0;
    expect(await seen({ from: 0, to: 10 }, { from: 50, to: 60 }, { from: 70, to: 80 })).toEqual([
      [0, 'state'],
    ]);
    expect(asked).toEqual([]);
    expect((await seen({ from: 0, to: 50 })).at(-1)).toEqual([50, 50]);
  });
});

describe('The time of the show', () => {
  it('is real, or runs at the speed of a rehearsal from where it was, and stands when paused', () => {
    let real = 1000;
    const time = new ShowTime(() => real);
    expect(time.now()).toBe(1000);
    time.run(4);
    real += 10;
    expect(time.now()).toBe(1040);
    time.run(0);
    real += 500;
    expect(time.now()).toBe(1040);
    time.run(0.25);
    real += 2;
    expect(time.now()).toBe(1040.5);
    expect(showTime(time.stretch, real + 4)).toBe(1041.5);
    time.end();
    expect(time.now()).toBe(real);
  });

  it('counts in eighths, which add up exactly', () =>
    expect(eighth(0.1) + eighth(1e12 + 0.2)).toBe(1e12 + 0.375));
});

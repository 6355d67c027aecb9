import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Board, type Change } from '../board/board.ts';
import { stoppedClock } from '../clock/clock.ts';
import { LineSplitter } from '../decode/lines.ts';
import { FrameDecoder } from '../decode/decoder.ts';
import { parseFrameMap } from '../decode/frame-map.ts';
import { readAs } from '../document/check.ts';
import { must } from '../document/problems.ts';
import { Arbiter } from '../patch/arbiter.ts';
import { Patch } from '../patch/patch.ts';
import type { FieldDef } from '../sport/profile.ts';
import { IntakeMemory } from './memory.ts';

const integer = (key: string): FieldDef => ({
  key,
  label: key,
  group: 'home',
  kind: 'integer',
  min: 0,
  max: 99,
});
const clock: FieldDef = {
  key: 'clock.game',
  label: 'Game clock',
  group: 'clocks',
  kind: 'clock',
  direction: 'down',
  max: 900_000,
  form: 'm:ss',
  tenthsBelow: 0,
  stops: 'whistle',
};
const DEFS = [integer('home.score'), integer('home.shots'), integer('period'), clock];
const said = (key: string, value: number | null, origin = 'controller'): Change => ({ key, value, origin });

describe('What a board knew', () => {
  const before = () => {
    const board = new Board(DEFS);
    const running = { ...stoppedClock(60_000, 'down', 5000), running: true, until: 59_000 };
    board.apply(
      [
        said('home.score', 3),
        said('home.shots', null),
        { key: 'clock.game', value: running, origin: 'controller' },
      ],
      5000,
    );
    board.apply([said('period', 2, 'game')], 5000);
    board.tables.put(
      { key: 'news', name: 'News', columns: ['title'], rows: [['a', { title: 'Snow' }]] },
      'news',
      4000,
    );
    board.mark('controller', 'late');
    board.tables.mark('news', 'late');
    return board;
  };

  it('is known again at another time, through JSON: values, clocks, trust and tables', () => {
    const memory = JSON.parse(
      JSON.stringify({ board: before().remember(5000), arbiter: new Arbiter().remember(0), sources: {} }),
    ) as unknown;
    const read = must(readAs(IntakeMemory, memory)).board;
    const board = new Board(DEFS);
    const { changed, touched, tables } = board.recall(read, 105_000);
    expect(board.state('home.score')).toEqual({
      value: 3,
      origin: 'controller',
      at: 105_000,
      quality: 'late',
    });
    expect(board.state('home.shots')).toMatchObject({ value: null, at: 0, quality: 'late' });
    expect(board.read('clock.game')).toMatchObject({ running: true, anchor: 105_000, until: 59_000 });
    expect(board.tables.get('news')).toMatchObject({ at: 104_000, quality: 'late', origin: 'news' });
    expect(board.state('period')).toMatchObject({ value: null, origin: '' });
    expect(changed).toEqual(['home.score', 'clock.game', 'clock.game.running', '#news#a', '#news']);
    expect(touched).toEqual(['home.score', 'home.shots', 'clock.game']);
    expect(tables).toEqual(['news']);
    expect(board.remember(105_000)).toEqual(before().remember(5000));
  });

  it('takes away what was said since, but neither pins nor what the game says', () => {
    const board = before();
    const memory = new Board(DEFS).remember(0);
    board.apply([{ key: 'home.score', pin: 9 }], 6000);
    const { changed, tables } = board.recall(memory, 6000);
    expect(board.read('home.score')).toBe(9);
    expect(board.state('home.score')).toMatchObject({ value: null, origin: '', quality: 'none' });
    expect(board.read('period')).toBe(2);
    expect(board.tables.get('news')).toBeUndefined();
    expect(changed).toEqual(['clock.game', 'clock.game.running', '#news#a', '#news']);
    expect(tables).toEqual(['news']);
  });

  it('is left out where the board of now has no such field or the value does not fit it', () => {
    const memory = before().remember(0);
    memory.fields.push({ key: 'no.field', value: 1, origin: 'controller', at: 0, quality: 'ok' });
    memory.fields[0] = { ...memory.fields[0]!, value: 1000 };
    const board = new Board(DEFS);
    board.recall(memory, 0);
    expect(board.read('home.score')).toBeNull();
    expect(board.state('no.field')).toBeUndefined();
  });
});

describe('What an arbiter knew', () => {
  const SOURCES = ['a', 'b'] as const;
  const FIELDS = ['home.score', 'home.shots'];
  const make = () => {
    const arbiter = new Arbiter();
    SOURCES.forEach((s, i) =>
      arbiter.put(
        s,
        i ? 'at-once' : 'stoppage',
        FIELDS.map((field) => ({ field, priority: i + 1 })),
      ),
    );
    return arbiter;
  };
  type Step = { source: string; field: string; value: number; what: 'say' | 'silence' | 'look' | 'give' };
  const step: fc.Arbitrary<Step> = fc.record({
    source: fc.constantFrom(...SOURCES),
    field: fc.constantFrom(...FIELDS),
    value: fc.integer({ min: 0, max: 9 }),
    what: fc.constantFrom('say', 'say', 'say', 'silence', 'look', 'give'),
  });
  const run = (arbiter: Arbiter, { source, field, value, what }: Step, now: number) => {
    if (what === 'say') return arbiter.offer(source, [said(field, value, source)], now);
    if (what === 'silence') return arbiter.silent(source, [], now);
    return what === 'look' ? arbiter.tick(now, value > 4) : arbiter.giveBack(source, now);
  };

  it('makes another decide from then on as it would have, at any other time', () =>
    fc.assert(
      fc.property(fc.array(step, { maxLength: 25 }), fc.array(step, { maxLength: 25 }), (past, future) => {
        const [one, other] = [make(), make()];
        past.forEach((s, i) => run(one, s, 1000 * i));
        other.recall(one.remember(25_000), 925_000);
        future.forEach((s, i) =>
          expect(run(other, s, 925_000 + 1000 * i)).toEqual(run(one, s, 25_000 + 1000 * i)),
        );
        for (const s of SOURCES) expect(other.waiting(s)).toEqual(one.waiting(s));
      }),
    ));
});

it('a patch that knows what another knew follows its clocks without a break', () => {
  const doc = {
    schema: 1 as const,
    key: 'p',
    source: 'controller',
    links: [{ reading: 'clock', field: 'clock.game', running: 'runs' }],
  };
  const make = () => new Patch(doc, () => clock);
  const readings = (ms: number) => [
    { name: 'clock', raw: '', value: { ms, step: 1000 as const } },
    { name: 'runs', raw: '', value: true },
  ];
  const [one, other] = [make(), make()];
  one.changes(readings(60_000), 1000);
  other.recall(one.remember(1000), 8000);
  const [a] = one.changes(readings(60_000), 1400).changes as { value: { anchor: number } }[];
  const [b] = other.changes(readings(60_000), 8400).changes as { value: { anchor: number } }[];
  expect(b!.value).toEqual({ ...a!.value, anchor: 8000 });
  expect(other.hold(9000)).toMatchObject([{ value: { running: false, value: 60_000 } }]);
});

describe('What has only begun', () => {
  const map = parseFrameMap({
    schema: 1,
    key: 'm',
    name: 'M',
    framing: { kind: 'delimited', start: [2], end: [3], maxLength: 8 },
    check: { kind: 'none' },
    readings: [],
  });
  it.each<[string, () => { push(b: Uint8Array): unknown[]; held: Uint8Array }]>([
    ['a frame', () => new FrameDecoder(map.ok ? map.value : null!)],
    ['a line', () => new LineSplitter()],
  ])('is taken over: %s comes whole wherever the bytes were parted', (_, make) =>
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(2, 3, 10, 65)),
        fc.array(fc.constantFrom(2, 3, 10, 65)),
        (first, rest) => {
          const [one, other] = [make(), make()];
          one.push(Uint8Array.from(first));
          expect(other.push(one.held)).toEqual([]);
          expect(other.push(Uint8Array.from(rest))).toEqual(one.push(Uint8Array.from(rest)));
        },
      ),
    ),
  );
});

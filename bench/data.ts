import { computed, effect, signal } from '@preact/signals-core';
import { monitorEventLoopDelay, performance } from 'node:perf_hooks';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Board } from '../src/core/board/board.ts';
import type { Row } from '../src/core/board/tables.ts';
import { Derivations } from '../src/core/derive/derivations.ts';
import { Resolver } from '../src/core/resolve/resolver.ts';
import type { FieldDef } from '../src/core/sport/profile.ts';
import type { Layer, Layout } from '../src/core/layers/kinds.ts';
import { DocumentReader } from '../src/server/ingest/document/reader.ts';
import { ToldTables } from '../src/server/live/tables.ts';
import { median, quantile, type Figure } from './stats.ts';

const SIZES = [1000, 10_000, 50_000];
const BATCH = 2000;

/** As many fields as values: each value writes one field in words, as a layer would show it. */
function ours(size: number): (i: number, value: number) => void {
  const defs = Array.from({ length: size }, (_, i): FieldDef => ({
    key: `f.f${i}`,
    label: 'f',
    group: 'home',
    kind: 'integer',
    min: 0,
    max: 1e9,
  }));
  const board = new Board(defs);
  const resolver = new Resolver(board);
  const layers = defs.map(({ key }): Layer => ({
    kind: 'text',
    id: key,
    name: key,
    text: { pieces: [{ fixed: 'score ' }, { field: key }] },
    font: 'F',
    size: 1,
  }));
  const layout: Layout = { key: 'l', width: 1, height: 1, layers };
  resolver.mount('m', layout, {});
  return (i, value) => {
    const { changed } = board.apply([{ key: `f.f${i}`, value, origin: 's' }], value);
    if (resolver.touch(changed).length !== 1) throw new Error('the change was not seen');
  };
}

/** The same graph in signals: what changed is gathered by an effect for each value. */
function theirs(size: number): (i: number, value: number) => void {
  let seen = 0;
  const fields = new Map(Array.from({ length: size }, (_, i) => [`f.f${i}`, signal(0)] as const));
  for (const [key, field] of fields) {
    const text = computed(() => `score ${field.value}`);
    const deltas: Record<string, unknown> = {};
    effect(() => {
      deltas[key] = { mount: 'm', layer: key, props: { text: text.value } };
      seen++;
    });
  }
  return (i, value) => {
    const before = seen;
    fields.get(`f.f${i}`)!.value = value;
    if (seen !== before + 1) throw new Error('the change was not seen');
  };
}

/** Changes a second with many fields and values, against signals in the same run. */
export function boardAgainstSignals(): Figure[] {
  const makers = SIZES.map((size) => ({ size, mine: ours(size), other: theirs(size) }));
  const times = new Map<string, number[]>();
  let value = 1;
  const batch = (change: (i: number, value: number) => void, size: number) => {
    const start = performance.now();
    for (let n = 0; n < BATCH; n++) change((n * 7919) % size, ++value);
    return (performance.now() - start) / BATCH;
  };
  for (let round = 0; round < 60; round++) {
    for (const { size, mine, other } of makers) {
      const [a, b] = [batch(mine, size), batch(other, size)];
      if (round < 10) continue;
      times.set(`mine ${size}`, [...(times.get(`mine ${size}`) ?? []), a]);
      times.set(`other ${size}`, [...(times.get(`other ${size}`) ?? []), b]);
    }
  }
  // One after another without the signals between, so that their garbage is not counted here.
  for (let round = 0; round < 120; round++) {
    for (const { size, mine } of makers) {
      const few = batch((i, v) => mine(i % 100, v), size);
      times.set(`few of ${size}`, [...(times.get(`few of ${size}`) ?? []), few]);
    }
  }
  const of = (name: string) => median(times.get(name)!);
  return [
    ...SIZES.flatMap((size): Figure[] => [
      { name: `changes a second, ${size} fields and values`, value: 1000 / of(`mine ${size}`), unit: '/s' },
      { name: `  the same by signals`, value: 1000 / of(`other ${size}`), unit: '/s' },
      {
        name: `  our time against theirs`,
        value: of(`mine ${size}`) / of(`other ${size}`),
        unit: 'times',
        // Not slower; the rest is what two runs of the same code differ by here.
        bound: { most: 1.1 },
      },
    ]),
    {
      name: 'one change among a hundred fields, 49,900 idle ones beside against 900',
      value: of('few of 50000') / of('few of 1000'),
      unit: 'times',
      bound: { most: 1.2 },
    },
  ];
}

/** The first ten by their points, as a program of its own would have it. */
const sortedByHand = (rows: readonly Row[]) =>
  rows
    .map((row) => ({ ...row, points: Number(row['goals']) + Number(row['assists']) }))
    .filter((row) => row.points > 10)
    .sort((a, b) => b.points - a.points)
    .slice(0, 10);

/** One cell of a table of 5,000 rows changes: how long until the derived leaders are new. */
export function leaders(): Figure[] {
  const rows = Array.from({ length: 5000 }, (_, i): [string, Row] => [
    String(i),
    { name: `player ${i}`, goals: (i * 37) % 50, assists: (i * 11) % 30 },
  ]);
  const board = new Board([]);
  const all = new Derivations(board);
  const columns = ['name', 'goals', 'assists'];
  const put = () =>
    all.react(board.tables.put({ key: 'players', name: 'Players', columns, rows }, 's', 1), 1);
  put();
  all.put(
    {
      what: 'table',
      key: 'leaders',
      name: 'Leaders',
      from: ['players'],
      join: [],
      where: 'points > 10',
      compute: [{ name: 'points', value: { formula: 'goals + assists' } }],
      group: null,
      sort: [{ by: 'points', descending: true }],
      rank: { name: 'rank', ties: 'shared' },
      limit: 10,
    },
    1,
  );
  const told = new ToldTables(board);
  told.changes(['players', 'leaders']);
  const times: number[] = [];
  const byHand: number[] = [];
  const telling: number[] = [];
  const whole: number[] = [];
  for (let n = 0; n < 200; n++) {
    const at = (n * 631) % rows.length;
    rows[at] = [rows[at]![0], { ...rows[at]![1], goals: 100 * (n + 1) }];
    const start = performance.now();
    put();
    times.push(performance.now() - start);
    if (board.ranked('leaders', 1)?.['name'] !== `player ${at}`) throw new Error('the leaders are not new');
    const sorting = performance.now();
    sortedByHand(rows.map(([, row]) => row));
    byHand.push(performance.now() - sorting);
    const change = performance.now();
    const text = JSON.stringify(told.changes(['players', 'leaders']));
    telling.push(performance.now() - change);
    if (text.length > 5000) throw new Error('more than the change was told');
    const all = performance.now();
    JSON.stringify(told.whole());
    whole.push(performance.now() - all);
  }
  return [
    {
      name: 'one cell of 5,000 rows to the derived leaders',
      value: median(times),
      p99: quantile(times, 0.99),
      unit: 'ms',
    },
    { name: '  the rows read and sorted by hand', value: median(byHand), unit: 'ms' },
    { name: '  against that', value: median(times) / median(byHand), unit: 'times', bound: { most: 3 } },
    {
      name: '  telling the desks, against sending the tables whole',
      value: median(telling) / median(whole),
      unit: 'times',
      bound: { most: 0.25 },
    },
  ];
}

/** 10 MB of XML read off the main thread: how long the main thread stood still meanwhile. */
export async function largeDocument(): Promise<Figure[]> {
  const row = (i: number) =>
    `<player number="${i}" name="Player ${i}"><scoring goals="${i % 9}" assists="2"/></player>`;
  let text = '<stats>';
  for (let i = 0; text.length < 10_000_000; i++) text += row(i);
  const bytes = new TextEncoder().encode(`${text}</stats>`);
  const column = (name: string, place: string) => ({ name, place, as: 'number' as const });
  const map = {
    schema: 1 as const,
    key: 'm',
    readings: [],
    tables: [
      {
        key: 't',
        name: 'T',
        rows: '/stats/player',
        columns: [column('number', '@number'), column('goals', 'scoring/@goals')],
        keyed: ['number'],
        limit: 5000,
      },
    ],
  };
  const reader = new DocumentReader(pathToFileURL(join(process.cwd(), 'dist/engine/worker.js')));
  const pauses: number[] = [];
  const idle: number[] = [];
  const times: number[] = [];
  /** What one thread hands another is copied. */
  const copies: number[] = [];
  let read: object | null = null;
  /** The longest that a timer on this thread, where the socket hub lives, came late while `work` went on, in ms. */
  const paused = async (work: () => Promise<unknown>) => {
    const delay = monitorEventLoopDelay({ resolution: 1 });
    await new Promise((done) => setTimeout(done, 200));
    delay.enable();
    await work();
    delay.disable();
    return delay.max / 1e6;
  };
  for (let n = 0; n < 9; n++) {
    const start = performance.now();
    const pause = await paused(async () => {
      const done = await reader.read({ bytes, type: '', map, look: 0 });
      if (done.tables[0]!.rows.length !== 5000) throw new Error('the rows were not read');
      read = done;
    });
    const copying = performance.now();
    structuredClone(read);
    copies.push(performance.now() - copying);
    times.push(performance.now() - start - 200);
    if (n > 0) pauses.push(pause);
    if (n > 0) idle.push(await paused(() => new Promise((done) => setTimeout(done, times.at(-1)))));
  }
  reader.close();
  return [
    { name: '10 MB of XML read in its thread', value: median(times), unit: 'ms' },
    // What else the machine does only ever adds to a pause: the least of them is what reading costs.
    {
      name: '  longest pause of the main thread meanwhile, least of 8 times',
      value: Math.min(...pauses),
      p99: Math.max(...pauses),
      unit: 'ms',
    },
    {
      name: '  the same while nothing is read',
      value: Math.min(...idle),
      p99: Math.max(...idle),
      unit: 'ms',
    },
    {
      name: '  against that, and what it takes to copy what was read',
      value: Math.min(...pauses) / (Math.min(...idle) + Math.min(...copies)),
      unit: 'times',
      bound: { most: 3 },
    },
  ];
}

/** A change a frame with derivations of which none reads it, against none at all. */
export function untouched(): Figure[] {
  const def = (key: string): FieldDef => ({
    key,
    label: key,
    group: 'home',
    kind: 'integer',
    min: 0,
    max: 1e9,
  });
  const run = (derivations: number): number => {
    const board = new Board([def('home.a'), def('home.b')]);
    const all = new Derivations(board);
    for (let i = 0; i < derivations; i++)
      all.put({ what: 'field', key: `d.d${i}`, name: 'D', value: { formula: 'home.b * 2' } }, 0);
    const from = performance.now();
    for (let i = 0; i < BATCH; i++) {
      const { changed } = board.apply([{ key: 'home.a', value: i + 1, origin: 's' }], i);
      if (all.react(changed, i).changed.length) throw new Error('something was worked out');
    }
    return performance.now() - from;
  };
  const ratios = Array.from({ length: 15 }, () => run(200) / run(0));
  return [
    {
      name: 'a change with 200 derivations of which none is touched, against none',
      value: median(ratios),
      unit: '×',
      bound: { most: 1.5 },
    },
  ];
}

import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { home } from '../scripts/lib/settings.mjs';
import { Board } from '../src/core/board/board.ts';
import { FrameDecoder } from '../src/core/decode/decoder.ts';
import { parseFrameMap } from '../src/core/decode/frame-map.ts';
import { Resolver } from '../src/core/resolve/resolver.ts';
import type { FieldDef } from '../src/core/sport/profile.ts';
import type { Layer, Layout } from '../src/core/layers/kinds.ts';
import { encodeFrame } from '../src/sim/frame.ts';
import { newGame } from '../src/sim/game.ts';
import { median, quantile, type Figure } from './stats.ts';

const DEMO_RATE = 10;

/** How long `run` takes, in ns, over many rounds. */
function time(rounds: number, run: (i: number) => void): number[] {
  const times: number[] = [];
  for (let i = 0; i < rounds; i++) {
    const before = process.hrtime.bigint();
    run(i);
    times.push(Number(process.hrtime.bigint() - before));
  }
  return times;
}

export function decoding(): Figure[] {
  const map = parseFrameMap(
    JSON.parse(readFileSync(join(home, 'data/demo/frame-map/lacrosse-console.json'), 'utf8')),
  );
  if (!map.ok) throw new Error(map.problems.join());
  const state = newGame();
  const frames = Array.from({ length: 1000 }, (_, i) => {
    state.clock = 900_000 - i * 100;
    state.home.score = i % 100;
    return encodeFrame(state);
  });
  const stream = Uint8Array.from(frames.flatMap((f) => [...f]));
  const decoder = new FrameDecoder(map.value);
  let read = 0;
  const pass = () => {
    // As a line delivers them: in pieces that know nothing of frames.
    for (let at = 0; at < stream.length; at += 37)
      for (const { readings } of decoder.push(stream.subarray(at, at + 37))) read += readings.length;
  };
  for (let i = 0; i < 20; i++) pass();
  if (read === 0) throw new Error('no frame was decoded');
  const rates = time(60, pass).map((ns) => 1000 / (ns / 1e9));
  return [
    {
      name: 'frames decoded a second, one core',
      value: median(rates),
      p99: quantile(rates, 0.01),
      unit: 'frames/s',
    },
    { name: 'of the demo’s rate', value: median(rates) / DEMO_RATE, unit: 'times' },
  ];
}

/** A board and a resolver with one value bound to `home.score` and `others` values bound elsewhere. */
function bound(others: number) {
  const integer = (key: string): FieldDef => ({
    key,
    label: key,
    group: 'home',
    kind: 'integer',
    min: 0,
    max: 1e9,
  });
  const board = new Board([
    integer('home.score'),
    ...Array.from({ length: others }, (_, i) => integer(`other.f${i}`)),
  ]);
  const resolver = new Resolver(board);
  const layer = (name: string, field: string): Layer => ({
    kind: 'text',
    id: name,
    name,
    text: { field },
    font: 'F',
    size: 1,
  });
  const layout: Layout = {
    key: 'l',
    width: 1,
    height: 1,
    layers: [
      layer('score', 'home.score'),
      ...Array.from({ length: others }, (_, i) => layer(`l${i}`, `other.f${i}`)),
    ],
  };
  resolver.mount('m', layout, {});
  let n = 0;
  return () => {
    const { changed } = board.apply([{ key: 'home.score', value: ++n, origin: 'c' }], n);
    if (resolver.touch(changed).length !== 1) throw new Error('the change was not seen');
  };
}

export function changing(): Figure[] {
  const [few, many] = [bound(100), bound(10_000)];
  const batch = (change: () => void) => () => {
    for (let i = 0; i < 1000; i++) change();
  };
  for (let i = 0; i < 30; i++) [few, many].forEach((c) => batch(c)());
  // In turn, so that what else the machine does meets both.
  const times: { few: number[]; many: number[] } = { few: [], many: [] };
  for (let i = 0; i < 80; i++) {
    times.few.push(...time(1, batch(few)));
    times.many.push(...time(1, batch(many)));
  }
  const us = (list: number[]) => list.map((ns) => ns / 1e6);
  const figure = (name: string, list: number[]): Figure => ({
    name,
    value: median(us(list)),
    p99: quantile(us(list), 0.99),
    unit: 'µs',
  });
  return [
    figure('one change, 100 values bound elsewhere', times.few),
    figure('one change, 10,000 values bound elsewhere', times.many),
    {
      name: '10,000 against 100',
      value: median(times.many) / median(times.few),
      unit: 'times',
      bound: { most: 1.5 },
    },
  ];
}

/** All script that the air page loads, gzipped. */
export function scriptSize(): Figure[] {
  const folder = join(home, 'dist/astro/client/_astro');
  const entry = readdirSync(folder).filter((f) => f.startsWith('_output_') && f.endsWith('.js'));
  const all = new Set<string>();
  const follow = (file: string) => {
    if (all.has(file) || !existsSync(join(folder, file))) return;
    all.add(file);
    for (const [, next] of readFileSync(join(folder, file), 'utf8').matchAll(
      /(?:from|import)\s*"\.\/([^"]+\.js)"/g,
    ))
      follow(next!);
  };
  entry.forEach(follow);
  if (all.size === 0) throw new Error('the air page’s script was not found');
  const bytes = [...all].reduce((sum, f) => sum + gzipSync(readFileSync(join(folder, f))).length, 0);
  return [{ name: 'the air page’s script, gzipped', value: bytes / 1000, unit: 'kB', bound: { most: 20 } }];
}

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { home } from '../scripts/lib/settings.mjs';
import { FrameDecoder } from '../src/core/decode/decoder.ts';
import { parseFrameMap, type FrameMap } from '../src/core/decode/frame-map.ts';
import { parseBundle } from '../src/core/source/bundle.ts';
import { parseProfile } from '../src/core/sport/profile.ts';
import { parsePatch } from '../src/core/patch/patch-doc.ts';
import type { Tape, TapeEntry } from '../src/core/tape/tape.ts';
import type { DocumentReader } from '../src/server/ingest/document/reader.ts';
import { partsOf, readTape } from '../src/server/tape/lines.ts';
import { offAir, replayEntry } from '../src/server/tape/replay.ts';
import { Autopilot } from '../src/sim/autopilot.ts';
import { encodeFrame } from '../src/sim/frame.ts';
import { Game } from '../src/sim/game.ts';
import { median, type Figure } from './stats.ts';

const FRAMES = 2 * 60 * 60 * 10;

const read = <T>(path: string, parse: (input: unknown) => { ok: true; value: T } | { ok: false }): T => {
  const parsed = parse(JSON.parse(readFileSync(join(home, 'data', path), 'utf8')));
  if (!parsed.ok) throw new Error(path);
  return parsed.value;
};

/** A two-hour game by the autopilot at ten frames a second, on tape; what is over is followed by another game. */
function twoHours(): { tape: Tape; frames: Uint8Array[]; map: FrameMap; home: number } {
  const map = read('demo/frame-map/lacrosse-console.json', parseFrameMap);
  const bundle = parseBundle({
    schema: 1,
    source: JSON.parse(readFileSync(join(home, 'data/demo/source/controller.json'), 'utf8')) as unknown,
    map,
    patch: read('demo/patch/controller.json', parsePatch),
  });
  if (!bundle.ok) throw new Error(bundle.problems.join());
  const game = new Game();
  let pilot = new Autopilot(game, 7);
  const frames: Uint8Array[] = [];
  const entries: TapeEntry[] = [
    {
      at: 0,
      kind: 'state',
      memory: {
        board: { fields: [], tables: [] },
        arbiter: { live: {}, latest: [], holders: {}, lost: {} },
        sources: { controller: { lastWord: null, health: 'live', held: '', clocks: [], words: [] } },
      },
    },
  ];
  for (let i = 0; i < FRAMES; i++) {
    if (!pilot.step()) {
      game.reset();
      pilot = new Autopilot(game, i);
    }
    const bytes = encodeFrame(game.state);
    frames.push(bytes);
    entries.push({ at: i * 100, kind: 'said', source: 'controller', said: { kind: 'bytes', bytes } });
  }
  const head = {
    tape: 1 as const,
    name: 'Two hours',
    recorded: '2031-01-01T00:00:00.000Z',
    profile: 'box-lacrosse',
    sources: [bundle.value],
  };
  return { tape: { head, entries }, frames, map, home: game.state.home.score };
}

/** A two-hour game at ten frames a second: its size, and how fast it can be replayed. */
export async function tapes(): Promise<Figure[]> {
  const { tape, frames, map, home: score } = twoHours();
  const parts: Uint8Array[] = [];
  for await (const part of partsOf(tape)) parts.push(part);
  const size = parts.reduce((sum, p) => sum + p.length, 0);
  const profile = read('basic/profile/box-lacrosse.json', parseProfile);
  const times = { read: [] as number[], replay: [] as number[], floor: [] as number[] };
  let decoded = 0;
  for (let n = 0; n < 7; n++) {
    let start = performance.now();
    const { entries } = await readTape(parts);
    times.read.push(performance.now() - start);
    const { board, sources, close } = offAir(tape, profile, null as unknown as DocumentReader);
    start = performance.now();
    for (const entry of entries) await replayEntry(entry, 0, sources, () => {});
    times.replay.push(performance.now() - start);
    if (board.read('home.score') !== score) throw new Error('the tape led to another board');
    close();
    const decoder = new FrameDecoder(map);
    start = performance.now();
    // Readings are worked out when they are asked for, which is what a replay does.
    for (const frame of frames) for (const { readings } of decoder.push(frame)) decoded += readings.length;
    times.floor.push(performance.now() - start);
  }
  if (decoded === 0) throw new Error('no frame was decoded');
  const replay = median(times.replay);
  return [
    { name: 'a two-hour game on tape, ten frames a second', value: size / 1e6, unit: 'MB' },
    { name: '  read from the database’s form', value: median(times.read), unit: 'ms' },
    { name: '  replayed to a board at top speed', value: replay, unit: 'ms' },
    { name: '  against the game’s own time', value: (2 * 3600 * 1000) / replay, unit: 'times' },
    {
      name: '  against decoding its frames alone',
      value: replay / median(times.floor),
      unit: 'times',
      bound: { most: 10 },
    },
  ];
}

import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { SourceBundle } from '../../src/core/source/source.ts';
import { parseBundle } from '../../src/core/source/bundle.ts';
import { parseProfile } from '../../src/core/sport/profile.ts';
import {
  cut,
  lengthOf,
  type Part,
  type SourceEvent,
  type Tape,
  type TapeEntry,
} from '../../src/core/tape/tape.ts';
import { DocumentReader } from '../../src/server/ingest/document/reader.ts';
import { partsOf } from '../../src/server/tape/lines.ts';
import { knownAt, offAir, replayEntry } from '../../src/server/tape/replay.ts';
import { Autopilot, THINK } from '../../src/sim/autopilot.ts';
import { encodeFrame } from '../../src/sim/frame.ts';
import { Game } from '../../src/sim/game.ts';
import { NewsFeed } from '../../src/sim/news.ts';
import { Sheet } from '../../src/sim/sheet.ts';
import { Statistics } from '../../src/sim/statistics.ts';

const SEED = 5;
const BEGAN = Date.UTC(2026, 10, 21, 18, 30);
/** The controller's rate at rest, and how often documents are asked for, in ms, as the demo's sources say. */
const REST = 500;
const EVERY = { statistics: 1000, news: 5000, sponsors: 2000 };
/** When the controller falls silent, for the stand-by clock to be rehearsed: game time of the last period, and how long. */
const SILENT_AT = 95_000;
const SILENT_FOR = 9000;

const bytesOf = (text: string) => new TextEncoder().encode(text);

function bundlesOf(home: string): SourceBundle[] {
  const read = (path: string) => {
    try {
      return JSON.parse(readFileSync(join(home, 'data', path), 'utf8')) as Record<string, unknown>;
    } catch {
      return null;
    }
  };
  return ['controller', 'news', 'sponsors', 'statistics', 'pad'].map((key) => {
    const source = read(`demo/source/${key}.json`) ?? read(`basic/source/${key}.json`)!;
    const map = source['frameMap'] ? read(`demo/frame-map/${String(source['frameMap'])}.json`) : null;
    const parts = { map, document: read(`demo/doc-map/${key}.json`), patch: read(`demo/patch/${key}.json`) };
    const parsed = parseBundle({ schema: 1, source, ...parts });
    if (!parsed.ok) throw new Error(`${key}: ${parsed.problems.join()}`);
    return parsed.value;
  });
}

/** Plays a whole game in the simulators and writes down what its sources say; names the parts that matter. */
async function play(home: string, reader: DocumentReader) {
  const profile = parseProfile(
    JSON.parse(readFileSync(join(home, 'data/basic/profile/box-lacrosse.json'), 'utf8')),
  );
  if (!profile.ok) throw new Error(profile.problems.join());
  const sources = bundlesOf(home);
  const head = {
    tape: 1 as const,
    name: 'Key minutes of a game',
    recorded: new Date(BEGAN).toISOString(),
    profile: 'box-lacrosse',
    sources,
  };
  const quiet = { health: 'live' as const, held: '', clocks: [], words: [], lastWord: -100 };
  const entries: TapeEntry[] = [
    {
      at: 0,
      kind: 'state',
      memory: {
        board: { fields: [], tables: [] },
        arbiter: { live: {}, latest: [], holders: {}, lost: {} },
        sources: Object.fromEntries(sources.map((b) => [b.source.key, quiet])),
      },
    },
  ];
  const tape: Tape = { head, entries };
  const air = offAir(tape, profile.value, reader);
  await replayEntry(entries[0]!, 0, air.sources, () => {});
  const say = async (at: number, source: string, said: SourceEvent) => {
    const entry: TapeEntry = { at, kind: 'said', source, said };
    entries.push(entry);
    await replayEntry(entry, 0, air.sources, () => {});
  };
  const document = (type: string, text: string): SourceEvent => ({
    kind: 'document',
    type,
    bytes: bytesOf(text),
  });

  const [game, statistics, news, sheet] = [new Game(), new Statistics(null), new NewsFeed(), new Sheet()];
  const pilot = new Autopilot(game, SEED);
  const said = { statistics: -1, news: '' };
  const parts: Part[] = [{ from: 0, to: 15_000 }];
  const around = (at: number, before: number, after: number) =>
    parts.push({ from: Math.max(0, at - before), to: at + after });
  let was = structuredClone(game.state);
  let frame = -REST;
  let silentSince = Infinity;
  let over = Infinity;
  for (let at = 0; at < over + 8000; at += THINK) {
    if (!pilot.step()) over = Math.min(over, at);
    const { state } = game;
    statistics.watch(state);
    const goal = state.home.score + state.away.score > was.home.score + was.away.score;
    const penalties = (s: typeof state) => s.home.penalties.length + s.away.penalties.length;
    if (goal) around(at, 9000, 7000);
    else if (penalties(state) > penalties(was)) around(at, 3000, 6000);
    if (state.period > was.period) {
      news.publish(`After period ${was.period}: ${was.home.score} – ${was.away.score}`, new Date(BEGAN + at));
      around(at, 4000, 12_000);
    }
    if (was.clock > 0 && state.clock === 0) around(at, state.period === 4 ? 60_000 : 20_000, 5000);
    if (state.period === 4 && state.clock <= SILENT_AT && silentSince === Infinity && state.running) {
      silentSince = at;
      around(at, 6000, SILENT_FOR + 9000);
    }
    if (over === at) around(at, 1000, 7000);
    const changed =
      JSON.stringify({ ...state, clock: 0, shot: 0 }) !== JSON.stringify({ ...was, clock: 0, shot: 0 });
    const silent = at >= silentSince && at < silentSince + SILENT_FOR;
    if (!silent && (state.running || changed || at - frame >= REST)) {
      await say(at, 'controller', { kind: 'bytes', bytes: encodeFrame(state) });
      frame = at;
    }
    if (at % EVERY.statistics === 0) {
      const fresh = statistics.revision !== said.statistics;
      await say(at, 'statistics', fresh ? document('application/xml', statistics.xml()) : { kind: 'same' });
      said.statistics = statistics.revision;
    }
    if (at % EVERY.news === 0) {
      const feed = news.rss();
      await say(at, 'news', feed === said.news ? { kind: 'same' } : document('application/rss+xml', feed));
      said.news = feed;
    }
    if (at % EVERY.sponsors === 0)
      await say(at, 'sponsors', at === 0 ? document('text/csv', sheet.csv()) : { kind: 'same' });
    if (air.sources.look(at)) entries.push({ at, kind: 'look' });
    was = structuredClone(state);
  }
  air.close();
  return { tape, parts, profile: profile.value, score: [was.home.score, was.away.score] };
}

/** Parts that touch, or nearly, become one. */
function joined(parts: readonly Part[]): Part[] {
  const all: Part[] = [];
  for (const { from, to } of [...parts].sort((a, b) => a.from - b.from)) {
    const last = all.at(-1);
    if (last && from <= last.to + 4000) last.to = Math.max(last.to, to);
    else all.push({ from, to });
  }
  return all;
}

/** Makes the tape and writes it; gives what it came to. */
export async function make(home: string) {
  const reader = new DocumentReader(pathToFileURL(join(home, 'dist/engine/worker.js')));
  const { tape, parts, profile, score } = await play(home, reader);
  const entries = await cut(tape.entries, joined(parts), (before, from) =>
    knownAt(tape, before, from, profile, reader),
  );
  const pieces: Uint8Array[] = [];
  for await (const piece of partsOf({ head: tape.head, entries })) pieces.push(piece);
  const folder = join(home, 'data/demo/tapes');
  mkdirSync(folder, { recursive: true });
  const bytes = Buffer.concat(pieces);
  writeFileSync(join(folder, 'key-minutes.jsonl.gz'), bytes);
  reader.close();
  const minutes = (ms: number) => Math.round(ms / 6000) / 10;
  return {
    score,
    whole: minutes(lengthOf(tape)),
    kept: minutes(lengthOf({ entries })),
    kB: Math.round(bytes.length / 1000),
    entries: entries.length,
  };
}

import type { SportProfile } from '../../core/sport/profile.ts';
import { lengthOf, type Tape, type TapeOverview } from '../../core/tape/tape.ts';
import type { DocumentReader } from '../ingest/document/reader.ts';
import { offAir, replayEntry } from './replay.ts';

/** Into how many stretches a tape is divided at most; none is shorter than a second. */
const STRETCHES = 240;
/** More moments than this are no help. */
const MOMENTS = 300;

/** What is on a tape: how much each source says when, and when a score or the period changed. */
export async function overviewOf(
  tape: Tape,
  profile: SportProfile,
  reader: DocumentReader,
): Promise<TapeOverview> {
  const length = lengthOf(tape);
  const stretches = Math.max(1, Math.min(STRETCHES, Math.ceil(length / 1000)));
  const lanes = new Map(
    tape.head.sources.map((b) => [
      b.source.key,
      { name: b.source.name, counts: new Array<number>(stretches).fill(0) },
    ]),
  );
  const moments: TapeOverview['moments'] = [];
  const { board, sources, close } = offAir(tape, profile, reader);
  const scores = profile.fields.filter((f) => f.key.endsWith('.score')).map((f) => f.key);
  const period = profile.fields.find((f) => f.key === 'situation.period');
  const read = () => ({
    score: scores.some((key) => board.read(key) === null)
      ? null
      : scores.map((key) => board.read(key)).join(' – '),
    period: period ? board.read(period.key) : null,
  });
  try {
    let was: ReturnType<typeof read> | null = null;
    for (const entry of tape.entries) {
      await replayEntry(entry, 0, sources, (at) => sources.look(at));
      if (entry.kind === 'said') {
        const lane = lanes.get(entry.source);
        const stretch = Math.min(stretches - 1, Math.floor((entry.at / Math.max(1, length)) * stretches));
        if (lane) lane.counts[stretch]!++;
      }
      const now = read();
      if (was && moments.length < MOMENTS) {
        if (now.period !== was.period && now.period !== null && was.period !== null)
          moments.push({ at: entry.at, text: `${period!.label} ${String(now.period)}`, kind: 'period' });
        if (now.score !== was.score && now.score !== null && was.score !== null)
          moments.push({ at: entry.at, text: now.score, kind: 'score' });
      }
      was = now;
    }
  } finally {
    close();
  }
  return { length, lanes: [...lanes].map(([key, lane]) => ({ key, ...lane })), moments };
}

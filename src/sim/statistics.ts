import { XMLBuilder } from 'fast-xml-parser';
import { rename, writeFile } from 'node:fs/promises';
import game from '../../data/demo/game/opening-night.json' with { type: 'json' };
import { seeded } from './autopilot.ts';
import type { GameState, Side } from './game.ts';

interface Line {
  number: string;
  first: string;
  last: string;
  position: string;
  goals: number;
  assists: number;
  shots: number;
  penaltyMinutes: number;
}

const SIDES = ['home', 'away'] as const;

/** A share as statistics write it: three digits, no zero before the point. */
const average = (made: number, tried: number) => (tried ? made / tried : 0).toFixed(3).replace(/^0\./, '.');

/**
 * A statistics program: it watches the game as a scorer in the press box would, says who scored and who shot, and
 * writes it all down anew after each event, as XML and as JSON.
 */
export class Statistics {
  private lines: Record<Side, Line[]> = { home: [], away: [] };
  private plays: { period: number; time: string; side: Side; text: string }[] = [];
  private random = seeded(1);
  private before: GameState | null = null;
  /** What stood before each of the newest events. */
  private history: { state: GameState; lines: Statistics['lines']; plays: Statistics['plays'] }[] = [];
  /** Done when all that was begun is written. */
  written: Promise<unknown> = Promise.resolve();
  /** How many times it wrote. */
  revision = 0;

  /** `file`: where the XML is rewritten; none where it is only served. */
  constructor(private readonly file: string | null) {
    this.reset();
  }

  /** Looks at the game; writes when something happened. */
  watch(now: GameState): void {
    const was = this.before;
    this.before = structuredClone(now);
    const back = was && (now.period < was.period || SIDES.some((side) => now[side].score < was[side].score));
    if (!was || back) {
      this.takeBack(now);
      return this.write();
    }
    const { lines, plays } = structuredClone({ lines: this.lines, plays: this.plays });
    let happened = false;
    for (const side of SIDES) {
      // A goal is a shot of who scored it; the others are somebody's.
      const goals = now[side].score - was[side].score;
      for (let n = was[side].shots; n < now[side].shots - goals; n++) {
        this.field(side).shots++;
        happened = true;
      }
      for (let n = was[side].score; n < now[side].score; n++) {
        this.goal(side, now);
        happened = true;
      }
      const fresh = now[side].penalties.filter(
        (p) => !was[side].penalties.some((q) => q.player === p.player),
      );
      for (const p of fresh) {
        const line = this.lines[side].find((l) => l.number === String(p.player));
        if (line) line.penaltyMinutes += p.length / 60_000;
        this.play(
          side,
          now,
          `Penalty: ${line ? line.last : `number ${p.player}`}, ${p.length / 60_000} minutes`,
        );
        happened = true;
      }
    }
    if (!happened) return;
    this.history = [...this.history.slice(-40), { state: was, lines, plays }];
    this.write();
  }

  /** A goal that was taken back: what was written down before it stands again. A new game begins with nothing. */
  private takeBack(now: GameState): void {
    const sums = (state: GameState) =>
      [state.period, ...SIDES.flatMap((side) => [state[side].score, state[side].shots])].join();
    const at = this.history.findLastIndex(({ state }) => sums(state) === sums(now));
    if (at < 0) return this.reset();
    const { lines, plays } = this.history[at]!;
    Object.assign(this, { lines, plays });
    this.history = this.history.slice(0, at);
  }

  /** The statistics as XML. */
  xml(): string {
    const builder = new XMLBuilder({ ignoreAttributes: false, attributeNamePrefix: '@', format: true });
    const team = SIDES.map((side) => ({
      '@side': side,
      '@name': game[side].name,
      '@code': game[side].abbr,
      totals: {
        '@goals': this.total(side, 'goals'),
        '@assists': this.total(side, 'assists'),
        '@shots': this.total(side, 'shots'),
        '@shooting': average(this.total(side, 'goals'), this.total(side, 'shots')),
      },
      player: this.lines[side].map((l) => ({
        '@number': l.number.padStart(2, '0'),
        '@name': l.last,
        '@first': l.first,
        '@position': l.position,
        scoring: {
          '@goals': l.goals,
          '@assists': l.assists,
          '@points': l.goals + l.assists,
          '@shots': l.shots,
          '@shooting': average(l.goals, l.shots),
        },
        penalties: { '@minutes': l.penaltyMinutes },
      })),
    }));
    const status = {
      '@period': this.before?.period ?? 1,
      '@home': this.before?.home.score ?? 0,
      '@away': this.before?.away.score ?? 0,
    };
    const play = this.plays.slice(-20).map((p) => ({
      '@period': p.period,
      '@time': p.time,
      '@side': p.side,
      '#text': p.text,
    }));
    return `<?xml version="1.0" encoding="UTF-8"?>\n${builder.build({
      statistics: { '@revision': this.revision, venue: game.venue, status, team, plays: { play } },
    })}`;
  }

  /** The same as JSON, without the plays. */
  json(): object {
    const { period = 1, home, away } = this.before ?? {};
    return {
      revision: this.revision,
      status: { period, home: home?.score ?? 0, away: away?.score ?? 0 },
      teams: SIDES.map((side) => ({ side, name: game[side].name, players: this.lines[side] })),
    };
  }

  private reset(): void {
    this.random = seeded(5);
    this.plays = [];
    this.history = [];
    for (const side of SIDES)
      this.lines[side] = game[side].players.map(({ number, first, last, position }) => ({
        number,
        first,
        last,
        position,
        goals: 0,
        assists: 0,
        shots: 0,
        penaltyMinutes: 0,
      }));
  }

  /** Somebody of the field players, some more often than others. */
  private field(side: Side): Line {
    const field = this.lines[side].filter((l) => l.position !== 'Goalkeeper');
    return field[Math.floor(this.random() ** 1.7 * field.length)]!;
  }

  private goal(side: Side, now: GameState): void {
    const scorer = this.field(side);
    scorer.goals++;
    scorer.shots++;
    const helper = this.field(side);
    const helped = helper !== scorer && this.random() < 0.7;
    if (helped) helper.assists++;
    this.play(side, now, `Goal: ${scorer.last}${helped ? `, from ${helper.last}` : ''}`);
  }

  private play(side: Side, { period, clock }: GameState, text: string): void {
    const seconds = Math.floor(clock / 1000);
    const time = `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
    this.plays.push({ period, time, side, text });
  }

  private total(side: Side, what: 'goals' | 'assists' | 'shots'): number {
    return this.lines[side].reduce((sum, l) => sum + l[what], 0);
  }

  /** Written beside and moved into place, as careful programs do. */
  private write(): void {
    this.revision++;
    const { file } = this;
    if (!file) return;
    const text = this.xml();
    this.written = this.written
      .then(() => writeFile(`${file}.part`, text))
      .then(() => rename(`${file}.part`, file))
      .catch((error: Error) =>
        process.stderr.write(`The statistics file cannot be written: ${error.message}\n`),
      );
  }
}

/** A game of box lacrosse as its scorer keeps it. Times in ms. It knows nothing of who listens. */
export type Side = 'home' | 'away';

export interface Penalty {
  player: number;
  left: number;
  length: number;
}

export interface Team {
  score: number;
  shots: number;
  timeouts: number;
  /** The first two run; those behind wait their turn. */
  penalties: Penalty[];
}

export interface GameState {
  period: number;
  clock: number;
  running: boolean;
  shot: number;
  possession: Side | null;
  horn: number;
  home: Team;
  away: Team;
}

export type GameAction =
  | { kind: 'start' }
  | { kind: 'stop' }
  | { kind: 'clock'; ms: number }
  | { kind: 'shot-clock'; ms: number }
  | { kind: 'goal'; side: Side }
  | { kind: 'shot'; side: Side }
  | { kind: 'penalty'; side: Side; player: number; minutes: 2 | 5 }
  | { kind: 'end-penalty'; side: Side; index: number }
  | { kind: 'timeout'; side: Side }
  | { kind: 'possession'; side: Side | null }
  | { kind: 'next-period' }
  | { kind: 'horn' }
  | { kind: 'undo' };

export const QUARTER = 15 * 60_000;
export const SHOT_CLOCK = 30_000;
const HORN = 2500;
const SIDES = ['home', 'away'] as const;

export const other = (side: Side): Side => (side === 'home' ? 'away' : 'home');

function newTeam(): Team {
  return { score: 0, shots: 0, timeouts: 2, penalties: [] };
}

export function newGame(): GameState {
  return {
    period: 1,
    clock: QUARTER,
    running: false,
    shot: SHOT_CLOCK,
    possession: null,
    horn: 0,
    home: newTeam(),
    away: newTeam(),
  };
}

/** These set clocks on purpose, so that undoing them sets the clocks back; other undos let time be. */
const SETS_CLOCKS = new Set(['clock', 'shot-clock', 'next-period']);

export class Game {
  state = newGame();
  private elapsed = 0;
  private readonly past: { before: GameState; elapsed: number; kind: string }[] = [];

  /** Lets time go by; gives true when something other than the running clocks changed. */
  advance(ms: number): boolean {
    const s = this.state;
    const horn = s.horn;
    s.horn = Math.max(0, horn - ms);
    let changed = horn > 0 && s.horn === 0;
    if (!s.running) return changed;
    const step = Math.min(ms, s.clock);
    s.clock -= step;
    this.elapsed += step;
    s.shot = Math.max(0, s.shot - step);
    for (const side of SIDES) {
      const team = s[side];
      const before = team.penalties.length;
      team.penalties.forEach((p, i) => {
        if (i < 2) p.left = Math.max(0, p.left - step);
      });
      team.penalties = team.penalties.filter((p) => p.left > 0);
      changed ||= before !== team.penalties.length;
    }
    if (s.clock === 0) {
      s.running = false;
      s.horn = HORN;
      changed = true;
    }
    return changed;
  }

  /** Does what the scorer pressed. Gives a sentence when it cannot be done. */
  act(action: GameAction): string | null {
    if (action.kind === 'undo') return this.undo();
    const before = structuredClone(this.state);
    const problem = this.perform(action);
    if (problem) return problem;
    this.past.push({ before, elapsed: this.elapsed, kind: action.kind });
    if (this.past.length > 200) this.past.shift();
    return null;
  }

  reset(): void {
    this.state = newGame();
    this.past.length = 0;
    this.elapsed = 0;
  }

  private perform(action: Exclude<GameAction, { kind: 'undo' }>): string | null {
    const s = this.state;
    switch (action.kind) {
      case 'start':
        if (s.clock === 0) return 'The period is over; go to the next one first.';
        if (s.running) return 'The clock runs already.';
        s.running = true;
        return null;
      case 'stop':
        if (!s.running) return 'The clock stands already.';
        s.running = false;
        return null;
      case 'clock':
        if (!(action.ms >= 0 && action.ms <= QUARTER)) return 'The clock goes from 0:00 to 15:00.';
        s.clock = action.ms;
        return null;
      case 'shot-clock':
        if (!(action.ms >= 0 && action.ms <= SHOT_CLOCK)) return 'The shot clock goes from 0 to 30.';
        s.shot = action.ms;
        return null;
      case 'goal':
        return this.goal(action.side);
      case 'shot':
        s[action.side].shots = Math.min(99, s[action.side].shots + 1);
        s.shot = SHOT_CLOCK;
        return null;
      case 'penalty':
        if (!Number.isInteger(action.player) || action.player < 0 || action.player > 99)
          return 'A player has a number from 0 to 99.';
        s[action.side].penalties.push({
          player: action.player,
          left: action.minutes * 60_000,
          length: action.minutes * 60_000,
        });
        return null;
      case 'end-penalty':
        if (!s[action.side].penalties[action.index]) return 'There is no such penalty.';
        s[action.side].penalties.splice(action.index, 1);
        return null;
      case 'timeout':
        if (s[action.side].timeouts === 0) return 'No time-outs are left.';
        s[action.side].timeouts--;
        s.running = false;
        return null;
      case 'possession':
        if (action.side && action.side !== s.possession) s.shot = SHOT_CLOCK;
        s.possession = action.side;
        return null;
      case 'next-period':
        if (s.period >= 9) return 'There is no further period.';
        s.period++;
        s.clock = QUARTER;
        s.shot = SHOT_CLOCK;
        s.running = false;
        s.possession = null;
        return null;
      case 'horn':
        s.horn = HORN;
        return null;
    }
  }

  /** A goal stops the clock; it ends the earliest two-minute penalty of a side that was short-handed. */
  private goal(side: Side): string | null {
    const s = this.state;
    if (s[side].score >= 99) return 'The board shows two digits.';
    s[side].score++;
    s[side].shots = Math.min(99, s[side].shots + 1);
    s.running = false;
    s.shot = SHOT_CLOCK;
    s.possession = null;
    const against = s[other(side)].penalties;
    if (against.length > s[side].penalties.length) {
      const minor = against.findIndex((p) => p.length === 120_000);
      if (minor >= 0) against.splice(minor, 1);
    }
    return null;
  }

  private undo(): string | null {
    const last = this.past.pop();
    if (!last) return 'There is nothing to undo.';
    const { clock, shot, running } = this.state;
    this.state = last.before;
    this.state.horn = 0;
    if (SETS_CLOCKS.has(last.kind)) return null;
    if (last.kind !== 'start' && last.kind !== 'stop') this.state.running = running && clock > 0;
    this.state.clock = clock;
    this.state.shot = shot;
    const gone = this.elapsed - last.elapsed;
    for (const side of SIDES) {
      const team = this.state[side];
      for (const p of team.penalties.slice(0, 2)) p.left -= gone;
      team.penalties = team.penalties.filter((p) => p.left > 0);
    }
    return null;
  }
}

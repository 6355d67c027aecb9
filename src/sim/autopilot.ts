import { Game, other, type Side } from './game.ts';

/** The autopilot thinks once in this much game time, in ms. */
export const THINK = 100;

/** A seeded stream of numbers from 0 to 1: the "mulberry32" generator, public domain, by T. Ettinger. */
export function seeded(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

const ROSTER = {
  home: [2, 4, 7, 9, 11, 14, 17, 19, 23, 28, 33, 41],
  away: [3, 5, 8, 10, 12, 15, 18, 21, 26, 30, 36, 44],
};

/**
 * Plays a believable game: possessions, shots, goals, penalties, time-outs, breaks. It thinks in steps of game
 * time, never of real time, so the same seed gives the same game at any speed.
 */
export class Autopilot {
  private readonly random: () => number;
  /** Time to wait, in ms, before play goes on. */
  private pause = 3000;
  private readonly edge: Record<Side, number>;

  constructor(
    private readonly game: Game,
    seed: number,
  ) {
    this.random = seeded(seed);
    this.edge = { home: 0.9 + this.random() * 0.3, away: 0.9 + this.random() * 0.3 };
  }

  /** One step; gives false once the game is over. */
  step(): boolean {
    const s = this.game.state;
    if (!s.running) {
      this.pause -= THINK;
      if (this.pause > 0) {
        this.game.advance(THINK);
        return true;
      }
      if (s.clock === 0) {
        if (s.period >= 4 && s.home.score !== s.away.score) return false;
        this.game.act({ kind: 'next-period' });
        this.pause = 4000;
        return true;
      }
      this.faceOff();
    }
    this.play();
    const over = this.game.advance(THINK) && s.clock === 0;
    if (over) this.pause = 12_000;
    return true;
  }

  private chance(perMinute: number): boolean {
    return this.random() < (perMinute * THINK) / 60_000;
  }

  private faceOff(): void {
    this.game.act({ kind: 'possession', side: this.random() < 0.5 ? 'home' : 'away' });
    this.game.act({ kind: 'start' });
  }

  private play(): void {
    const s = this.game.state;
    const side = s.possession;
    if (!side) return;
    const rival = other(side);
    const moreMen = s[rival].penalties.slice(0, 2).length - s[side].penalties.slice(0, 2).length;
    if (s.shot === 0) {
      this.game.act({ kind: 'possession', side: rival });
      return;
    }
    if (this.chance(3.4 * this.edge[side] + moreMen)) {
      if (this.random() < 0.11 + 0.06 * moreMen) {
        this.game.act({ kind: 'goal', side });
        this.pause = 9000 + this.random() * 6000;
        return;
      }
      this.game.act({ kind: 'shot', side });
      if (this.random() < 0.7) this.game.act({ kind: 'possession', side: rival });
      return;
    }
    if (this.chance(1.6)) this.game.act({ kind: 'possession', side: rival });
    else if (this.chance(0.28)) {
      const guilty = this.random() < 0.6 ? rival : side;
      const players = ROSTER[guilty];
      const player = players[Math.floor(this.random() * players.length)]!;
      this.game.act({ kind: 'stop' });
      this.game.act({ kind: 'penalty', side: guilty, player, minutes: this.random() < 0.12 ? 5 : 2 });
      this.pause = 7000;
    } else if (this.chance(0.05) && s[side].timeouts > 0) {
      this.game.act({ kind: 'timeout', side });
      this.pause = 20_000;
    }
  }
}

import { connect } from 'node:net';
import { describe, expect, it } from 'vitest';
import lacrosse from '../../data/demo/frame-map/lacrosse-console.json' with { type: 'json' };
import { FrameDecoder } from '../core/decode/decoder.ts';
import { parseFrameMap } from '../core/decode/frame-map.ts';
import { Autopilot } from './autopilot.ts';
import { freePort } from '../../tests/support/ports.ts';
import { encodeFrame } from './frame.ts';
import { Game, newGame, type GameAction } from './game.ts';
import { Line } from './line.ts';

const map = parseFrameMap(lacrosse);
if (!map.ok) throw new Error(map.problems.join());

describe('the controller’s frame', () => {
  it('says what the game says, read by the demo frame map', () => {
    const s = newGame();
    Object.assign(s, { period: 3, clock: 34_599, running: true, shot: 7900, possession: 'away', horn: 100 });
    Object.assign(s.home, {
      score: 12,
      shots: 30,
      timeouts: 1,
      penalties: [{ player: 9, left: 119_400, length: 120_000 }],
    });
    const [frame] = new FrameDecoder(map.value).push(encodeFrame(s));
    const values = Object.fromEntries(frame!.readings.map((r) => [r.name, r.value]));
    expect(frame!.bytes).toHaveLength(52);
    expect(values).toMatchObject({
      'game clock': { ms: 34_500, step: 100 },
      'game running': true,
      'shot clock': { ms: 7000, step: 1000 },
      period: 3,
      'home score': 12,
      'away score': 0,
      'home shots': 30,
      'home time-outs': 1,
      possession: 'A',
      'home penalty 1 player': 9,
      'home penalty 1 clock': { ms: 119_000, step: 1000 },
      'home penalty 2 player': null,
      horn: true,
    });
  });
});

describe('Game', () => {
  const play = (actions: (GameAction | number)[]) => {
    const game = new Game();
    for (const a of actions) {
      if (typeof a === 'number') game.advance(a);
      else game.act(a);
    }
    return game.state;
  };
  const penalty = (player: number, minutes: 2 | 5 = 2): GameAction => ({
    kind: 'penalty',
    side: 'home',
    player,
    minutes,
  });

  it('runs its clocks, two penalties at a time, and stops with a horn at the end', () => {
    const s = play([penalty(1), penalty(2), penalty(3), { kind: 'start' }, 119_000]);
    expect(s.home.penalties.map((p) => p.left)).toEqual([1000, 1000, 120_000]);
    expect(s.shot).toBe(0);
    const end = play([{ kind: 'clock', ms: 500 }, { kind: 'start' }, 800]);
    expect(end).toMatchObject({ clock: 0, running: false });
    expect(end.horn).toBeGreaterThan(0);
  });

  it('lets a goal against the short-handed side end its earliest minor, never a major', () => {
    const goal: GameAction = { kind: 'goal', side: 'away' };
    expect(play([penalty(4, 5), penalty(5), goal]).home.penalties.map((p) => p.player)).toEqual([4]);
    expect(play([penalty(4, 5), goal]).home.penalties).toHaveLength(1);
  });

  it('undoes the score without turning the clock back, and a set clock with it', () => {
    const s = play([
      penalty(1),
      { kind: 'start' },
      1000,
      { kind: 'goal', side: 'home' },
      { kind: 'start' },
      2000,
      { kind: 'undo' },
      { kind: 'undo' },
    ]);
    expect(s).toMatchObject({ clock: 897_000, home: { score: 0 } });
    expect(s.home.penalties[0]!.left).toBe(117_000);
    expect(play([{ kind: 'clock', ms: 5000 }, { kind: 'undo' }]).clock).toBe(900_000);
  });

  it.each<[GameAction[], string]>([
    [[{ kind: 'stop' }], 'stands already'],
    [[{ kind: 'clock', ms: -1 }], '0:00 to 15:00'],
    [[{ kind: 'undo' }], 'nothing to undo'],
    [[penalty(100)], '0 to 99'],
    [[1, 2, 3].map(() => ({ kind: 'timeout', side: 'home' }) as GameAction), 'No time-outs'],
  ])('refuses %o', (actions, why) => {
    const game = new Game();
    expect(actions.map((a) => game.act(a)).pop()).toContain(why);
  });
});

describe('Autopilot', () => {
  const wholeGame = (seed: number) => {
    const game = new Game();
    const autopilot = new Autopilot(game, seed);
    const trail: string[] = [];
    for (let i = 0; i < 120_000 && autopilot.step(); i++) {
      if (i % 50 === 0) trail.push(JSON.stringify(game.state));
    }
    return { state: game.state, trail };
  };
  it('plays the same game from the same seed, another from another', () => {
    expect(wholeGame(7).trail).toEqual(wholeGame(7).trail);
    expect(wholeGame(7).trail).not.toEqual(wholeGame(8).trail);
  });
  it('plays believable games', () => {
    const games = [1, 2, 3, 4, 5, 6, 7, 8].map((seed) => wholeGame(seed).state);
    for (const g of games) {
      expect(g.period).toBeGreaterThanOrEqual(4);
      expect(g.home.score).not.toBe(g.away.score);
      for (const t of [g.home, g.away]) {
        expect(t.score).toBeGreaterThan(1);
        expect(t.score).toBeLessThan(30);
        expect(t.shots).toBeGreaterThan(t.score);
      }
    }
  });
});

describe('Line', () => {
  it('sends whole frames, spoiled ones, none, or closes, as its faults say', async () => {
    const line = new Line();
    const port = await freePort();
    await line.listen(port, '127.0.0.1');
    const socket = connect(port, '127.0.0.1');
    let got: Buffer[] = [];
    socket.on('data', (b) => got.push(b));
    await expect.poll(() => line.listeners).toBe(1);
    const frame = encodeFrame(newGame());
    /** What comes of frames that are sent while the line is so; another ends them, whole. */
    const end = Buffer.from('the end');
    const collect = async (n: number, fault?: 'garble' | 'drop' | 'freeze') => {
      got = [];
      if (fault) line.set(fault, true);
      for (let i = 0; i < n; i++) line.send(frame);
      if (fault) line.set(fault, false);
      line.send(end);
      const all = () => Buffer.concat(got);
      await expect.poll(() => all().includes(end)).toBe(true);
      return all().subarray(0, -end.length);
    };
    expect(await collect(3)).toEqual(Buffer.concat([frame, frame, frame]));
    expect(await collect(40, 'garble')).not.toEqual(Buffer.concat(Array(40).fill(frame)));
    expect((await collect(40, 'drop')).length).toBeLessThan(40 * 52);
    expect(await collect(3, 'freeze')).toHaveLength(0);
    line.set('disconnect', true);
    await expect.poll(() => socket.destroyed || socket.readableEnded).toBe(true);
    line.close();
  });
});

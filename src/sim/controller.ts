import { Autopilot, THINK } from './autopilot.ts';
import { createSocket } from 'node:dgram';
import { encodeFrame, encodeJsonLine, encodeOtherFrame, encodeShotClock } from './frame.ts';
import { Game, type GameAction, type GameState } from './game.ts';
import type { SerialLine } from './serial-line.ts';
import { Line, type Faults } from './line.ts';

export type Command =
  | { kind: 'game'; action: GameAction }
  | { kind: 'autopilot'; on: boolean; seed?: number; speed?: number }
  | { kind: 'fault'; fault: keyof Faults; on: boolean }
  | { kind: 'jump' }
  | { kind: 'new-game' };

export interface ControllerView {
  game: GameState;
  autopilot: { on: boolean; seed: number; speed: number };
  faults: Faults;
  sent: number;
  listeners: number;
  note: string;
}

const FRAME_EVERY = 100;
/** At rest a frame goes out this often, in ms, so that a listener can tell rest from death. */
const REST_EVERY = 500;
const BETWEEN_GAMES = 60_000;

/** The simulated scoreboard controller: a game, a line, and whoever works them. */
export class Controller {
  readonly game = new Game();
  readonly line = new Line();
  /** The same game as another maker's console tells it; no fault touches it. */
  readonly otherLine = new Line();
  /** The game as lines of JSON. */
  readonly jsonLine = new Line();
  private readonly shotClock = createSocket('udp4');
  private autopilot: Autopilot | null = null;
  private seed = 7;
  private speed = 1;
  private owed = 0;
  private lastTick = performance.now();
  private lastFrame = 0;
  private overSince: number | null = null;
  private note = '';
  private readonly timer: NodeJS.Timeout;

  /** `shotClockPort`: where the shot clock's own device sends its datagrams on loopback. */
  constructor(
    private readonly shotClockPort: number,
    private readonly onState: (state: GameState) => void = () => {},
    /** A serial port that says what the line says; of the line's faults only freezing touches it. */
    private readonly serial: Pick<SerialLine, 'send' | 'close'> | null = null,
  ) {
    this.shotClock.unref();
    this.timer = setInterval(() => this.tick(), FRAME_EVERY);
  }

  close(): void {
    clearInterval(this.timer);
    this.line.close();
    this.otherLine.close();
    this.jsonLine.close();
    this.shotClock.close();
    this.serial?.close();
  }

  view(): ControllerView {
    return {
      game: this.game.state,
      autopilot: { on: this.autopilot !== null, seed: this.seed, speed: this.speed },
      faults: { ...this.line.faults },
      sent: this.line.sent,
      listeners: this.line.listeners,
      note: this.note,
    };
  }

  /** Does a command; gives a sentence when it cannot be done. */
  command(command: Command): string | null {
    this.catchUp();
    const problem = this.perform(command);
    this.note = problem ?? '';
    if (!problem && command.kind !== 'fault') this.sendFrame();
    return problem;
  }

  private perform(command: Command): string | null {
    switch (command.kind) {
      case 'game':
        return this.game.act(command.action);
      case 'fault':
        this.line.set(command.fault, command.on);
        return null;
      case 'jump': {
        const { clock } = this.game.state;
        return this.game.act({ kind: 'clock', ms: clock > 97_000 ? clock - 97_000 : clock + 97_000 });
      }
      case 'new-game':
        this.game.reset();
        if (this.autopilot) this.autopilot = new Autopilot(this.game, this.seed);
        return null;
      case 'autopilot': {
        const seed = command.seed ?? this.seed;
        const speed = command.speed ?? this.speed;
        if (!(speed >= 1 && speed <= 20)) return 'The speed goes from 1 to 20.';
        if (!Number.isInteger(seed) || seed < 0) return 'The seed is a whole number.';
        this.speed = speed;
        if (!command.on) this.autopilot = null;
        else if (!this.autopilot || seed !== this.seed) {
          this.game.reset();
          this.autopilot = new Autopilot(this.game, seed);
        }
        this.seed = seed;
        return null;
      }
    }
  }

  private tick(): void {
    const changed = this.catchUp();
    const now = performance.now();
    if (this.game.state.running || changed || now - this.lastFrame >= REST_EVERY - 10) this.sendFrame();
  }

  /** Brings the game to the present; gives true when more than running clocks changed. */
  private catchUp(): boolean {
    const now = performance.now();
    const passed = Math.min(1000, now - this.lastTick);
    this.lastTick = now;
    if (!this.autopilot) return this.game.advance(passed);
    this.owed += passed * this.speed;
    const before = JSON.stringify({ ...this.game.state, clock: 0, shot: 0 });
    while (this.owed >= THINK) {
      this.owed -= THINK;
      if (this.autopilot.step()) continue;
      this.overSince ??= now;
      if (now - this.overSince > BETWEEN_GAMES / this.speed) this.nextGame();
      break;
    }
    return before !== JSON.stringify({ ...this.game.state, clock: 0, shot: 0 });
  }

  private nextGame(): void {
    this.overSince = null;
    this.seed++;
    this.game.reset();
    this.autopilot = new Autopilot(this.game, this.seed);
  }

  private sendFrame(): void {
    this.lastFrame = performance.now();
    const frame = encodeFrame(this.game.state);
    this.line.send(frame);
    if (!this.line.faults.freeze) this.serial?.send(frame);
    this.otherLine.send(encodeOtherFrame(this.game.state));
    this.jsonLine.send(encodeJsonLine(this.game.state));
    this.onState(this.game.state);
    this.shotClock.send(encodeShotClock(this.game.state), this.shotClockPort, '127.0.0.1', () => {});
  }
}

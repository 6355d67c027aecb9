import type { GameState, Team } from './game.ts';

const STX = 0x02;
const ETX = 0x03;

/** A clock in `width` characters: 12:34 from a minute up, 34.5 below it. */
function clock(ms: number, width: number, tenths: boolean): string {
  const t = Math.floor(ms / 100);
  const seconds = Math.floor(t / 10);
  const text =
    tenths && seconds < 60
      ? `${seconds}.${t % 10}`
      : `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`;
  return text.padStart(width);
}

const digits = (n: number, width: number) => String(n).padStart(width).slice(-width);

function penalties(team: Team): string {
  return [0, 1]
    .map((i) => {
      const p = team.penalties[i];
      return p ? digits(p.player, 2) + clock(p.left, 4, false) : ' '.repeat(6);
    })
    .join('');
}

/**
 * The same game as another maker's console tells it, start 01, end 04: period, scores of three
 * digits, the game clock always with tenths, shot clock, flags as 1 and 0, an exclusive-or in hexadecimal digits.
 */
export function encodeOtherFrame(s: GameState): Uint8Array {
  const tenths = Math.floor(s.clock / 100);
  const time = `${Math.floor(tenths / 600)}:${String(Math.floor(tenths / 10) % 60).padStart(2, '0')}.${tenths % 10}`;
  const pad3 = (n: number) => String(n).padStart(3, '0');
  const flag = (on: boolean) => (on ? '1' : '0');
  const body =
    `P${s.period}${pad3(s.away.score)}${pad3(s.home.score)}${time.padStart(7)}${flag(s.running)}` +
    `${String(Math.floor(s.shot / 1000)).padStart(2, '0')}${s.home.timeouts}${s.away.timeouts}` +
    `${{ home: 'H', away: 'V', none: '-' }[s.possession ?? 'none']}${flag(s.horn > 0)}OK`;
  const bytes = new TextEncoder().encode(body);
  const check = bytes.reduce((x, b) => x ^ b, 0);
  const digits = new TextEncoder().encode(check.toString(16).padStart(2, '0'));
  return Uint8Array.from([0x01, ...bytes, ...digits, 0x04]);
}

/** What the shot clock's own device says over UDP: `SC`, two digits, R or S, and the end of a line. */
export function encodeShotClock(s: GameState): Uint8Array {
  const seconds = String(Math.floor(s.shot / 1000)).padStart(2, '0');
  return new TextEncoder().encode(`SC${seconds}${s.running && s.shot > 0 ? 'R' : 'S'}\r\n`);
}

/** The game as one line of JSON. */
export function encodeJsonLine(s: GameState): Uint8Array {
  const { period, running, possession } = s;
  const side = ({ score, shots, timeouts }: Team) => ({ score, shots, timeouts });
  const line = {
    period,
    clock: { text: clock(s.clock, 0, true), running },
    possession,
    teams: { home: side(s.home), away: side(s.away) },
  };
  return new TextEncoder().encode(`${JSON.stringify(line)}\n`);
}

/**
 * One frame of 52 bytes: a start byte, 48 characters of fixed width, an 8-bit sum of them in two hexadecimal
 * digits, an end byte.
 */
export function encodeFrame(s: GameState): Uint8Array {
  const body =
    'LX' +
    clock(s.clock, 5, true) +
    (s.running ? 'R' : 'S') +
    digits(Math.floor(s.shot / 1000), 2) +
    (s.running && s.shot > 0 ? 'R' : 'S') +
    digits(s.period, 1) +
    digits(s.home.score, 2) +
    digits(s.away.score, 2) +
    digits(s.home.shots, 2) +
    digits(s.away.shots, 2) +
    digits(s.home.timeouts, 1) +
    digits(s.away.timeouts, 1) +
    (s.possession === 'home' ? 'H' : s.possession === 'away' ? 'A' : ' ') +
    penalties(s.home) +
    penalties(s.away) +
    (s.horn > 0 ? 'B' : ' ');
  const bytes = new TextEncoder().encode(body);
  const sum = bytes.reduce((a, b) => (a + b) & 0xff, 0);
  const check = sum.toString(16).toUpperCase().padStart(2, '0');
  return Uint8Array.from([STX, ...bytes, ...new TextEncoder().encode(check), ETX]);
}

import { seeded } from './autopilot.ts';

/** A game of any sport as its scorer keeps it: counts, flags, texts; clocks in ms, under `clock` those that run. */
export type SportState = Record<string, number | boolean | string>;

export interface SportButton {
  label: string;
  key: string;
  /** Added to a count, or what a text becomes; a flag is turned. */
  by?: number | string;
}

export interface Sport {
  key: string;
  name: string;
  start: SportState;
  buttons: SportButton[];
  /** The frame in which this maker's controller says it all. */
  encode(state: SportState): Uint8Array;
  /** What happens now and then, by itself. */
  happen(state: SportState, random: () => number): void;
}

const ascii = (text: string) => new TextEncoder().encode(text);
const num = (s: SportState, key: string) => Number(s[key]);
const pad = (s: SportState, key: string, width: number) => String(num(s, key)).padStart(width).slice(-width);
const bytes = (...parts: (number | Uint8Array)[]) =>
  Uint8Array.from(parts.flatMap((p) => (typeof p === 'number' ? [p & 255] : [...p])));
const sum = (b: Uint8Array) => b.reduce((a, x) => (a + x) & 255, 0);
const hex = (n: number) => ascii(n.toString(16).toUpperCase().padStart(2, '0'));
/** Packed decimal, two digits a byte. */
const bcd = (digits: string) =>
  Uint8Array.from(digits.match(/../g)!, (d) => (Number(d[0]) << 4) | Number(d[1]));
const mmss = (ms: number) => {
  const t = Math.floor(ms / 1000);
  return `${String(Math.floor(t / 60)).padStart(2, '0')}${String(t % 60).padStart(2, '0')}`;
};

/** CRC-16/XMODEM, big end first. */
function crc(b: Uint8Array): Uint8Array {
  let r = 0;
  for (const x of b) {
    r ^= x << 8;
    for (let i = 0; i < 8; i++) r = r & 0x8000 ? ((r << 1) ^ 0x1021) & 0xffff : (r << 1) & 0xffff;
  }
  return Uint8Array.from([r >> 8, r & 255]);
}

const team = (part: string, label: string, by: number | string = 1): SportButton[] => [
  { label: `Home ${label}`, key: `home.${part}`, by },
  { label: `Away ${label}`, key: `away.${part}`, by },
];
const both = (...parts: [string, number | boolean | string][]): SportState =>
  Object.fromEntries(
    parts.flatMap(([p, v]) => [
      [`home.${p}`, v],
      [`away.${p}`, v],
    ]),
  );
const sideOf = (random: () => number) => (random() < 0.5 ? 'home' : 'away');
const add = (s: SportState, key: string, n: number) => (s[key] = num(s, key) + n);
const run: SportButton = { label: 'Start or stop the clock', key: 'running' };

const hockey: Sport = {
  key: 'ice-hockey',
  name: 'Ice hockey',
  start: {
    running: false,
    clock: 1_200_000,
    period: 1,
    horn: false,
    ...both(['score', 0], ['shots', 0], ['penalty', 0], ['penalty clock', 0]),
  },
  buttons: [
    run,
    ...team('score', 'goal'),
    ...team('shots', 'shot'),
    ...team('penalty clock', 'penalty 2:00', 120_000),
    { label: 'Next period', key: 'period', by: 1 },
  ],
  // AA 55, characters of fixed width, a CRC in two bytes: 32 bytes.
  encode(s) {
    const clock = (ms: number) =>
      (ms > 0
        ? `${Math.floor(ms / 60_000)}:${String(Math.floor(ms / 1000) % 60).padStart(2, '0')}`
        : ''
      ).padStart(5);
    const body = ascii(
      `${pad(s, 'period', 1)}${clock(num(s, 'clock'))}${s['running'] ? 'R' : '.'}${pad(s, 'home.score', 2)}${pad(s, 'away.score', 2)}` +
        `${pad(s, 'home.shots', 3)}${pad(s, 'away.shots', 3)}${clock(num(s, 'home.penalty clock'))}${clock(num(s, 'away.penalty clock'))}${s['horn'] ? '!' : ' '}`,
    );
    return bytes(0xaa, 0x55, body, crc(body));
  },
  happen(s, random) {
    const side = sideOf(random);
    add(s, `${side}.shots`, 1);
    if (random() < 0.12) add(s, `${side}.score`, 1);
    if (random() < 0.04 && num(s, `${side}.penalty clock`) === 0) s[`${side}.penalty clock`] = 120_000;
  },
};

const basketball: Sport = {
  key: 'basketball',
  name: 'Basketball',
  start: {
    running: false,
    clock: 720_000,
    shot: 24_000,
    period: 1,
    arrow: '>',
    ...both(['score', 0], ['fouls', 0], ['timeouts', 7]),
  },
  buttons: [
    run,
    ...team('score', 'basket', 2),
    ...team('score', 'three', 3),
    ...team('fouls', 'foul'),
    ...team('timeouts', 'time-out', -1),
    { label: 'Next period', key: 'period', by: 1 },
  ],
  // STX, scores of three digits, a clock without a colon whose last digit is tenths, an exclusive or in hex, ETX.
  encode(s) {
    const ms = num(s, 'clock');
    const body = ascii(
      `${pad(s, 'home.score', 3)}${pad(s, 'away.score', 3)}${mmss(ms)}${Math.floor(ms / 100) % 10}${s['running'] ? '1' : '0'}` +
        `${String(Math.floor(num(s, 'shot') / 1000)).padStart(2, '0')}${pad(s, 'period', 1)}${pad(s, 'home.fouls', 2)}${pad(s, 'away.fouls', 2)}` +
        `${pad(s, 'home.timeouts', 1)}${pad(s, 'away.timeouts', 1)}${String(s['arrow'])}`,
    );
    return bytes(0x02, body, hex(body.reduce((a, x) => a ^ x, 0)), 0x03);
  },
  happen(s, random) {
    const side = sideOf(random);
    if (random() < 0.5) add(s, `${side}.score`, random() < 0.3 ? 3 : 2);
    if (random() < 0.2) s[`${side}.fouls`] = Math.min(20, num(s, `${side}.fouls`) + 1);
    s['shot'] = 24_000;
    s['arrow'] = side === 'home' ? '<' : '>';
  },
};

const gridiron: Sport = {
  key: 'gridiron-football',
  name: 'Gridiron football',
  start: {
    running: false,
    clock: 900_000,
    play: 40_000,
    quarter: 1,
    down: 1,
    distance: 10,
    side: 'H',
    yard: 25,
    ball: 'H',
    flag: false,
    ...both(['score', 0], ['timeouts', 3]),
  },
  buttons: [
    run,
    ...team('score', 'touchdown', 6),
    ...team('score', 'field goal', 3),
    { label: 'Next down', key: 'down', by: 1 },
    { label: 'First and ten', key: 'distance', by: 0 },
    { label: 'Flag', key: 'flag' },
  ],
  // F8, packed decimal throughout, flags in one byte, an 8-bit sum in one byte: 14 bytes.
  encode(s) {
    const two = (n: number) => String(n % 100).padStart(2, '0');
    const flags =
      (s['running'] ? 1 : 0) |
      (s['ball'] === 'H' ? 2 : 4) |
      (s['flag'] ? 8 : 0) |
      (s['side'] === 'H' ? 16 : 32);
    const body = bytes(
      bcd(mmss(num(s, 'clock'))),
      bcd(two(Math.floor(num(s, 'play') / 1000))),
      bcd(two(num(s, 'quarter'))),
      bcd(two(num(s, 'home.score'))),
      bcd(two(num(s, 'away.score'))),
      bcd(two(num(s, 'down'))),
      bcd(two(num(s, 'distance'))),
      bcd(two(num(s, 'yard'))),
      bcd(`${num(s, 'home.timeouts')}${num(s, 'away.timeouts')}`),
      flags,
    );
    return bytes(0xf8, body, sum(body));
  },
  happen(s, random) {
    const gain = Math.floor(random() * 14) - 3;
    s['play'] = 40_000;
    s['distance'] = num(s, 'distance') - gain;
    if (num(s, 'distance') <= 0) Object.assign(s, { down: 1, distance: 10 });
    else if (num(s, 'down') >= 4)
      Object.assign(s, { down: 1, distance: 10, ball: s['ball'] === 'H' ? 'A' : 'H' });
    else add(s, 'down', 1);
    s['distance'] = Math.max(1, Math.min(40, num(s, 'distance')));
    s['yard'] = 1 + Math.floor(random() * 49);
    if (random() < 0.06) add(s, `${s['ball'] === 'H' ? 'home' : 'away'}.score`, 7);
  },
};

const baseball: Sport = {
  key: 'baseball',
  name: 'Baseball',
  start: {
    running: false,
    pitch: 20_000,
    inning: 1,
    half: 'T',
    balls: 0,
    strikes: 0,
    outs: 0,
    first: false,
    second: false,
    third: false,
    batter: 7,
    pitcher: 31,
    ...both(['score', 0], ['hits', 0], ['errors', 0]),
  },
  buttons: [
    { label: 'Ball', key: 'balls', by: 1 },
    { label: 'Strike', key: 'strikes', by: 1 },
    { label: 'Out', key: 'outs', by: 1 },
    { label: 'Runner on first', key: 'first' },
    { label: 'Runner on second', key: 'second' },
    { label: 'Runner on third', key: 'third' },
    ...team('score', 'run'),
    ...team('hits', 'hit'),
    { label: 'Next inning', key: 'inning', by: 1 },
  ],
  // A line: BB, counts, the bases as bits of one character from @ on, the end of a line. No check.
  encode(s) {
    const bases = 0x40 | (s['first'] ? 1 : 0) | (s['second'] ? 2 : 0) | (s['third'] ? 4 : 0);
    return ascii(
      `BB${pad(s, 'inning', 2)}${String(s['half'])}${pad(s, 'balls', 1)}${pad(s, 'strikes', 1)}${pad(s, 'outs', 1)}${String.fromCharCode(bases)}` +
        `${pad(s, 'home.score', 2)}${pad(s, 'away.score', 2)}${pad(s, 'home.hits', 2)}${pad(s, 'away.hits', 2)}${pad(s, 'home.errors', 1)}${pad(s, 'away.errors', 1)}` +
        `${pad(s, 'batter', 2)}${pad(s, 'pitcher', 2)}${String(Math.floor(num(s, 'pitch') / 1000)).padStart(2, '0')}\r\n`,
    );
  },
  happen(s, random) {
    const side = s['half'] === 'T' ? 'away' : 'home';
    const r = random();
    const next = () => Object.assign(s, { balls: 0, strikes: 0, batter: 1 + Math.floor(random() * 40) });
    if (r < 0.4) add(s, 'balls', 1);
    else if (r < 0.8) add(s, 'strikes', 1);
    else if (r < 0.92) {
      add(s, 'outs', 1);
      next();
    } else {
      add(s, `${side}.hits`, 1);
      if (s['third']) add(s, `${side}.score`, 1);
      Object.assign(s, { third: s['second'], second: s['first'], first: true });
      next();
    }
    if (num(s, 'balls') > 3) next();
    if (num(s, 'strikes') > 2) {
      add(s, 'outs', 1);
      next();
    }
    if (num(s, 'outs') > 2) {
      if (s['half'] === 'B') s['inning'] = (num(s, 'inning') % 9) + 1;
      Object.assign(s, {
        outs: 0,
        first: false,
        second: false,
        third: false,
        half: s['half'] === 'T' ? 'B' : 'T',
      });
    }
  },
};

const football: Sport = {
  key: 'association-football',
  name: 'Association football',
  start: {
    running: false,
    up: 0,
    half: 1,
    added: 0,
    ...both(['score', 0], ['yellow', 0], ['red', 0], ['corners', 0], ['shots', 0]),
  },
  buttons: [
    run,
    ...team('score', 'goal'),
    ...team('yellow', 'yellow card'),
    ...team('red', 'red card'),
    ...team('corners', 'corner'),
    { label: 'A minute added', key: 'added', by: 1 },
    { label: 'Next half', key: 'half', by: 1 },
  ],
  // C0 01, numbers as bytes, the time in packed decimal, goal difference as a signed byte, a CRC: 20 bytes.
  encode(s) {
    const t = Math.floor(num(s, 'up') / 1000);
    const time = `${String(Math.floor(t / 60)).padStart(4, '0')}${String(t % 60).padStart(2, '0')}`;
    const b = (key: string) => num(s, key);
    const body = bytes(
      s['running'] ? 1 : 0,
      bcd(time),
      b('half'),
      b('added'),
      ...['score', 'yellow', 'red', 'corners', 'shots'].flatMap((p) => [b(`home.${p}`), b(`away.${p}`)]),
    );
    return bytes(0xc0, 0x01, body, crc(body));
  },
  happen(s, random) {
    const side = sideOf(random);
    add(s, `${side}.${random() < 0.3 ? 'corners' : 'shots'}`, 1);
    if (random() < 0.07) add(s, `${side}.score`, 1);
    if (random() < 0.05) add(s, `${side}.yellow`, 1);
  },
};

const volleyball: Sport = {
  key: 'volleyball',
  name: 'Volleyball',
  start: {
    running: false,
    timeout: 0,
    set: 1,
    serving: 'H',
    name: 'Königsfähre',
    ...both(['score', 0], ['sets', 0], ['timeouts', 2]),
  },
  buttons: [
    ...team('score', 'point'),
    ...team('sets', 'set'),
    ...team('timeouts', 'time-out', -1),
    { label: 'Next set', key: 'set', by: 1 },
  ],
  // SOH, the hall's name in Windows 1252, points, an 8-bit sum in hex digits, EOT.
  encode(s) {
    const name = Uint8Array.from(String(s['name']).padEnd(16).slice(0, 16), (c) => c.charCodeAt(0));
    const body = bytes(
      name,
      ascii(
        `${pad(s, 'set', 1)}${pad(s, 'home.score', 2)}${pad(s, 'away.score', 2)}${pad(s, 'home.sets', 1)}${pad(s, 'away.sets', 1)}${pad(s, 'home.timeouts', 1)}${pad(s, 'away.timeouts', 1)}${String(s['serving'])}`,
      ),
      ascii(String(Math.floor(num(s, 'timeout') / 1000)).padStart(2)),
    );
    return bytes(0x01, body, hex(sum(body)), 0x04);
  },
  happen(s, random) {
    const side = sideOf(random);
    s['serving'] = side === 'home' ? 'H' : 'A';
    add(s, `${side}.score`, 1);
    const other = side === 'home' ? 'away' : 'home';
    if (num(s, `${side}.score`) < 25 || num(s, `${side}.score`) - num(s, `${other}.score`) < 2) return;
    add(s, `${side}.sets`, 1);
    Object.assign(s, { 'home.score': 0, 'away.score': 0, set: Math.min(5, num(s, 'set') + 1) });
    if (num(s, `${side}.sets`) === 3) Object.assign(s, volleyball.start);
  },
};

export const SPORTS: readonly Sport[] = [baseball, gridiron, basketball, hockey, football, volleyball];

/** Clocks that run down while the game's clock runs, those that run by themselves, and one that runs up. */
const DOWN = ['clock', 'shot', 'home.penalty clock', 'away.penalty clock'];
const ALWAYS = ['play', 'pitch', 'timeout'];

/** One sport's controller: a game that its console works, or that plays by itself. */
export class SportGame {
  state: SportState;
  auto: boolean;
  private readonly random: () => number;
  private untilNext = 0;

  constructor(
    readonly sport: Sport,
    auto: boolean,
    seed = 3,
  ) {
    this.state = { ...sport.start, running: auto };
    this.auto = auto;
    this.random = seeded(seed);
  }

  advance(ms: number): void {
    const s = this.state;
    for (const key of [...(s['running'] ? DOWN : []), ...ALWAYS])
      if (key in s) s[key] = Math.max(0, num(s, key) - ms);
    if (s['running'] && 'up' in s) add(s, 'up', ms);
    if (!this.auto) return;
    this.untilNext -= ms;
    if (this.untilNext > 0) return;
    this.untilNext = 2000 + this.random() * 4000;
    this.sport.happen(s, this.random);
    if (s['clock'] === 0) this.state = { ...this.sport.start, running: true };
  }

  /** Presses the button with this label; gives a sentence when there is none. */
  press(label: string): string | null {
    const button = this.sport.buttons.find((b) => b.label === label);
    if (!button) return 'There is no such button.';
    const { key, by } = button;
    const was = this.state[key];
    if (typeof was === 'boolean') this.state[key] = !was;
    else if (key === 'distance') Object.assign(this.state, { down: 1, distance: 10 });
    else if (key.endsWith('clock')) this.state[key] = Number(by);
    else this.state[key] = Math.max(0, Math.min(99, Number(was) + Number(by)));
    return null;
  }
}

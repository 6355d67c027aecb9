import { describe, expect, it } from 'vitest';
import lacrosse from '../../../data/demo/frame-map/lacrosse-console.json' with { type: 'json' };
import patchDoc from '../../../data/demo/patch/controller.json' with { type: 'json' };
import profileDoc from '../../../data/basic/profile/box-lacrosse.json' with { type: 'json' };
import sourceDoc from '../../../data/demo/source/controller.json' with { type: 'json' };
import { seeded } from '../../sim/autopilot.ts';
import { encodeFrame, encodeOtherFrame, encodeShotClock } from '../../sim/frame.ts';
import { newGame, type GameState } from '../../sim/game.ts';
import { CRC16_DEFAULT, crc16 } from '../decode/check.ts';
import { clockForm, findCheck, findFields, findFraming, kindFor } from '../decode/discover.ts';
import type { FrameMap } from '../decode/frame-map.ts';
import { inCheck, Listener, unnamedParts, widened } from '../decode/listen.ts';
import { Parts } from '../decode/parts.ts';
import { likeness, suggestField, suggestRunning } from '../patch/suggest.ts';
import { parseProfile } from '../sport/profile.ts';
import { addressOf, type Transport } from './source.ts';
import { parseBundle } from './bundle.ts';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const join = (parts: Uint8Array[]) => Uint8Array.from(parts.flatMap((p) => [...p]));

const NONE: FrameMap['check'] = { kind: 'none' };

/** What a device says over ten seconds of play, from the middle of a frame on. */
function talk(encode: (s: GameState) => Uint8Array): Uint8Array {
  const state = newGame();
  const frames = Array.from({ length: 60 }, (_, i) => {
    state.clock = 754_300 - i * 100;
    state.shot = 29_900 - i * 100;
    state.running = i % 20 > 3;
    if (i % 15 === 14) state.home.score++;
    if (i % 25 === 24) state.away.score++;
    return encode(state);
  });
  return join(frames).slice(7);
}
const withCrc = (s: GameState) => {
  const body = bytesOf(`#${String(Math.floor(s.clock / 100)).padStart(5, '0')};${s.home.score}`);
  const crc = crc16(body, 0, body.length, CRC16_DEFAULT);
  return Uint8Array.from([0x7e, ...body, crc >> 8, crc & 255, 0x17]);
};

describe('finding the frame of unknown bytes', () => {
  it.each([
    [
      'the lacrosse console',
      encodeFrame,
      { kind: 'delimited', start: [2], end: [3], maxLength: 52 },
      { kind: 'sum8', from: 1, at: -3, as: 'hex' },
    ],
    [
      'the other console',
      encodeOtherFrame,
      { kind: 'delimited', start: [1], end: [4], maxLength: 28 },
      { kind: 'xor', from: 1, at: -3, as: 'hex' },
    ],
  ])('%s: cut and check', (_name, encode, framing, check) => {
    const [best] = findFraming(talk(encode));
    expect(best!.framing).toEqual(framing);
    expect(best!.explains).toBeGreaterThan(0.95);
    expect(findCheck(best!.frames, best!.framing)[0]).toMatchObject(check);
  });
  const lines = (n: number, line: (i: number) => string) =>
    bytesOf(Array.from({ length: n }, (_, i) => line(i)).join('')).slice(3);
  const END = [0x0d, 0x0a];
  it.each<[string, Uint8Array, object, object | null]>([
    [
      'lines of one length that only end',
      talk(encodeShotClock),
      { kind: 'delimited', start: [], end: END, minLength: 7, maxLength: 7 },
      null,
    ],
    [
      'fields by place',
      lines(30, (i) => `CLK,${i % 20},${59 - i},R\r\n`),
      { kind: 'delimited', start: [], end: END },
      { separator: [0x2c] },
    ],
    [
      'fields by name, from a start to an end',
      lines(30, (i) => `\x02T=${9 - (i % 3)}:${10 + i};HS=${i};AS=0\x03`),
      { kind: 'delimited', start: [2], end: [3] },
      { separator: [0x3b], assign: [0x3d] },
    ],
    [
      'few lines, most of one length, which another byte would cut too',
      bytesOf(`..T;CLK=12:34.5\r\nH;PTS=7\r\nA;PTS=9\r\n${'T;CLK=12:35.5\r\n'.repeat(6)}`),
      { kind: 'delimited', start: [], end: END },
      { separator: [0x3b], assign: [0x3d] },
    ],
    [
      'a colon in a clock is no name',
      lines(30, (i) => `1${i}:07|${i}|x\n`),
      { kind: 'delimited', start: [], end: [0x0a] },
      { separator: [0x7c] },
    ],
  ])('%s', (_name, bytes, framing, fields) => {
    const [best] = findFraming(bytes);
    expect(best!.framing).toMatchObject(framing);
    expect(findFields(best!.frames)).toEqual(fields);
  });
  it('takes no digit of a clock for the start of a frame, in characters or packed', () => {
    const ascii = join(Array.from({ length: 40 }, (_, i) => bytesOf(`12:${59 - i}.${i % 10}ab`)));
    const packed = join(
      Array.from({ length: 40 }, (_, i) => {
        const s = 59 - i;
        return Uint8Array.from([0x12, ((s / 10) << 4) | (s % 10), 0xc5, 0xe1]);
      }),
    );
    for (const bytes of [ascii, packed])
      for (const { framing } of findFraming(bytes))
        expect([0x31, 0x32, 0x3a, 0x12]).not.toContain(framing.start[0]);
    expect(findFraming(packed)[0]!.told).toMatch(/^(c5|e1) comes back after every 4 bytes$/);
    // Among numbers any two bytes come by chance: the one that was made to be found comes first.
    const numbers = join(
      Array.from({ length: 50 }, (_, i) =>
        Uint8Array.from([0xf5, 0x12, i % 60, i % 10, i % 7, 1, 4, 1, 0xfa]),
      ),
    );
    expect(findFraming(numbers)[0]!.told).toMatch(/^(f5|fa) comes back after every 9 bytes$/);
  });
  it('a CRC in bytes', () => {
    const frames = Array.from({ length: 9 }, (_, i) => withCrc({ ...newGame(), clock: 9000 * i }));
    const framing = { kind: 'delimited' as const, start: [0x7e], end: [0x17], maxLength: 12 };
    expect(findCheck(frames, framing)).toContainEqual({
      kind: 'crc16',
      from: 1,
      to: -3,
      at: -3,
      as: 'bytes',
      crc: CRC16_DEFAULT,
    });
  });
  it('says nothing of noise, of too little, or of frames too alike to tell', () => {
    const dice = seeded(3);
    const noise = Uint8Array.from({ length: 3000 }, () => dice() * 256);
    expect(findFraming(noise)).toEqual([]);
    expect(findFraming(encodeFrame(newGame()))).toEqual([]);
    expect(
      findCheck([encodeFrame(newGame()), encodeFrame(newGame())], { kind: 'fixed', start: [], length: 52 }),
    ).toEqual([]);
  });
});

describe('listening for a button', () => {
  const frame = (change: (s: GameState) => void) => {
    const s = newGame();
    change(s);
    return new Parts(encodeFrame(s), { framing: { kind: 'fixed', start: [], length: 52 }, check: NONE });
  };
  it('learns what moves by itself, and gives what a button changed as one run', () => {
    const listener = new Listener();
    for (const clock of [45_000, 44_900, 44_800])
      listener.learn(frame((s) => void Object.assign(s, { clock, running: true })));
    expect(listener.runs()).toEqual([]);
    const after = frame((s) => {
      Object.assign(s, { clock: 44_700, running: true });
      s.home.score = 1;
    });
    listener.receive(after);
    const check = { kind: 'sum8', from: 1, to: -3, at: -3, as: 'hex' } as const;
    const runs = listener.runs().filter((r) => !inCheck(r, check, after.bytes.length));
    expect(runs).toEqual([{ offset: 14, length: 1, before: '0', after: '1' }]);
    expect(widened(runs[0]!, after.bytes)).toEqual({ offset: 13, length: 2 });
  });
  it('listens to fields, and to the messages of each address by themselves', () => {
    const map = {
      framing: { kind: 'delimited' as const, start: [], end: [0x0a], maxLength: 40 },
      check: NONE,
      fields: { separator: [0x2c] },
      address: { field: 1 },
    };
    const said = (line: string) => new Parts(bytesOf(`${line}\n`), map);
    const listener = new Listener();
    for (const line of ['C,12:01', 'S,3,10', 'C,12:00', 'S,3,10']) listener.learn(said(line));
    for (const line of ['C,11:59', 'S,4,10', 'P,2']) listener.receive(said(line));
    const runs = listener.runs();
    expect(runs).toEqual([
      { offset: 0, length: 1, before: '', after: 'P', address: 'P', field: 1 },
      { offset: 2, length: 1, before: '3', after: '4', address: 'S', field: 2 },
      { offset: 2, length: 1, before: '', after: '2', address: 'P', field: 2 },
    ]);
    expect(unnamedParts(runs, [{ offset: 0, length: 0, field: 2, address: 'P' }])).toHaveLength(2);
  });
  it('leaves out what has a name already', () => {
    const run = (offset: number, before: string, after: string) => ({
      offset,
      length: before.length,
      before,
      after,
    });
    const clock = { offset: 9, length: 7 };
    expect(unnamedParts([run(13, '2', '1'), run(15, '7030', '4128')], [clock])).toEqual([
      run(16, '030', '128'),
    ]);
    expect(unnamedParts([run(15, '7030', '4128')], [clock, { offset: 17, length: 1 }])).toEqual([
      run(16, '0', '1'),
      run(18, '0', '8'),
    ]);
    expect(unnamedParts([run(3, 'ab', 'cd')], [])).toEqual([run(3, 'ab', 'cd')]);
  });
  it.each([
    ['004001X', { offset: 5, length: 1, before: '0', after: '1' }, { offset: 3, length: 3 }],
    ['4 1', { offset: 2, length: 1, before: '0', after: '1' }, { offset: 1, length: 2 }],
    ['12', { offset: 1, length: 1, before: '1', after: '2' }, { offset: 1, length: 1 }],
    ['  R', { offset: 2, length: 1, before: 'S', after: 'R' }, { offset: 2, length: 1 }],
  ])('in %j a run %o is widened to %o', (text, run, place) =>
    expect(widened(run, bytesOf(text))).toEqual(place),
  );
  it.each([
    [' 5:32', 'clock'],
    ['34.5', 'clock'],
    [' 7', 'integer'],
    ['R', 'text'],
    ['  ', 'text'],
  ])('%j looks like %s', (raw, kind) => expect(kindFor('', raw)).toBe(kind));
  it.each([
    ['shot clock', '24', 'clock'],
    ['Penalty timer', ':34', 'clock'],
    ['home time-outs', '2', 'integer'],
    ['clock', 'ab', 'text'],
    ['game clock', '11565', 'clock'],
    ['game clock', '1199', 'integer'],
    ['total', '1156', 'integer'],
    ['game running', 'S', 'flag'],
    ['horn', '0', 'flag'],
    ['running total', '104', 'integer'],
  ])('called %j, %j is likely to be of the kind %s', (name, raw, kind) =>
    expect(kindFor(name, raw)).toBe(kind),
  );
  it.each([
    ['12:34', {}],
    [' 34.5', {}],
    ['24', {}],
    ['1156', { written: 'digits' }],
    [' 456', { written: 'digits' }],
    ['11565', { written: 'digits', tenths: true }],
    ['1199', null],
    ['119999', null],
    ['', null],
  ])('%j is written as a time by %j', (raw, form) => expect(clockForm(raw)).toEqual(form));
});

describe('suggestions', () => {
  const profile = parseProfile(profileDoc);
  if (!profile.ok) throw new Error(profile.problems.join());
  const suggest = (name: string, fed: string[] = []) =>
    suggestField(name, profile.value.fields, new Set(fed))?.key ?? null;
  it.each([
    ['home score', 'home.score'],
    ['Guest Score', 'away.score'],
    ['game time', 'clock.game'],
    ['shot clock', 'clock.shot'],
    ['quarter', 'situation.period'],
    ['home penalty 2 clock', 'home.penalty2.clock'],
    ['away time-outs', 'away.timeouts'],
    ['temperature', null],
  ])('%s feeds %s', (name, key) => expect(suggest(name)).toBe(key));
  it('leaves out what is fed already, and every demo link is what it would suggest or nothing', () => {
    expect(suggest('home score', ['home.score'])).not.toBe('home.score');
    for (const { reading, field } of patchDoc.links) expect(suggest(reading)).toBe(field);
    expect(likeness('horn', { key: 'x', label: 'Score' })).toBe(0);
  });
});

describe('what says that a clock runs', () => {
  it.each<[string, string[], string | null]>([
    ['game clock', ['game running', 'shot running', 'horn'], 'game running'],
    ['shot clock', ['game running', 'shot running'], 'shot running'],
    ['game clock', ['running', 'horn'], 'running'],
    ['home penalty 1 clock', ['game running', 'shot running'], null],
    ['game clock', ['horn'], null],
    ['game clock', [], null],
  ])('of %s among %j is %s', (reading, flags, wanted) => expect(suggestRunning(reading, flags)).toBe(wanted));
});

describe('parseBundle', () => {
  const good = { schema: 1, source: sourceDoc, map: lacrosse, patch: patchDoc };
  it('reads a source with its map and patch, and gives it back', () => {
    const read = parseBundle(good);
    expect(read).toMatchObject({ ok: true, value: { map: lacrosse, patch: patchDoc } });
    expect(parseBundle(JSON.parse(JSON.stringify(read.ok && read.value)))).toEqual(read);
    expect(parseBundle({ schema: 1, source: { ...sourceDoc, frameMap: null } }).ok).toBe(true);
  });
  it.each<[unknown, string]>([
    ['text', 'not a source'],
    [{ ...good, schema: 2 }, 'not a source'],
    [{ ...good, map: null }, 'not the key of the map'],
    [{ ...good, patch: { ...patchDoc, source: 'other' } }, 'not the source'],
    [
      { ...good, patch: { ...patchDoc, links: [{ reading: 'nope', field: 'home.score' }] } },
      'no reading "nope"',
    ],
    [{ ...good, source: { ...sourceDoc, limits: { late: 900, lost: 900 } } }, 'lost later than it is late'],
    [
      { ...good, source: { ...sourceDoc, transport: { kind: 'tcp', host: 'a b', port: 1 } } },
      'source.transport.host',
    ],
    [
      { ...good, source: { ...sourceDoc, transport: { kind: 'serial', path: 'COM1', baud: 9600 } } },
      '/dev/ttyUSB0',
    ],
  ])('refuses a bundle, case %#', (input, why) => {
    const read = parseBundle(input);
    expect(read.ok || read.problems.join()).toContain(why);
  });
  it.each<[Transport, string]>([
    [{ kind: 'tcp', mode: 'connect', host: 'h', port: 1 }, 'h:1'],
    [{ kind: 'tcp', mode: 'listen', host: 'h', port: 1 }, 'TCP at our h:1'],
    [{ kind: 'udp', host: 'h', port: 1 }, 'UDP at our h:1'],
    [
      { kind: 'serial', path: '/dev/x', baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 },
      '/dev/x at 9600',
    ],
  ])('%o is reached at %s', (transport, text) => expect(addressOf(transport)).toBe(text));
});

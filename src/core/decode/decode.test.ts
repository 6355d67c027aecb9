import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import lacrosse from '../../../data/demo/frame-map/lacrosse-console.json' with { type: 'json' };
import { encodeFrame } from '../../sim/frame.ts';
import { newGame } from '../../sim/game.ts';
import { CRC16_DEFAULT, crc16, sum8, xor8 } from './check.ts';
import { FrameDecoder, newestOf } from './decoder.ts';
import { parseFrameMap, type FrameMap } from './frame-map.ts';
import { RunningCheck } from './running-check.ts';
import { Parts } from './parts.ts';
import { readValue } from './reading.ts';

const bytesOf = (text: string) => new TextEncoder().encode(text);
const mapOf = (input: unknown): FrameMap => {
  const result = parseFrameMap(input);
  if (!result.ok) throw new Error(result.problems.join());
  return result.value;
};
const whole = (bytes: Uint8Array) => new Parts(bytes, console52);
const console52 = mapOf(lacrosse);

describe('checks', () => {
  const nine = bytesOf('123456789');
  // The check values of the catalogue of parametrised CRC algorithms.
  it.each([
    ['IBM-3740', undefined, 0x29b1],
    ['XMODEM', { poly: 0x1021, init: 0, reflect: false, xorOut: 0 }, 0x31c3],
    ['ARC', { poly: 0x8005, init: 0, reflect: true, xorOut: 0 }, 0xbb3d],
    ['X-25', { poly: 0x1021, init: 0xffff, reflect: true, xorOut: 0xffff }, 0x906e],
  ])('CRC-16/%s', (_name, crc, value) => expect(crc16(nine, 0, 9, crc)).toBe(value));
  it('xor and sum', () => {
    expect(xor8(nine)).toBe(0x31);
    expect(sum8(nine)).toBe(0xdd);
  });
});

describe('readValue', () => {
  const frame = bytesOf(' 7 5:32R  x!34.5');
  it.each([
    [{ kind: 'integer', offset: 0, length: 2 }, { value: 7 }],
    [{ kind: 'clock', offset: 2, length: 5 }, { value: { ms: 332_000, step: 1000 } }],
    [{ kind: 'clock', offset: 12, length: 4 }, { value: { ms: 34_500, step: 100 } }],
    [{ kind: 'flag', offset: 7, length: 1, on: 'R', off: 'S' }, { value: true }],
    [
      { kind: 'flag', offset: 10, length: 1, on: 'R', off: 'S' },
      { problem: expect.stringContaining('"R" or "S"') },
    ],
    [{ kind: 'flag', offset: 10, length: 1, on: 'R' }, { value: false }],
    [{ kind: 'integer', offset: 8, length: 2 }, { value: null }],
    [{ kind: 'integer', offset: 8, length: 2, blank: 'zero' }, { value: 0 }],
    [{ kind: 'integer', offset: 10, length: 1 }, { problem: '"x" is not a whole number' }],
    [{ kind: 'text', offset: 10, length: 2 }, { value: 'x!' }],
    [{ kind: 'text', offset: 12, length: 9 }, { problem: expect.stringContaining('ends before') }],
  ])('%o gives %o', (def, wanted) => {
    expect(readValue(whole(frame), { name: 'r', blank: 'blank', ...def } as never)).toMatchObject(wanted);
  });
  const raw = Uint8Array.from([0x12, 0x34, 0xf7, 0xff, 0x00, 0x90, 0x05, 0xe9, 0x35, 0xff, 0xfe]);
  it.each([
    [{ kind: 'bcd', offset: 0, length: 2 }, { value: 1234 }],
    [{ kind: 'bcd', offset: 2, length: 1 }, { value: 7 }],
    [{ kind: 'bcd', offset: 3, length: 1 }, { value: null }],
    [{ kind: 'clock', offset: 0, length: 2, written: 'bcd' }, { value: { ms: 754_000, step: 1000 } }],
    [
      { kind: 'clock', offset: 0, length: 2, written: 'bcd', tenths: true },
      { value: { ms: 83_400, step: 100 } },
    ],
    [{ kind: 'clock', offset: 4, length: 3, written: 'bcd' }, { value: { ms: 5_405_000 } }],
    [{ kind: 'binary', offset: 0, length: 2 }, { value: 0x1234 }],
    [{ kind: 'binary', offset: 0, length: 2, littleEnd: true }, { value: 0x3412 }],
    [{ kind: 'binary', offset: 9, length: 2, signed: true }, { value: -2 }],
    [{ kind: 'binary', offset: 3, length: 1, signed: true }, { value: -1 }],
    [{ kind: 'bit', offset: 0, length: 1, bit: 1 }, { value: true }],
    [{ kind: 'bit', offset: 0, length: 1, bit: 7 }, { value: false }],
    [{ kind: 'text', offset: 7, length: 2, page: 'windows-1252' }, { value: 'é5' }],
    [{ kind: 'text', offset: 7, length: 2 }, { value: '\u00b75' }],
    // Several places, tenths in a byte of their own, digits last first, a byte for each part of a clock.
    [{ kind: 'bcd', offset: 6, length: 1, more: [{ offset: 0, length: 1 }] }, { value: 512 }],
    [
      { kind: 'clock', offset: 0, length: 2, more: [{ offset: 6, length: 1 }], written: 'bcd', tenths: true },
      { value: { ms: 754_500, step: 100 } },
    ],
    [{ kind: 'bcd', offset: 0, length: 2, reversed: true }, { value: 4321 }],
    [{ kind: 'bcd', offset: 0, length: 2, reversed: true, unpacked: true }, { value: 42 }],
    [{ kind: 'clock', offset: 0, length: 2, written: 'bytes' }, { value: { ms: 18 * 60_000 + 52_000 } }],
    [
      {
        kind: 'clock',
        offset: 0,
        length: 2,
        more: [{ offset: 6, length: 1 }],
        written: 'bytes',
        tenths: true,
      },
      { value: { ms: 18 * 60_000 + 52_500, step: 100 } },
    ],
    [{ kind: 'clock', offset: 9, length: 2, written: 'bytes' }, { value: null }],
    [
      { kind: 'clock', offset: 5, length: 1, written: 'bytes' },
      { problem: expect.stringContaining('0:144') },
    ],
  ])('%o of raw bytes gives %o', (def, wanted) => {
    const full = { name: 'r', blank: 'blank', signed: false, littleEnd: false, ...def };
    expect(readValue(whole(raw), full as never)).toMatchObject(wanted);
  });
  it.each([
    ['1234', false, 754_000],
    ['  34', false, 34_000],
    ['12345', true, 754_500],
    ['7', false, 7000],
  ])('a clock written %j without a colon', (text, tenths, ms) => {
    const def = {
      name: 'r',
      kind: 'clock',
      offset: 0,
      length: text.length,
      written: 'digits',
      tenths,
      blank: 'blank',
    };
    expect(readValue(whole(bytesOf(text)), def as never)).toMatchObject({ value: { ms } });
  });
  it.each([
    ['321', { kind: 'integer', offset: 0, length: 3, reversed: true }, 123],
    [
      '12:34x5',
      {
        kind: 'clock',
        offset: 0,
        length: 5,
        more: [{ offset: 6, length: 1 }],
        written: 'digits',
        tenths: true,
      },
      { ms: 754_500, step: 100 },
    ],
  ])('%j by %o is %o', (text, def, value) => {
    const read = readValue(whole(bytesOf(text)), { name: 'r', blank: 'blank', ...def } as never);
    expect(read).toMatchObject({ value });
  });
  it('says nothing where blanks are no word', () => {
    expect(
      readValue(whole(frame), { name: 'r', kind: 'integer', offset: 8, length: 2, blank: 'keep' }),
    ).toBeNull();
  });
});

describe('parseFrameMap', () => {
  const reading = { name: 'a', kind: 'text', offset: 0, length: 2 };
  const good = {
    schema: 1,
    key: 'm',
    name: 'M',
    framing: { kind: 'fixed', length: 4 },
    check: { kind: 'none' },
    readings: [reading],
  };
  it.each([
    [null, 'document'],
    [{ ...good, schema: 2 }, 'schema'],
    [{ ...good, key: 'Not A Key' }, 'key'],
    [{ ...good, framing: { kind: 'fixed', length: 0 } }, 'framing.length'],
    [{ ...good, readings: [{ ...reading, kind: 'guess' }] }, 'readings.0.kind'],
    [{ ...good, readings: [{ ...reading, kind: 'binary', length: 1.5 }] }, 'readings.0.length'],
    [{ ...good, readings: [reading, reading] }, 'twice'],
    [{ ...good, readings: [{ ...reading, offset: 3 }] }, 'outside'],
    [{ ...good, readings: [{ ...reading, more: [{ offset: 3, length: 2 }] }] }, 'outside'],
    [{ ...good, readings: [{ name: 'a', kind: 'text' }] }, 'neither bytes nor a field'],
    [{ ...good, readings: [{ name: 'a', kind: 'text', field: 1 }] }, 'how they are separated'],
    [
      { ...good, fields: { separator: [44] }, readings: [{ name: 'a', kind: 'text', field: 'x' }] },
      'by a name',
    ],
    [{ ...good, readings: [{ ...reading, address: 'S' }] }, 'has an address'],
    [{ ...good, address: { field: 1 } }, 'address: it is a field'],
    [{ ...good, check: { kind: 'crc32', from: 0, to: 1, at: 1, as: 'hex' } }, 'check'],
  ])('refuses %o naming %s', (input, place) => {
    const result = parseFrameMap(input);
    expect(result.ok).toBe(false);
    expect(result.ok || result.problems.join()).toContain(place);
  });
});

describe('FrameDecoder', () => {
  const game = fc
    .record({
      period: fc.integer({ min: 1, max: 9 }),
      clock: fc.integer({ min: 0, max: 900_000 }),
      home: fc.integer({ min: 0, max: 99 }),
      running: fc.boolean(),
    })
    .map(({ period, clock, home, running }) => {
      const state = newGame();
      Object.assign(state, { period, clock, running });
      state.home.score = home;
      return { home, bytes: encodeFrame(state) };
    });
  // Garbage without a start byte: with one in it, what follows may rightly be taken for a frame.
  const garbage = fc.uint8Array({ max: 40 }).map((b) => b.map((x) => (x === 2 ? 7 : x)));
  const split = (bytes: Uint8Array, cuts: number[]) => {
    const at = [...new Set(cuts.map((c) => c % (bytes.length + 1)))].sort((a, b) => a - b);
    return [0, ...at].map((from, i) => bytes.slice(from, at[i] ?? bytes.length));
  };
  const join = (parts: Uint8Array[]) => Uint8Array.from(parts.flatMap((p) => [...p]));

  it('finds every frame in any split, garbage between, and accounts for every byte', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(garbage, game), { maxLength: 8 }),
        garbage,
        fc.array(fc.nat()),
        (parts, tail, cuts) => {
          const stream = join([...parts.flatMap(([g, f]) => [g, f.bytes]), tail]);
          const decoder = new FrameDecoder(console52);
          const frames = split(stream, cuts).flatMap((part) => decoder.push(part));
          const scores = frames.map((f) => f.readings.find((r) => r.name === 'home score')?.value);
          expect(scores).toEqual(parts.map(([, f]) => f.home));
          expect(decoder.counts.good * 52 + decoder.counts.skipped + decoder.pending).toBe(stream.length);
        },
      ),
    );
  });

  it('never throws, holds back one frame at most, and accepts nothing whose check fails', () => {
    const anyMap = fc.constantFrom(
      console52,
      mapOf({ ...lacrosse, framing: { kind: 'fixed', length: 52 } }),
      mapOf({ ...lacrosse, check: { kind: 'crc16', from: 1, to: -3, at: -3, as: 'bytes' } }),
      mapOf({ ...lacrosse, check: { kind: 'xor', from: 0, to: 400, at: 500, as: 'hex' } }),
    );
    const chunk = fc
      .uint8Array({ max: 200 })
      .map((b) => b.map((x) => (x % 5 === 0 ? 2 : x % 7 === 0 ? 3 : x)));
    fc.assert(
      fc.property(anyMap, fc.array(chunk, { maxLength: 12 }), (map, chunks) => {
        const decoder = new FrameDecoder(map);
        let pushed = 0;
        let kept = 0;
        for (const c of chunks) {
          for (const frame of decoder.push(c)) kept += frame.bytes.length;
          pushed += c.length;
          expect(decoder.pending).toBeLessThan(52);
        }
        expect(kept + decoder.counts.skipped + decoder.pending).toBe(pushed);
      }),
    );
  });

  it('finds a good frame that follows one whose end was lost', () => {
    const frame = encodeFrame(newGame());
    const decoder = new FrameDecoder(console52);
    expect(decoder.push(join([frame.slice(0, 20), frame]))).toHaveLength(1);
    expect(decoder.counts).toMatchObject({ good: 1, skipped: 20 });
  });

  it('counts a frame whose check fails, and forgets half a frame on reset', () => {
    const frame = encodeFrame(newGame());
    const bad = frame.slice();
    bad[13] = 0x39;
    const decoder = new FrameDecoder(console52);
    decoder.push(bad);
    expect(decoder.counts.badChecks).toBe(1);
    decoder.push(frame.slice(0, 30));
    decoder.reset();
    expect(decoder.pending).toBe(0);
    expect(decoder.counts.skipped).toBe(82);
  });

  it.each<[string, object, object, number]>([
    ['starts without end', { kind: 'delimited', start: [2], end: [3], maxLength: 4096 }, { kind: 'none' }, 2],
    [
      'ends without a good frame',
      { kind: 'delimited', start: [2], end: [2], maxLength: 4096 },
      { kind: 'xor', from: 0, to: 0, at: -1, as: 'bytes' },
      2,
    ],
    [
      'lengths whose CRC is wrong everywhere',
      { kind: 'fixed', start: [2], length: 4096 },
      { kind: 'crc16', from: 0, to: -2, at: -2, as: 'bytes' },
      2,
    ],
  ])(
    'looks at each byte a few times at most: %s',
    (_, framing, check, byte) => {
      const decoder = new FrameDecoder(
        mapOf({ ...lacrosse, framing, check, readings: [], sample: undefined }),
      );
      // A time would hang on the machine; 2 MB took over two minutes when each start was followed to its end.
      const flood = new Uint8Array(2_000_000).fill(byte);
      for (let at = 0; at < flood.length; at += 65_536) decoder.push(flood.subarray(at, at + 65_536));
      expect(decoder.counts.skipped + decoder.pending).toBeGreaterThan(1_900_000);
    },
    20_000,
  );

  it('finds the check of any stretch as it is found alone', () => {
    const crcs = [CRC16_DEFAULT, { poly: 0x8005, init: 0xffff, reflect: true, xorOut: 0x1234 }];
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 1, maxLength: 300 }), fc.nat(), fc.nat(), (bytes, a, b) => {
        const [from, to] = [a % bytes.length, b % bytes.length].sort((x, y) => x - y) as [number, number];
        for (const crc of crcs) {
          const running = new RunningCheck('crc16', crc);
          running.take(bytes, 0, bytes.length);
          expect(running.over(from, to)).toBe(crc16(bytes, from, to, crc));
        }
        const [sum, xor] = [new RunningCheck('sum8', undefined), new RunningCheck('xor', undefined)];
        for (const r of [sum, xor]) r.take(bytes, 0, bytes.length);
        expect([sum.over(from, to), xor.over(from, to)]).toEqual([
          sum8(bytes, from, to),
          xor8(bytes, from, to),
        ]);
      }),
    );
  });

  describe('lines that only end', () => {
    const named = mapOf({
      schema: 1,
      key: 'lines',
      name: 'Lines',
      framing: { kind: 'delimited', start: [], end: [13, 10], maxLength: 24 },
      check: { kind: 'none' },
      fields: { separator: [44], assign: [61] },
      address: { field: 1 },
      readings: [
        { name: 'clock', kind: 'clock', field: 2, address: 'T' },
        { name: 'home', kind: 'integer', field: 'H', address: 'S' },
        { name: 'away', kind: 'integer', field: 'A', address: 'S' },
      ],
    });
    const heard = (map: FrameMap, midway: boolean, ...parts: string[]) => {
      const decoder = new FrameDecoder(map, midway);
      const frames = parts.flatMap((p) => decoder.push(bytesOf(p)));
      return { decoder, frames, said: frames.map((f) => f.readings.map((r) => r.value ?? r.problem)) };
    };
    const clock = { ms: 754_000, step: 1000 };
    it('are cut into fields by place and by name; a field that is missing has no word or says so', () => {
      const { said } = heard(named, false, 'T,12', ':34\r\nS,H=7,A', '=12\r\nS,A=13\r\n\r\nT\r\nX,1\r\n');
      expect(said).toEqual([[clock], [7, 12], [13], ['the frame has no field 2'], []]);
    });
    it('begin at the first end where the bytes begin midway, and after one that is too long', () => {
      const long = `T,${'9'.repeat(40)}\r\n`;
      expect(heard(named, true, '34\r\nS,H=1\r\n').said).toEqual([[1]]);
      for (const parts of [
        [long, 'S,H=2\r\n'],
        [...long, ...'S,H=2\r\n'],
      ]) {
        const { said, decoder } = heard(named, false, ...parts);
        expect(said).toEqual([[2]]);
        expect(decoder.counts).toMatchObject({ good: 1, skipped: long.length });
      }
    });
    it('go whole where their check fails, and the check is no field', () => {
      const map = mapOf({
        ...named,
        check: { kind: 'xor', from: 0, to: -5, at: -4, as: 'hex' },
        framing: { ...named.framing, maxLength: 40 },
      });
      const line = (body: string) => `${body}*${xor8(bytesOf(body)).toString(16).padStart(2, '0')}\r\n`;
      const { said, decoder } = heard(
        map,
        true,
        line('S,A=4'),
        line('S,A=5').replace('5', '6'),
        line('S,A=7'),
      );
      expect(said).toEqual([[4], [7]]);
      expect(decoder.counts).toMatchObject({ good: 2, badChecks: 1 });
    });
    it('that come together say the newest of each address, however far back', () => {
      const many = `S,H=3\r\nS,H=4\r\n${'T,12:34\r\n'.repeat(500)}`;
      const { frames } = heard(named, false, many);
      const newest = Object.fromEntries(newestOf(frames, named).map((r) => [r.name, r.value]));
      expect(newest).toEqual({ clock, home: 4 });
    });
  });

  it('takes no printable garbage for the demo console, whose frames have their length and their first three bytes', () => {
    const decoder = new FrameDecoder(console52);
    let seed = 7;
    const next = () => (seed = (seed * 1103515245 + 12345) % 2147483648) / 2147483648;
    for (let i = 0; i < 40; i++)
      decoder.push(
        Uint8Array.from(
          { length: 50_000 },
          () => [2, 3, 32 + Math.floor(next() * 95)][Math.min(2, Math.floor(next() * 60))]!,
        ),
      );
    expect(decoder.counts.good).toBe(0);
  });
});
